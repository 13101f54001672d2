// Dabs along lines that are kept, as a steady hand would lay them.
#pragma once

#include "raster/brush/dab_walk.h"
#include "raster/stroke.h"

namespace glyptos {

/// Of one kept stroke: one that would have more is laid less closely, and ends where its way has more pieces.
inline constexpr size_t kMostDabs = 200'000;

/// `pressures` are spread evenly along each line; none: 1 everywhere. Chances go on from line to line.
Dabs dabsAlong(const std::vector<Polyline>& lines, const Brush& brush,
               const std::vector<float>& pressures = {});
/// About how many there would be.
double dabCountAlong(const std::vector<Polyline>& lines, const Brush& brush);

} // namespace glyptos
