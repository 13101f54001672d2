// Words set in a typeface: lines, letters in their places, and the outlines to draw them with.
#pragma once

#include "raster/path.h"
#include "type/font_library.h"
#include "type/text_spec.h"

#include <string>
#include <vector>

namespace glyptos {

/// Letters that are drawn in one paint.
struct InkedLetters {
    int paint = 0; ///< see LetterStyle
    double opacity = 1;
    Path outline;
};

/// Characters in their place; a ligature is one.
struct SetLetter {
    size_t from = 0, to = 0; ///< bytes of the text
    size_t line = 0;
    Affine map; ///< to the paragraph, from the letter's own frame: x from its left, y down from the baseline
    double advance = 0, above = 0, below = 0; ///< in its own frame
    double opacity = 1;
    bool isSpace = false, rightToLeft = false;
};

struct SetLine {
    size_t from = 0, to = 0; ///< bytes; a hard line's end belongs to no line
    double baseline = 0;
    double left = 0, width = 0;
    bool divided = false; ///< ends with a hyphen that the text does not have
};

/// The set words. The origin is the anchor: the top of the first line, at the left end, middle or right end
/// of the lines as `align` says; of a path, circle or shape the origin of those. x to the right, y down.
struct Paragraph {
    Path outline;                   ///< of all letters
    std::vector<InkedLetters> inks; ///< where letters differ in paint or opacity; otherwise empty
    Rect box; ///< the lines' advance widths by their ascent, leading and descent; never empty
    Rect ink; ///< bounds of the outline
    std::vector<double> baselines;
    std::vector<SetLine> lines;
    std::vector<SetLetter> letters; ///< line by line, as they are seen from left to right
    double ascent = 0;
    size_t shown = 0;                     ///< bytes up to here have room in the frame
    std::string usedFamily, usedStyle;    ///< differ from the spec when that face is not at hand
    std::vector<std::string> stoodIn;     ///< families that lent missing characters
    std::vector<std::string> unprintable; ///< characters that no face has, once each
    bool isKept = false; ///< not set now: its faces are not at hand, and it is as it was when they were
};

/// Sets `spec`. Ligatures rest while letters are tracked; joined scripts are not tracked. Lines with tabs and
/// no stops form columns as wide as their widest entry, 1 em apart; a column of figures (digits, ':', '.',
/// ',') is set to its right edge. Never fails: what no face has is drawn as the face's own mark for a missing
/// character and listed; what has no room in its frame is not drawn, and `shown` tells.
Paragraph setParagraph(const TextSpec& spec, const FontLibrary& fonts);

} // namespace glyptos
