// The colours of a figure that is cut out, for laying it over another ground.
#pragma once

#include "raster/picture.h"
#include "vision/cutout/alpha_map.h"

namespace glyptos {

/// The figure with its alpha, 8 bits a channel: where it is half covered its own colour, without the ground
/// that the picture shows through it; where it is opaque the picture's colour to the bit (T. Germer et al.,
/// "Fast multi-level foreground estimation", 2020). `alpha` has the picture's size; level 0 must be there.
Picture figureWithColours(const Pyramid& picture, const AlphaMap& alpha);

} // namespace glyptos
