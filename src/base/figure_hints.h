// What an artist has said of where a figure is in a picture.
#pragma once

#include "base/geometry.h"

#include <vector>

namespace glyptos {

/// "This" or "not that", drawn with a round tip. Pixels of the picture.
struct HintStroke {
    bool figure = true;
    std::vector<Vec2> points;
    double radius = 1;
    bool operator==(const HintStroke&) const = default;
};

struct CutoutHints {
    Rect box; ///< holds all of the figure; empty: what the strokes lie on, or else what stands out most
    std::vector<HintStroke> strokes;
    bool operator==(const CutoutHints&) const = default;
};

} // namespace glyptos
