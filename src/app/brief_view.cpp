#include "app/brief_view.h"

#include "app/form_rows.h"
#include "release/fields.h"

#include <QHBoxLayout>
#include <QHeaderView>
#include <QVBoxLayout>
#include <map>

namespace glyptos {

BriefView::BriefView(Engine& engine, RenderService& service, QWidget* parent)
    : QWidget(parent) {
    auto* all = new QHBoxLayout(this);
    all->setContentsMargins(0, 0, 0, 0);
    all->setSpacing(0);
    auto* left = new QWidget;
    left->setFixedWidth(480);
    auto* column = new QVBoxLayout(left);
    column->setContentsMargins(20, 16, 20, 14);
    column->setSpacing(9);
    column->addWidget(roleLabel(tr("Brief"), "title"));
    column->addWidget(roleLabel(tr("These words live here once and flow into every piece."), "soft"));
    auto* form = new QFormLayout;
    form->setHorizontalSpacing(12);
    form->setVerticalSpacing(7);
    field(tr("Artist"), &Brief::artist, form);
    field(tr("Title"), &Brief::title, form);
    field(tr("Label"), &Brief::label, form);
    field(tr("Catalogue number"), &Brief::catalogue, form);
    field(tr("Year"), &Brief::year, form);
    column->addLayout(form);
    column->addSpacing(6);
    column->addWidget(heading(tr("Track list")));
    tracks_ = new TrackModel(this);
    table_ = new QTableView;
    table_->setAccessibleName(tr("Track list"));
    table_->setModel(tracks_);
    table_->verticalHeader()->hide();
    table_->verticalHeader()->setDefaultSectionSize(27);
    table_->setShowGrid(false);
    table_->setSelectionBehavior(QAbstractItemView::SelectRows);
    table_->setEditTriggers(QAbstractItemView::DoubleClicked | QAbstractItemView::EditKeyPressed |
                            QAbstractItemView::AnyKeyPressed);
    table_->horizontalHeader()->setSectionResizeMode(2, QHeaderView::Stretch);
    table_->horizontalHeader()->setDefaultAlignment(Qt::AlignLeft | Qt::AlignVCenter);
    table_->setColumnWidth(0, 46);
    table_->setColumnWidth(1, 50);
    table_->setColumnWidth(3, 74);
    column->addWidget(table_, 1);
    auto* add = new QPushButton(tr("Add track"));
    auto* remove = new QPushButton(tr("Remove"));
    auto* up = new QPushButton(tr("Earlier"));
    auto* down = new QPushButton(tr("Later"));
    const auto row = [this] { return table_->currentIndex().row(); };
    connect(add, &QPushButton::clicked, this, [this] {
        tracks_->addTrack();
        const QModelIndex title = tracks_->index(tracks_->rowCount() - 1, 2);
        table_->setCurrentIndex(title);
        table_->edit(title);
    });
    connect(remove, &QPushButton::clicked, this, [this, row] { tracks_->removeTrack(row()); });
    connect(up, &QPushButton::clicked, this, [this, row] {
        tracks_->moveTrack(row(), -1);
        table_->selectRow(std::max(0, row() - 1));
    });
    connect(down, &QPushButton::clicked, this, [this, row] {
        tracks_->moveTrack(row(), 1);
        table_->selectRow(std::min(tracks_->rowCount() - 1, row() + 1));
    });
    column->addWidget(inOneRow({add, remove, up, down}));
    column->addWidget(totals_ = roleLabel(QString(), "soft"));
    all->addWidget(left);
    all->addWidget(sheet_ = new PieceSheet(engine, service), 1);
    connect(sheet_, &PieceSheet::pieceChosen, this, &BriefView::pieceChosen);
    connect(tracks_, &TrackModel::notUnderstood, this,
            [this](const QString& sentence) { Q_EMIT document_->refused(sentence); });
}

QLineEdit* BriefView::field(const QString& label, std::string Brief::*member, QFormLayout* form) {
    auto* edit = new QLineEdit;
    edit->setAccessibleName(label);
    QLabel* caption = roleLabel(label, "soft");
    caption->setBuddy(edit);
    form->addRow(caption, edit);
    fields_.emplace_back(edit, member);
    connect(edit, &QLineEdit::textEdited, this, [this, label, member](const QString& text) {
        Brief brief = document_->release()->brief;
        brief.*member = text.toStdString();
        document_->edit(tr("%1 in the brief").arg(label), withBrief(document_->release(), std::move(brief)),
                        QStringLiteral("brief ") + label);
    });
    connect(edit, &QLineEdit::editingFinished, this, [this] { document_->settle(); });
    return edit;
}

void BriefView::setDocument(Document* document) {
    if (document_) document_->disconnect(this);
    document_ = document;
    tracks_->setDocument(document);
    sheet_->setDocument(document);
    connect(document_, &Document::changed, this, &BriefView::refresh);
    refresh();
}

void BriefView::refresh() {
    const Brief& brief = document_->shown()->brief;
    for (const auto& [edit, member] : fields_) {
        const QString now = QString::fromStdString(brief.*member);
        if (edit->text() != now) edit->setText(now);
    }
    std::map<std::string, int> sides;
    int total = 0;
    for (const Track& t : brief.tracks) sides[t.side] += t.seconds, total += t.seconds;
    QStringList parts;
    for (const auto& [side, seconds] : sides)
        if (!side.empty())
            parts << tr("Side %1 %2")
                         .arg(QString::fromStdString(side), QString::fromStdString(durationText(seconds)));
    parts << (brief.tracks.empty() ? tr("No tracks yet")
              : total == 0         ? tr("Tracks %1, lengths not known").arg(brief.tracks.size())
                                   : tr("Tracks %1, %2 in all")
                                 .arg(brief.tracks.size())
                                 .arg(QString::fromStdString(durationText(total))));
    totals_->setText(parts.join(QStringLiteral("  ·  ")));
}

} // namespace glyptos
