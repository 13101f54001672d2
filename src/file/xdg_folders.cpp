#include "file/xdg_folders.h"

#include <QFile>
#include <QStandardPaths>

namespace glyptos {
namespace {

std::filesystem::path folder(QStandardPaths::StandardLocation location) {
    return QFile::encodeName(QStandardPaths::writableLocation(location)).toStdString();
}

} // namespace

std::filesystem::path dataHome() {
    return folder(QStandardPaths::GenericDataLocation);
}

std::filesystem::path cacheHome() {
    return folder(QStandardPaths::GenericCacheLocation);
}

} // namespace glyptos
