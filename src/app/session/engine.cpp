#include "app/session/engine.h"

#include "file/data_folder.h"
#include "file/memory.h"

namespace glyptos {

Engine::Engine()
    : fonts(dataFolder() / "fonts")
    , spelling(qEnvironmentVariable("DICPATH", QStringLiteral("/usr/share/hunspell")).toStdString())
    , pictures(installedMemory() / 4,
               [this](const std::string&) {
                   QMetaObject::invokeMethod(this, &Engine::pictureReady, Qt::QueuedConnection);
               })
    , renderer(pictures, fonts) {}

void Engine::bringFonts(std::vector<BroughtFontPtr> brought) {
    fonts.bring(std::move(brought));
    Q_EMIT facesChanged();
    Q_EMIT pictureReady();
}

} // namespace glyptos
