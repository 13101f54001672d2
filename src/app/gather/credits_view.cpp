#include "app/gather/credits_view.h"

#include "app/session/words.h"
#include "app/widgets/form_rows.h"
#include "app/widgets/theme.h"
#include "file/disk/atomic_file.h"
#include "release/edits/edits.h"

#include <QFileDialog>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QVBoxLayout>

namespace glyptos {
namespace {

QString names(const std::vector<std::string>& pieces) {
    QStringList out;
    for (const std::string& p : pieces) out << q(p);
    return out.join(QStringLiteral(", "));
}

} // namespace

void CreditsModel::show(const Release& release) {
    beginResetModel();
    rows_ = creditsOf(release);
    endResetModel();
}

int CreditsModel::rowCount(const QModelIndex& parent) const {
    return parent.isValid() ? 0 : int(rows_.size());
}

QVariant CreditsModel::data(const QModelIndex& index, int role) const {
    const CreditRow& row = rows_[size_t(index.row())];
    const SourceFacts& facts = row.source->facts;
    const bool missing = index.column() == Maker && row.makerMissing;
    if (role == Qt::ForegroundRole && missing) return theme().fault;
    if (role == Qt::ToolTipRole)
        return missing ? tr("Whose is it? Double-click to say so.") : q(row.source->name);
    if (role != Qt::DisplayRole && role != Qt::EditRole) return {};
    switch (index.column()) {
    case Title:
        return facts.title.empty() ? q(row.source->name) : q(facts.title);
    case Maker:
        return missing && role == Qt::DisplayRole ? tr("not known") : q(facts.maker);
    case Licence:
        return q(facts.licence);
    case Line:
        return role == Qt::EditRole ? q(facts.credit) : q(row.line);
    default:
        return names(row.pieces);
    }
}

QVariant CreditsModel::headerData(int section, Qt::Orientation orientation, int role) const {
    if (orientation != Qt::Horizontal || role != Qt::DisplayRole) return {};
    const QString heads[] = {tr("Picture"), tr("Maker"), tr("Licence"), tr("Credit line"), tr("On")};
    return heads[section];
}

Qt::ItemFlags CreditsModel::flags(const QModelIndex& index) const {
    return QAbstractTableModel::flags(index) | (index.column() == On ? Qt::NoItemFlags : Qt::ItemIsEditable);
}

bool CreditsModel::setData(const QModelIndex& index, const QVariant& value, int role) {
    if (role != Qt::EditRole) return false;
    const CreditRow& row = rows_[size_t(index.row())];
    SourceFacts facts = row.source->facts;
    std::string SourceFacts::*const members[] = {&SourceFacts::title, &SourceFacts::maker,
                                                 &SourceFacts::licence, &SourceFacts::credit};
    facts.*members[index.column()] = value.toString().trimmed().toStdString();
    Q_EMIT factsEdited(std::string(row.source->id), facts);
    return true;
}

CreditsView::CreditsView(QWidget* parent)
    : QWidget(parent)
    , model_(new CreditsModel(this)) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(20, 14, 20, 14);
    column->setSpacing(8);
    column->addWidget(roleLabel(tr("Credits"), "title"));
    column->addWidget(says_ = roleLabel(QString(), "soft"));
    table_ = new QTableView;
    table_->setModel(model_);
    table_->setAccessibleName(tr("Pictures in use"));
    table_->setShowGrid(false);
    table_->verticalHeader()->hide();
    table_->verticalHeader()->setDefaultSectionSize(27);
    table_->setSelectionBehavior(QAbstractItemView::SelectRows);
    table_->horizontalHeader()->setDefaultAlignment(Qt::AlignLeft | Qt::AlignVCenter);
    table_->horizontalHeader()->setSectionResizeMode(CreditsModel::Line, QHeaderView::Stretch);
    const std::pair<int, int> widths[] = {{CreditsModel::Title, 170},
                                          {CreditsModel::Maker, 130},
                                          {CreditsModel::Licence, 120},
                                          {CreditsModel::On, 200}};
    for (const auto& [section, width] : widths) table_->setColumnWidth(section, width);
    column->addWidget(table_, 3);
    column->addWidget(heading(tr("The block to print")));
    text_ = new QPlainTextEdit;
    text_->setReadOnly(true);
    text_->setAccessibleName(tr("Credits as text"));
    column->addWidget(text_, 1);
    put_ = new QPushButton;
    put_->setProperty("role", "main");
    put_->setToolTip(tr("As words that follow the ledger"));
    write_ = new QPushButton(tr("Write as text or CSV…"));
    connect(put_, &QPushButton::clicked, this, &CreditsView::putOnPiece);
    connect(write_, &QPushButton::clicked, this, &CreditsView::askWrite);
    auto* buttons = new QHBoxLayout;
    buttons->addWidget(put_);
    buttons->addWidget(write_);
    buttons->addStretch();
    column->addLayout(buttons);
    connect(model_, &CreditsModel::factsEdited, this, &CreditsView::factsEdited);
}

