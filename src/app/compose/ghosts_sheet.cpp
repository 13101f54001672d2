#include "app/compose/ghosts_sheet.h"

#include "app/figures/layer_section.h"
#include "release/edits/edits.h"

#include <QVBoxLayout>

namespace glyptos {

GhostsSheet::GhostsSheet(Document& document, const Panel* panel, QWidget* parent)
    : QDialog(parent)
    , document_(document) {
    setAttribute(Qt::WA_DeleteOnClose);
    setWindowTitle(tr("Ghosts"));
    const PiecePtr piece = document.piece();
    const FieldUnit length = lengthUnitOf(piece.get());
    const double step = panel ? std::max(panel->trim().w, panel->trim().h) / 40 : 10;
    count_ = new NumberField(tr("How many"), plainUnit(QString(), 0, 1, 1, 200));
    across_ = new NumberField(tr("Step across"), length);
    down_ = new NumberField(tr("Step down"), length);
    fade_ = new NumberField(tr("Opacity of each next one"), plainUnit(QStringLiteral("%"), 0, 5, 1, 100));
    count_->setValue(5);
    across_->setValue(step);
    down_->setValue(0);
    fade_->setValue(70);
    auto* column = new QVBoxLayout(this);
    column->addWidget(roleLabel(
        tr("Copies behind the layer, each a step further and fainter than the one before."), "soft"));
    auto* form = new QFormLayout;
    form->addRow(new FieldLabel(tr("How many"), count_), count_);
    form->addRow(new FieldLabel(tr("Step across"), across_), across_);
    form->addRow(new FieldLabel(tr("Step down"), down_), down_);
    form->addRow(new FieldLabel(tr("Opacity"), fade_), fade_);
    column->addLayout(form);
    auto* make = new QPushButton(tr("Make them"));
    make->setProperty("role", "main");
    auto* leave = new QPushButton(tr("Cancel"));
    // Return in a field sets its figure and no more.
    for (QPushButton* button : {leave, make}) button->setAutoDefault(false);
    column->addWidget(inOneRow({leave, make}));
    connect(make, &QPushButton::clicked, this, &GhostsSheet::accept);
    connect(leave, &QPushButton::clicked, this, &GhostsSheet::reject);
    for (NumberField* field : {count_, across_, down_, fade_})
        connect(field, &NumberField::edited, this, &GhostsSheet::look);
    look();
}

ReleasePtr GhostsSheet::made() const {
    ReleasePtr next = document_.release();
    for (const std::string& layer : document_.layers())
        next = withGhosts(next, document_.panel(), layer,
                          {int(count_->value()), {across_->value(), down_->value()}, fade_->value() / 100});
    return next;
}

void GhostsSheet::look() {
    document_.preview(made());
}

void GhostsSheet::accept() {
    const LayerPtr layer = document_.selectedLayer();
    document_.edit(tr("Ghosts of %1").arg(layer ? QString::fromStdString(layer->name) : QString()), made());
    QDialog::accept();
}

void GhostsSheet::reject() {
    document_.preview(nullptr);
    QDialog::reject();
}

} // namespace glyptos
