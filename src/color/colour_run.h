// Colours along a line, from one to the next.
#pragma once

#include "color/ink.h"

#include <vector>

namespace glyptos {

struct GradientStop {
    double at = 0; ///< 0…1 along the run
    Ink colour;
    bool operator==(const GradientStop&) const = default;
};

/// Colour at `t` of a run, straight; before the first and behind the last stop theirs.
Rgba colourAlong(const std::vector<GradientStop>& stops, double t);
/// Puts a stop where its place is; its index.
size_t putStop(std::vector<GradientStop>& stops, const GradientStop& stop);

} // namespace glyptos
