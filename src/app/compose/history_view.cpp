#include "app/compose/history_view.h"

#include "app/session/document.h"
#include "app/session/engine.h"
#include "app/session/words.h"
#include "app/widgets/theme.h"
#include "release/edits/edits.h"

#include <QVBoxLayout>

namespace glyptos {
namespace {

constexpr int kSide = 30; // px of a miniature
constexpr int kMostMiniatures = 400;

} // namespace

void HistoryModel::setDocument(Document* document) {
    document_ = document;
    miniatures_.clear();
    refresh();
}

void HistoryModel::refresh() {
    beginResetModel();
    rows_.clear();
    const History& history = document_->history();
    for (size_t i = 0; i < history.steps().size(); ++i) {
        rows_.push_back({i, std::nullopt});
        for (size_t b = 0; b < history.left().size(); ++b)
            if (history.left()[b].from == i) rows_.push_back({i, b});
    }
    if (miniatures_.size() > kMostMiniatures) miniatures_.clear();
    endResetModel();
}

void HistoryModel::renew() {
    miniatures_.clear();
    if (!rows_.empty()) Q_EMIT dataChanged(index(0), index(rowCount() - 1), {Qt::DecorationRole});
}

int HistoryModel::rowCount(const QModelIndex& parent) const {
    return parent.isValid() ? 0 : int(rows_.size());
}

int HistoryModel::current() const {
    for (size_t i = 0; i < rows_.size(); ++i)
        if (!rows_[i].left && rows_[i].step == document_->history().position()) return int(i);
    return 0;
}

const HistoryStep& HistoryModel::stepOf(const Row& row) const {
    const History& history = document_->history();
    return row.left ? history.left()[*row.left].steps.back() : history.steps()[row.step];
}

QPixmap HistoryModel::miniature(const Row& row) const {
    const ReleasePtr release = stepOf(row).release;
    const PanelRef& ref = document_->panel();
    auto& made = miniatures_[{release, ref.piece + "/" + ref.panel}];
    if (!made) {
        made = std::make_unique<Miniature>(service_);
        const PiecePtr piece = release->piece(ref.piece);
        const Panel* panel = piece ? piece->flat->panel(ref.panel) : nullptr;
        if (panel) {
            auto [scene, region] = fittedScene(release, ref, panel->trim(), {kSide, kSide});
            made->ask(4, std::move(scene), region);
            connect(made.get(), &Miniature::arrived, this, [this] {
                auto* self = const_cast<HistoryModel*>(this);
                Q_EMIT self->dataChanged(index(0), index(rowCount() - 1), {Qt::DecorationRole});
            });
        }
    }
    QPixmap out(kSide, kSide);
    out.fill(theme().bench);
    if (!made->image().isNull()) out = QPixmap::fromImage(made->image());
    return out;
}

QVariant HistoryModel::data(const QModelIndex& index, int role) const {
    if (!index.isValid() || index.row() >= int(rows_.size())) return {};
    const Row& row = rows_[size_t(index.row())];
    const History& history = document_->history();
    if (role == Qt::DisplayRole) {
        if (!row.left) return q(stepOf(row).name);
        const auto count = history.left()[*row.left].steps.size();
        return tr("left: %1 (%2 steps)").arg(q(stepOf(row).name)).arg(count);
    }
    if (role == Qt::ToolTipRole && row.left)
        return tr("What was undone and then left. It can be kept as a take of the piece in hand.");
    if (role == Qt::DecorationRole) return miniature(row);
    const bool ahead = row.step > history.position();
    if (role == Qt::ForegroundRole && (ahead || row.left)) return theme().softInk;
    if (role == Qt::FontRole) {
        QFont font = uiFont(12, !row.left && row.step == history.position() ? 600 : 400);
        font.setItalic(row.left.has_value());
        return font;
    }
    return {};
}

HistoryView::HistoryView(Engine& engine, RenderService& service)
    : model_(new HistoryModel(service, this)) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(9, 0, 9, 6);
    column->setSpacing(6);
    column->addWidget(list_ = new QListView);
    list_->setAccessibleName(tr("Steps of this session"));
    list_->setModel(model_);
    list_->setIconSize({kSide, kSide});
    list_->setUniformItemSizes(true);
    list_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    list_->setTextElideMode(Qt::ElideRight);
    column->addWidget(keep_ = new QPushButton(tr("Keep as a take")));
    keep_->setToolTip(tr("The end of the branch that was left becomes a new take of its piece"));
    connect(&engine, &Engine::pictureReady, model_, &HistoryModel::renew);
    connect(list_, &QListView::clicked, this, &HistoryView::go);
    connect(list_, &QListView::activated, this, &HistoryView::go);
    connect(
        list_->selectionModel(), &QItemSelectionModel::currentChanged, this,
        [this](const QModelIndex& now) { keep_->setEnabled(now.isValid() && model_->row(now.row()).left); });
    connect(keep_, &QPushButton::clicked, this, &HistoryView::keepBranch);
}

void HistoryView::setDocument(Document* document) {
    if (document_) document_->disconnect(this);
    document_ = document;
    model_->setDocument(document);
    connect(document_, &Document::historyChanged, this, &HistoryView::refresh);
    connect(document_, &Document::selectionChanged, this, &HistoryView::refresh);
    refresh();
}

void HistoryView::refresh() {
    model_->refresh();
    const QModelIndex now = model_->index(model_->current());
    list_->setCurrentIndex(now);
    list_->scrollTo(now);
    keep_->setEnabled(false);
}

void HistoryView::go(const QModelIndex& index) {
    if (!index.isValid()) return;
    const HistoryModel::Row row = model_->row(index.row());
    if (!row.left) document_->go(row.step);
}

/// The takes of the pieces as the branch had them at its end: of the piece in hand, whichever was current.
void HistoryView::keepBranch() {
    const QModelIndex index = list_->currentIndex();
    if (!index.isValid() || !model_->row(index.row()).left) return;
    const LeftBranch& branch = document_->history().left()[*model_->row(index.row()).left];
    const ReleasePtr left = branch.steps.back().release;
    const PiecePtr piece = left->piece(document_->panel().piece);
    if (!piece) return;
    ReleasePtr next = document_->release();
    for (const SourcePtr& source : left->sources) next = withSource(next, source);
    const Made kept = withTakeFrom(next, piece->id, piece->take());
    document_->edit(tr("Keep a branch as take %1").arg(q(kept.id)), kept.release);
}

} // namespace glyptos
