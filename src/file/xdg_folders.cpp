#include "file/xdg_folders.h"

#include <QDir>

namespace glyptos {
namespace {

/// What the variable says, unless that is not absolute, which the specification wants to be ignored.
/// QStandardPaths would take it.
std::filesystem::path folder(const char* variable, const char* standard) {
    const std::filesystem::path set = qgetenv(variable).toStdString();
    return set.is_absolute() ? set : std::filesystem::path(QDir::homePath().toStdString()) / standard;
}

} // namespace

std::filesystem::path dataHome() {
    return folder("XDG_DATA_HOME", ".local/share");
}

std::filesystem::path cacheHome() {
    return folder("XDG_CACHE_HOME", ".cache");
}

std::filesystem::path stateHome() {
    return folder("XDG_STATE_HOME", ".local/state");
}

} // namespace glyptos
