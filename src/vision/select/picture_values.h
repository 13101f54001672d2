// A picture as values: how light it is, or how much of each pixel it covers.
#pragma once

#include "raster/picture.h"
#include "vision/cutout/alpha_map.h"

namespace glyptos {

/// Luma times alpha: 255 is opaque white.
AlphaMap lightOf(const Picture& picture);
/// Alpha.
AlphaMap coverOf(const Picture& picture);

} // namespace glyptos
