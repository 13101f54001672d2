#include "app/document.h"

#include "file/data_folder.h"

namespace glyptos {

Engine::Engine()
    : fonts(dataFolder() / "fonts")
    , pictures(size_t(4) << 30,
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

void Document::undo() {
    history_.undo();
    preview_ = nullptr;
    mendSelection();
    Q_EMIT changed();
    Q_EMIT historyChanged();
}

void Document::redo() {
    history_.redo();
    preview_ = nullptr;
    mendSelection();
    Q_EMIT changed();
    Q_EMIT historyChanged();
}

void Document::setSaved(const ReleasePtr& release, const std::filesystem::path& file) {
    saved_ = release;
    file_ = file;
    settle();
    Q_EMIT historyChanged();
}

void Document::selectPanel(const PanelRef& panel) {
    if (panel == panel_) return;
    panel_ = panel;
    layer_.clear();
    mendSelection();
    Q_EMIT selectionChanged();
}

void Document::selectLayer(const std::string& layer) {
    if (layer == layer_) return;
    layer_ = layer;
    settle();
    Q_EMIT selectionChanged();
}

/// After an edit the panel or layer in hand may be gone.
void Document::mendSelection() {
    const PanelRef before = panel_;
    const std::string layer = layer_;
    const PiecePtr piece = release()->piece(panel_.piece);
    if (!piece)
        panel_ = release()->pieces.empty()
                     ? PanelRef{}
                     : PanelRef{release()->pieces[0]->id, release()->pieces[0]->flat->panels.back().id};
    else if (!piece->flat->panel(panel_.panel))
        panel_.panel = piece->flat->panels.back().id;
    if (!layer_.empty() && !findLayer(stackOf(*release(), panel_), layer_)) layer_.clear();
    if (!(before == panel_) || layer != layer_) Q_EMIT selectionChanged();
}

} // namespace glyptos
