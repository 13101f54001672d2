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

  Q_SIGNALS:
    /// A better picture of a source is there (always delivered on the main thread).
    void pictureReady();
};

} // namespace glyptos
