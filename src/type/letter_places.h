// Internal to type: the places that the letters of laid lines take: straight, along a path or round a circle,
// moved by rules and by hand.
#pragma once

#include "type/lines/line_layout.h"

namespace glyptos {

/// Glyphs that stand for the same characters, as one thing that is placed.
struct PlacedLetter {
    size_t from = 0, to = 0;     ///< bytes
    size_t line = 0;             ///< of the layout
    size_t first = 0, count = 0; ///< of the line's glyphs
    Affine map;                ///< from the line (x from its left end, y down from the baseline) to the panel
    double x = 0, advance = 0; ///< along the line
    double opacity = 1;
    bool isSpace = false;
};

/// In the order in which lines show them. What has no room on its path is left out; `shown` of the layout
/// becomes less then.
std::vector<PlacedLetter> placeLetters(const TextSpec& spec, Layout& layout);

} // namespace glyptos