void CreditsView::setDocument(Document* document) {
    if (document_) document_->disconnect(this);
    document_ = document;
    connect(document_, &Document::changed, this, &CreditsView::refresh);
    connect(document_, &Document::selectionChanged, this, &CreditsView::refresh);
    refresh();
}

void CreditsView::showEvent(QShowEvent*) {
    refresh();
}

void CreditsView::refresh() {
    if (!isVisible()) return;
    model_->show(*document_->shown());
    int missing = 0;
    for (const CreditRow& row : model_->rows()) missing += row.makerMissing;
    const bool any = !model_->rows().empty();
    says_->setText(!any ? tr("No piece shows a picture yet.")
                   : missing > 0
                       ? tr("Pictures in use: %1. The maker is not known of: %2.")
                             .arg(model_->rows().size())
                             .arg(missing)
                       : tr("Pictures in use: %1, each with its maker.").arg(model_->rows().size()));
    setRole(says_, missing > 0 ? "caution" : "soft");
    text_->setPlainText(q(creditText(*document_->shown())));
    const PiecePtr piece = document_->release()->piece(document_->piecePanel().piece);
    put_->setText(piece ? tr("Put it on %1").arg(q(piece->name)) : tr("Put it on a piece"));
    put_->setEnabled(piece && any);
    write_->setEnabled(any);
}

void CreditsView::putOnPiece() {
    const PanelRef at = document_->piecePanel();
    const PiecePtr piece = document_->release()->piece(at.piece);
    const Panel* panel = piece ? piece->flat->panel(at.panel) : nullptr;
    if (!panel) return;
    const Rect area = panel->safeArea().value_or(panel->trim());
    TextContent text;
    text.spec.text = "{credits}";
    text.spec.letters.size = std::min(area.w, area.h) / 45;
    text.spec.frame = InArea{area.w, 0};
    Layer layer;
    layer.name = tr("Credits").toStdString();
    layer.content = text;
    layer.placement.position = {area.x, area.bottom() -
                                            text.spec.letters.size * 1.25 * double(model_->rows().size())};
    const Made made = withLayer(document_->release(), at, layer);
    document_->edit(tr("Credits on %1").arg(q(piece->name)), made.release);
    document_->selectPanel(at);
    document_->selectLayer(made.id);
    Q_EMIT placed();
}

void CreditsView::askWrite() {
    const QString file =
        QFileDialog::getSaveFileName(this, tr("Write the credits"), QStringLiteral("credits.txt"),
                                     tr("Text (*.txt);;Comma-separated (*.csv)"));
    if (!file.isEmpty()) writeTo(file);
}

void CreditsView::writeTo(const QString& file) {
    const std::string text = file.endsWith(QStringLiteral(".csv")) ? creditTable(*document_->release())
                                                                   : creditText(*document_->release()) + "\n";
    if (auto written =
            writeFile(file.toStdString(), {reinterpret_cast<const uint8_t*>(text.data()), text.size()});
        !written)
        Q_EMIT told(q(written.error().message));
}

} // namespace glyptos
