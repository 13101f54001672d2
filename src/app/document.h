// The open release, its history and its file, as the window sees them.
#pragma once

#include "file/picture_store.h"
#include "file/project.h"
#include "release/edits.h"
#include "release/history.h"
#include "render/renderer.h"

#include <QObject>
#include <QString>
#include <filesystem>
#include <memory>

namespace glyptos {

/// Renderer, fonts and decoded pictures, shared by everything that draws. Outlives all windows.
class Engine : public QObject {
    Q_OBJECT
  public:
    Engine();
    FontLibrary fonts;
    PictureStore pictures;
    Renderer renderer;

  Q_SIGNALS:
    /// A better picture of a source is there (always delivered on the main thread).
    void pictureReady();
};

/// One open release. All edits go through edit() or edited(); everything that shows the release listens to
/// changed().
class Document : public QObject {
    Q_OBJECT
  public:
    Document(const ReleasePtr& release, std::filesystem::path file, QObject* parent = nullptr);

    const ReleasePtr& release() const { return history_.current(); }
    const std::filesystem::path& file() const { return file_; }
    bool isModified() const { return saved_ != release(); }
    const History& history() const { return history_; }

    /// Adds a named step. `merge`: see History::push.
    void edit(const QString& name, ReleasePtr next, const QString& merge = {});
    /// The same for an edit that can be refused; a refusal is reported by refused().
    void edit(const QString& name, const Result<ReleasePtr>& next, const QString& merge = {});
    /// Shows a release that is not a step yet, as while dragging; nothing goes back to the current step.
    void preview(ReleasePtr shown);
    /// What to draw: the preview while there is one, else the current step.
    const ReleasePtr& shown() const { return preview_ ? preview_ : release(); }
    void settle() { history_.settle(); }
    void undo();
    void redo();
    void setSaved(const ReleasePtr& release, const std::filesystem::path& file);

    /// Panel and layer in hand.
    const PanelRef& panel() const { return panel_; }
    const std::string& layer() const { return layer_; }
    PiecePtr piece() const { return shown()->piece(panel_.piece); }
    void selectPanel(const PanelRef& panel);
    void selectLayer(const std::string& layer);
    LayerPtr selectedLayer() const { return findLayer(stackOf(*shown(), panel_), layer_); }

  Q_SIGNALS:
    void changed();          ///< shown() is another release
    void historyChanged();   ///< steps, saved state or file
    void selectionChanged(); ///< panel or layer in hand
    void refused(const QString& sentence);

  private:
    void mendSelection();
    History history_;
    ReleasePtr saved_, preview_;
    std::filesystem::path file_;
    PanelRef panel_;
    std::string layer_;
};

} // namespace glyptos
