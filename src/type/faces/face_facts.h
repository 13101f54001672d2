// What a typeface looks like, measured on its outlines: proportions, strokes, and the sorts of letters that
// it belongs to.
#pragma once

#include "type/font_library.h"

#include <span>
#include <string_view>

namespace glyptos {

/// A face may be of several sorts.
enum class FaceSort : unsigned char {
    Blackletter,  ///< broken strokes
    Script,       ///< letters that join, or lean as a pen makes them
    Hand,         ///< letters as a hand makes them, no two quite level
    Mono,         ///< all letters as wide as each other
    Slab,         ///< feet as thick as the strokes
    Serif,        ///< feet, of whatever sort
    Grotesque,    ///< no feet, strokes of one thickness
    HighContrast, ///< thick and thin strokes
    Condensed,
    Wide,
    Display ///< for few words: no small letters, or very heavy ones
};

/// Lengths in em, ratios otherwise; 0 where a face lacks the letters.
struct FaceFacts {
    double capHeight = 0, xHeight = 0;
    double stem = 0;       ///< thickness of the stems of H, in heights of capitals
    double contrast = 0;   ///< of o, its thick to its thin strokes; at least 1
    double bar = 0;        ///< thickness of the bar of H, in stems
    double width = 0;      ///< of capitals, in their heights
    double slant = 0;      ///< of the stems of H, degrees, positive to the right
    double feet = 0;       ///< how far the feet of H stand out, both sides together, in stems
    double feetHeight = 0; ///< how thick feet are, in stems
    double joins = 0; ///< of small letters, how far apart the ink of two of them is; below 0 they overlap
    double unevenness = 0; ///< of the heights of small letters that are drawn level, in heights of x
    double corners = 0;    ///< of o, see OutlineScan::cornerShare
    bool isMono = false, hasSmallLetters = false;
    std::vector<FaceSort> sorts; ///< in the order of FaceSort
    bool is(FaceSort sort) const;
};

/// Nothing when the face has no Latin capitals to measure, as one of symbols.
std::optional<FaceFacts> factsOf(const FacePtr& face);

/// Whether the face has all characters that a text needs; spaces and what shows nothing are not needed.
bool hasAll(const Face& face, std::string_view utf8);

/// The word for a sort, as "high-contrast"; and back.
std::string_view wordFor(FaceSort sort);
std::optional<FaceSort> sortNamed(std::string_view word);
std::span<const std::string_view> sortWords();

} // namespace glyptos
