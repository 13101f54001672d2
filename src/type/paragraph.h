// Words set in a typeface: shaping, lines, columns, and the outlines to draw them with.
#pragma once

#include "raster/path.h"
#include "type/font_library.h"

#include <string>
#include <vector>

namespace glyptos {

enum class Align { Left, Centre, Right };

/// What to set. Lengths in the units of the panel.
struct TextSpec {
    std::string text; ///< UTF-8; '\n' ends a line, '\t' ends a column
    std::string family = "Inter", style = "Regular";
    double size = 10;     ///< em size
    double tracking = 0;  ///< extra space between letters, thousandths of an em
    double leading = 1.2; ///< from baseline to baseline, in em
    Align align = Align::Left;
    double measure = 0; ///< width at which lines break between words; 0: only at '\n'
    bool operator==(const TextSpec&) const = default;
};

/// The set words. The origin is the anchor: the top of the first line, at the left end, middle or right end
/// of the lines as `align` says; x to the right, y down.
struct Paragraph {
    Path outline;
    Rect box; ///< the lines' advance widths by their ascent, leading and descent; never empty
    Rect ink; ///< bounds of the outline
    std::vector<double> baselines;
    double ascent = 0;
    std::string usedFamily, usedStyle;    ///< differ from the spec when that face is not at hand
    std::vector<std::string> stoodIn;     ///< families that lent missing characters
    std::vector<std::string> unprintable; ///< characters that no face has, once each
};

/// Sets `spec`. Ligatures rest while letters are tracked. Lines with tabs form columns as wide as their
/// widest entry, 1 em apart; a column of figures (digits, ':', '.', ',') is set to its right edge. Never
/// fails: what no face has is drawn as the face's own mark for a missing character and listed.
Paragraph setParagraph(const TextSpec& spec, const FontLibrary& fonts);

} // namespace glyptos
