#include "app/deliver/home_card.h"

#include <numeric>

namespace glyptos {

HomeCard::HomeCard(QWidget* parent)
    : QWidget(parent) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(18, 14, 18, 16);
    column->setSpacing(9);
    column->addWidget(heading(tr("At home")));
    auto* form = new QFormLayout;
    form->setVerticalSpacing(7);
    paper_ = new QComboBox;
    paper_->setAccessibleName(tr("Paper"));
    paper_->addItems({tr("A4"), tr("Letter")});
    duplex_ = new QComboBox;
    duplex_->setAccessibleName(tr("Both sides"));
    duplex_->addItems(
        {tr("one side"), tr("both, turned over the long edge"), tr("both, turned over the short edge")});
    FieldUnit count = {};
    count.decimals = 0, count.least = 1, count.most = 100;
    copies_ = new NumberField(tr("Copies"), count);
    copies_->setValue(1);
    FieldUnit mm = {};
    mm.suffix = QStringLiteral("mm"), mm.decimals = 0, mm.least = 0, mm.most = 80, mm.length = true;
    overlap_ = new NumberField(tr("Overlap of tiles"), mm);
    overlap_->setValue(HomePaper{}.overlap);
    form->addRow(roleLabel(tr("Paper"), "soft"), paper_);
    form->addRow(roleLabel(tr("Prints"), "soft"), duplex_);
    form->addRow(new FieldLabel(tr("Copies"), copies_), copies_);
    form->addRow(new FieldLabel(tr("Overlap"), overlap_), overlap_);
    column->addLayout(form);
    column->addWidget(said_ = roleLabel(QString(), "soft"));
    said_->setAccessibleName(tr("Paper that is needed"));
    print_ = new QPushButton(tr("Save for a home printer…"));
    connect(print_, &QPushButton::clicked, this, &HomeCard::printAsked);
    svg_ = new QPushButton(tr("Cut paths, SVG…"));
    dxf_ = new QPushButton(tr("Cut paths, DXF…"));
    connect(svg_, &QPushButton::clicked, this, [this] { Q_EMIT cutsAsked(QStringLiteral(".svg")); });
    connect(dxf_, &QPushButton::clicked, this, [this] { Q_EMIT cutsAsked(QStringLiteral(".dxf")); });
    column->addWidget(print_);
    column->addWidget(inOneRow({svg_, dxf_}));
    for (QComboBox* box : {paper_, duplex_}) connect(box, &QComboBox::activated, this, &HomeCard::refresh);
    for (NumberField* field : {copies_, overlap_})
        connect(field, &NumberField::edited, this, &HomeCard::refresh);
}

void HomeCard::setPiece(const Piece& piece) {
    flat_ = piece.flat;
    refresh();
}

void HomeCard::setBusy(bool busy) {
    for (QPushButton* button : {print_, svg_, dxf_}) button->setEnabled(!busy);
}

HomeOptions HomeCard::options() const {
    HomeOptions out;
    out.paper = paper_->currentIndex() == 0 ? kA4 : kLetter;
    out.paper.duplex = static_cast<Duplex>(duplex_->currentIndex());
    out.paper.copies = int(copies_->value());
    out.paper.overlap = overlap_->value();
    return out;
}

/// How many pages it will be, before it is written.
void HomeCard::refresh() {
    if (!flat_) return;
    std::vector<size_t> sheets(flat_->sheets.size());
    std::iota(sheets.begin(), sheets.end(), size_t(0));
    const auto pages = planHome(*flat_, sheets, options().paper);
    const auto tiles = std::count_if(pages.begin(), pages.end(), [](const HomePage& p) { return p.tile; });
    const QString paper = paper_->currentText();
    said_->setText(
        tiles > 0 ? tr("Pages of %1: %2, of them tiles to be glued: %3. A ruler on each proves the scale.")
                        .arg(paper)
                        .arg(pages.size())
                        .arg(tiles)
                  : tr("Pages of %1: %2. A ruler on each proves the scale.").arg(paper).arg(pages.size()));
}

} // namespace glyptos
