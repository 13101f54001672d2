#include "app/session/document.h"

#include "file/data_folder.h"
#include "file/memory.h"
#include "release/walks.h"
#include "release/wall.h"

#include <algorithm>

namespace glyptos {

Engine::Engine()
    : fonts(dataFolder() / "fonts")
    , pictures(installedMemory() / 4,
               [this](const std::string&) {
                   QMetaObject::invokeMethod(this, &Engine::pictureReady, Qt::QueuedConnection);
               })
    , renderer(pictures, fonts) {}

Document::Document(const ReleasePtr& release, std::filesystem::path file, QObject* parent)
    : QObject(parent)
    , history_(release)
    , saved_(release)
    , file_(std::move(file)) {
    mendSelection();
}

void Document::edit(const QString& name, ReleasePtr next, const QString& merge) {
    const bool same = next == release();
    if (same && !preview_) return;
    preview_ = nullptr;
    if (!same) history_.push(name.toStdString(), std::move(next), merge.toStdString());
    mendSelection();
    Q_EMIT changed();
    Q_EMIT historyChanged();
}

void Document::edit(const QString& name, const Result<ReleasePtr>& next, const QString& merge) {
    if (next)
        edit(name, *next, merge);
    else
        Q_EMIT refused(QString::fromStdString(next.error().message));
}

void Document::preview(ReleasePtr shown) {
    if (shown == preview_) return;
    preview_ = std::move(shown);
    Q_EMIT changed();
}

void Document::lookAgain() {
    preview_ = nullptr;
    mendSelection();
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
    Q_EMIT historyChanged();
}

const Panel* Document::shownPanel() const {
    const PiecePtr piece = this->piece();
    return piece ? piece->flat->panel(panel_.panel) : nullptr;
}

void Document::selectPanel(const PanelRef& panel) {
    if (panel == panel_) return;
    panel_ = panel;
    layers_.clear();
    maskInHand_ = false;
    mendSelection();
    Q_EMIT selectionChanged();
}

const std::string& Document::layer() const {
    static const std::string none;
    return layers_.empty() ? none : layers_.back();
}

bool Document::isInHand(const std::string& layer) const {
    return std::find(layers_.begin(), layers_.end(), layer) != layers_.end();
}

void Document::selectLayer(const std::string& layer) {
    selectLayers(layer.empty() ? std::vector<std::string>{} : std::vector{layer});
}

void Document::selectLayers(std::vector<std::string> layers) {
    if (layers == layers_) return;
    layers_ = std::move(layers);
    maskInHand_ = false;
    settle();
    Q_EMIT selectionChanged();
}

void Document::toggleLayer(const std::string& layer) {
    auto layers = layers_;
    if (isInHand(layer))
        std::erase(layers, layer);
    else
        layers.push_back(layer);
    selectLayers(std::move(layers));
}

void Document::showTake(const std::string& take) {
    stepToTake(tr("Take %1").arg(QString::fromStdString(take)), withTake(release(), panel_.piece, take),
               QStringLiteral("take"));
}

void Document::newTake() {
    std::string id;
    const ReleasePtr next = withNewTake(release(), panel_.piece, &id);
    stepToTake(tr("New take %1").arg(QString::fromStdString(id)), next, {});
}

void Document::stepToTake(const QString& name, const Result<ReleasePtr>& next, const QString& merge) {
    std::vector<std::string> names;
    for (const std::string& id : layers_)
        if (const LayerPtr layer = findLayer(stackOf(*release(), panel_), id)) names.push_back(layer->name);
    edit(name, next, merge);
    std::vector<std::string> same;
    eachLayer(stackOf(*release(), panel_), [&](const LayerPtr& layer) {
        const auto wanted = std::find(names.begin(), names.end(), layer->name);
        if (wanted == names.end()) return;
        same.push_back(layer->id);
        names.erase(wanted);
    });
    if (!same.empty()) selectLayers(std::move(same));
}

void Document::setMaskInHand(bool on) {
    if (on == maskInHand_) return;
    maskInHand_ = on;
    Q_EMIT selectionChanged();
}

/// After an edit the panel or layers in hand may be gone.
void Document::mendSelection() {
    const PanelRef before = panel_;
    const auto layers = layers_;
    const PiecePtr piece = release()->piece(panel_.piece);
    if (!piece)
        panel_ = release()->pieces.empty()
                     ? PanelRef{}
                     : PanelRef{release()->pieces[0]->id, release()->pieces[0]->flat->panels.back().id};
    else if (!piece->flat->panel(panel_.panel))
        panel_.panel = piece->flat->panels.back().id;
    if (!isWall(panel_)) piecePanel_ = panel_;
    const PiecePtr last = release()->piece(piecePanel_.piece);
    if (isWall(panel_) && (!last || !last->flat->panel(piecePanel_.panel)))
        piecePanel_ = release()->pieces.empty()
                          ? PanelRef{}
                          : PanelRef{release()->pieces[0]->id, release()->pieces[0]->flat->panels.back().id};
    std::erase_if(layers_,
                  [&](const std::string& id) { return !findLayer(stackOf(*release(), panel_), id); });
    if (!(before == panel_) || layers != layers_) Q_EMIT selectionChanged();
}

} // namespace glyptos
