// Font files that come with a release: read from disk, and made ready for a FontLibrary.
#pragma once

#include "release/release.h"
#include "type/faces/brought_font.h"

#include <filesystem>

namespace glyptos {

inline constexpr size_t kMostFontBytes = size_t(256) << 20;

struct ImportedFont {
    SourcePtr source;
    BroughtFontPtr font;
};

/// Whether its first bytes are those of a font, packed for the web or not.
bool isFontFile(const std::filesystem::path& file);
/// Fails with a sentence that names the file.
[[nodiscard]] Result<ImportedFont> importFont(const std::filesystem::path& file);

/// Fonts of a release that could be read, in its order.
struct ReleaseFonts {
    std::vector<BroughtFontPtr> fonts;
    std::string trouble; ///< a sentence about those that could not
};
/// Those that are in `known` are not read again.
ReleaseFonts fontsOf(const Release& release, const std::vector<BroughtFontPtr>& known = {});

} // namespace glyptos
