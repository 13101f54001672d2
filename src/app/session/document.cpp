#include "app/session/document.h"

#include "app/session/background.h"
#include "app/session/memory_budget.h"
#include "file/xdg_folders.h"
#include "release/edits/edits.h"
#include "release/walks.h"

#include <QFutureWatcher>
#include <algorithm>

namespace glyptos {

Document::Document(const ReleasePtr& release, std::filesystem::path file, QObject* parent)
    : Document(History(release), release, std::move(file), parent) {}

Document::Document(History history, ReleasePtr saved, std::filesystem::path file, QObject* parent)
    : QObject(parent)
    , history_(std::move(history))
    , memory_(std::make_shared<HistoryMemory>(installedMemory() / 100 * size_t(memoryShare()) / 4,
                                              [] { return TileFile::in(cacheHome() / "glyptos"); }))
    , saved_(std::move(saved))
    , file_(std::move(file)) {
    memory_->add(*release());
    mendInHand();
}

void Document::rememberPast(const History& past) {
    history_.prepend(past);
    Q_EMIT historyChanged();
}

void Document::tidyMemory() {
    memory_->add(*release());
    if (isTidying_) return;
    const std::vector<PixelTilePtr> excess = memory_->excess(*release());
    if (excess.empty()) return;
    isTidying_ = true;
    auto* putting = new QFutureWatcher<Result<bool>>(this);
    connect(putting, &QFutureWatcherBase::finished, this, [this, putting] {
        putting->deleteLater();
        // A disk that is full is tried again later; until then the pixels stay in memory.
        isTidying_ = false;
    });
    putting->setFuture(inBackground([excess, memory = memory_]() -> Result<bool> {
        return HistoryMemory::putAway(excess, memory->file());
    }));
}

void Document::edit(const QString& name, ReleasePtr next, const QString& merge) {
    const bool same = next == release();
    if (same && !preview_) return;
    preview_ = nullptr;
    const Pushed pushed =
        same ? Pushed::Nothing : history_.push(name.toStdString(), std::move(next), merge.toStdString());
    tidyMemory();
    mendInHand();
    if (pushed != Pushed::Nothing) Q_EMIT stepped(pushed == Pushed::Merged);
    Q_EMIT changed();
    Q_EMIT historyChanged();
}

void Document::edit(const QString& name, const Result<ReleasePtr>& next, const QString& merge) {
    if (next)
        edit(name, *next, merge);
    else
        Q_EMIT refused(QString::fromStdString(next.error().message));
}

void Document::editMaking(const QString& name, const Result<Made>& next) {
    edit(name, Result<ReleasePtr>(next));
    if (next) selectLayer(next->id);
}

void Document::preview(ReleasePtr shown) {
    if (shown == preview_) return;
    preview_ = std::move(shown);
    Q_EMIT changed();
}

void Document::lookAgain() {
    preview_ = nullptr;
    tidyMemory();
    mendInHand();
    Q_EMIT went();
    Q_EMIT changed();
    Q_EMIT historyChanged();
}

void Document::undo() {
    history_.undo();
    lookAgain();
}

void Document::redo() {
    history_.redo();
    lookAgain();
}

void Document::go(size_t step) {
    history_.go(step);
    lookAgain();
}

void Document::setSaved(const ReleasePtr& release, const std::filesystem::path& file) {
    saved_ = release;
    file_ = file;
    settle();
    Q_EMIT wasSaved();
    Q_EMIT historyChanged();
}

const Panel* Document::shownPanel() const {
    const PiecePtr piece = this->piece();
    return piece ? piece->flat->panel(panel().panel) : nullptr;
}

void Document::selectPanel(const PanelRef& panel) {
    if (!inHand_.takePanel(panel, *release())) return;
    letters_.reset();
    Q_EMIT selectionChanged();
}

void Document::selectLayer(const std::string& layer) {
    selectLayers(layer.empty() ? std::vector<std::string>{} : std::vector{layer});
}

void Document::selectLayers(std::vector<std::string> layers) {
    if (!inHand_.takeLayers(std::move(layers))) return;
    letters_.reset();
    settle();
    Q_EMIT selectionChanged();
}

void Document::toggleLayer(const std::string& layer) {
    auto layers = this->layers();
    if (isInHand(layer))
        std::erase(layers, layer);
    else
        layers.push_back(layer);
    selectLayers(std::move(layers));
}

void Document::showTake(const std::string& take) {
    stepToTake(tr("Take %1").arg(QString::fromStdString(take)), withTake(release(), panel().piece, take),
               QStringLiteral("take"));
}

void Document::newTake() {
    const Made take = withNewTake(release(), panel().piece);
    stepToTake(tr("New take %1").arg(QString::fromStdString(take.id)), take.release, {});
}

void Document::stepToTake(const QString& name, const Result<ReleasePtr>& next, const QString& merge) {
    std::vector<std::string> names;
    for (const std::string& id : layers())
        if (const LayerPtr layer = findLayer(stackOf(*release(), panel()), id)) names.push_back(layer->name);
    edit(name, next, merge);
    std::vector<std::string> same;
    eachLayer(stackOf(*release(), panel()), [&](const LayerPtr& layer) {
        const auto wanted = std::find(names.begin(), names.end(), layer->name);
        if (wanted == names.end()) return;
        same.push_back(layer->id);
        names.erase(wanted);
    });
    if (!same.empty()) selectLayers(std::move(same));
}

void Document::setMaskInHand(bool on) {
    if (inHand_.takeMask(on)) Q_EMIT selectionChanged();
}

/// After an edit the panel or layers in hand may be gone.
std::optional<Document::Letters> Document::lettersInHand() const {
    const LayerPtr layer = selectedLayer();
    const auto* text = layer ? layer->as<TextContent>() : nullptr;
    return letters_ && text && letters_->to <= text->spec.text.size() ? letters_ : std::nullopt;
}

void Document::setLettersInHand(std::optional<Letters> letters) {
    if (letters && letters->from >= letters->to) letters.reset();
    if (letters_ == letters) return;
    letters_ = letters;
    Q_EMIT selectionChanged();
}

void Document::mendInHand() {
    if (inHand_.mend(*release())) Q_EMIT selectionChanged();
}

} // namespace glyptos
