// Brushes that come with the application, and those that the artist has saved.
#pragma once

#include "base/error.h"
#include "release/shape.h"

#include <filesystem>
#include <vector>

namespace glyptos {

/// A brush by name. Its diameter is in thousandths of the longer side of the panel that is painted on.
struct NamedBrush {
    std::string name;
    std::vector<std::string> words; ///< by which it is found, too
    Brush brush;
    std::vector<Stamp> stamps;
    std::filesystem::path file;
    bool own = false; ///< saved by the artist
};

inline constexpr double kBrushSide = 1000; ///< that many diameters' units are the panel's longer side

/// Reads one (docs/file-format.md). Fails with a sentence that names the file.
[[nodiscard]] Result<NamedBrush> readBrushFile(const std::filesystem::path& file);
/// Those in data/brushes, by name. What cannot be read is left out.
const std::vector<NamedBrush>& shippedBrushes();
/// Where own brushes are: brushes/ in the application's folder in the XDG data folder.
std::filesystem::path ownBrushFolder();
/// Those there, by name, and a sentence for each that cannot be read.
std::vector<NamedBrush> ownBrushes(std::vector<std::string>& troubles);
/// Writes it into that folder under a file name of its own, over one of the same brush name; fails whole.
[[nodiscard]] Result<NamedBrush> saveBrush(NamedBrush brush);
[[nodiscard]] Result<void> removeBrush(const NamedBrush& brush);

/// Whether every one of the words, in any case, begins a word of its name or stands in its words.
bool matches(const NamedBrush& brush, std::string_view words);

} // namespace glyptos
