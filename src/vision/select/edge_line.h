// A line that follows the nearest contour of a picture.
//
// E. Mortensen, W. Barrett, "Intelligent scissors for image composition" (1995): the cheapest way over the
// pixels, cheap where the colour changes most.
#pragma once

#include "base/geometry.h"
#include "raster/picture.h"

#include <vector>

namespace glyptos {

/// From one point to another, pixel by pixel, both ends included; pixel coordinates, the middle of a pixel at
/// .5. Ends outside the picture are moved to its edge.
std::vector<Vec2> edgeLine(const Picture& picture, Vec2 from, Vec2 to);

/// The place within `reach` px of a point where the colour changes most: where a click is pinned to.
Vec2 nearestEdge(const Picture& picture, Vec2 at, double reach);

} // namespace glyptos
