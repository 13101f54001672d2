// The user's folders, by the XDG base directory specification. Read anew at each call.
#pragma once

#include <filesystem>

namespace glyptos {

/// $XDG_DATA_HOME, or ~/.local/share.
std::filesystem::path dataHome();
/// $XDG_CACHE_HOME, or ~/.cache.
std::filesystem::path cacheHome();
/// $XDG_STATE_HOME, or ~/.local/state.
std::filesystem::path stateHome();

} // namespace glyptos
