// Renderer, fonts and decoded pictures, shared by everything that draws.
#pragma once

#include "file/pictures/picture_store.h"
#include "render/renderer.h"
#include "type/spelling.h"

#include <QObject>

namespace glyptos {

/// Outlives all windows.
class Engine : public QObject {
    Q_OBJECT
  public:
    Engine();
    FontLibrary fonts;
    Spelling spelling;
    PictureStore pictures;
    Renderer renderer;
    /// Gives the library these fonts in place of those that were brought before.
    void bringFonts(std::vector<BroughtFontPtr> brought);

  Q_SIGNALS:
    /// What was drawn may look otherwise now: a better picture of a source is there, or another face (always
    /// delivered on the main thread).
    void pictureReady();
    void facesChanged();
};

} // namespace glyptos
