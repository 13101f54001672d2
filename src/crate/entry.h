// One source in the crate, as a value.
#pragma once

#include "base/text.h"
#include "color/colour_words.h"
#include "release/source_facts.h"
#include "vision/likeness.h"

#include <cstdint>
#include <filesystem>
#include <memory>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace glyptos {

struct CrateEntry {
    std::string id;   ///< hash of the file's bytes, as in a release
    std::string path; ///< absolute; of pictures that the crate keeps itself, relative to its folder
    std::vector<std::string> copies; ///< other files with the same bytes
    int64_t fileBytes = 0;
    int64_t modified = 0;      ///< of the file, seconds since 1970
    int64_t added = 0;         ///< to the crate, seconds since 1970
    std::string format;        ///< as of Source, or "cube"
    int width = 0, height = 0; ///< px, upright; 0 of look tables
    int pages = 1;
    SourceFacts facts;
    std::vector<PaletteColour> palette;
    Traits traits;
    ColourFamily mainColour = ColourFamily::Grey;

    bool isDrawing() const { return format == "svg"; }
    std::string fileName() const { return nameOf(path); }
    /// Its title, or its file's name without the ending.
    std::string name() const;
};
using EntryPtr = std::shared_ptr<const CrateEntry>;

enum class ShapeFacet : unsigned char { Square, Tall, Wide };
inline constexpr int kShapeFacets = 3;
const char* nameOf(ShapeFacet shape);
/// Square within 4 %.
ShapeFacet shapeOf(const CrateEntry& entry);

/// Pixels that the front of a 12-inch sleeve, 315 mm, has at 300 ppi.
inline constexpr int kFrontPixels = 3720;
/// Whether the shorter side has as many, or it is a drawing.
bool isLargeEnough(const CrateEntry& entry);

/// The family of the colour that a picture is remembered by: large, and coloured rather than grey.
ColourFamily mainColourOf(const std::vector<PaletteColour>& palette);

/// One line of JSON. What is read back is the same but for rounding in palette and edges.
std::string entryToLine(const CrateEntry& entry);
/// Nothing when the line is none.
std::optional<CrateEntry> entryFromJson(std::string_view json);

} // namespace glyptos
