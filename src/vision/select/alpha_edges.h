// The edge of a selection moved, softened, smoothed and traced.
#pragma once

#include "vision/cutout/alpha_map.h"

namespace glyptos {

/// Grown by `by` px, or shrunk when that is negative: by the exact distance from the edge, where 128 is the
/// edge, which stays one pixel soft. What lies beyond the map is not selected.
AlphaMap grown(const AlphaMap& map, double by);
/// Softened over `width` px, two standard deviations of a Gaussian.
AlphaMap feathered(const AlphaMap& map, double width);
/// Corners and specks of less than about `radius` px rounded off, the rest where it was.
AlphaMap smoothed(const AlphaMap& map, double radius);

/// The outlines of what is selected by half and more, closed, in pixel coordinates of the map; holes go the
/// other way round. `slack`: px that they may be off for the sake of fewer points.
std::vector<std::vector<Vec2>> outlinesOf(const AlphaMap& map, double slack = 0);

} // namespace glyptos
