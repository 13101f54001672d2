// What a whole stroke covers, as pixels of its own.
#pragma once

#include "raster/brush.h"

#include <vector>

namespace glyptos {

/// One 8-bit value a pixel, of the stroke through those points, mapped by `toPixels`, as `area` is, within
/// which it stays. The tip is in pixels.
PixelTiles strokeCover(const std::vector<Vec2>& points, const RoundTip& tip, const Affine& toPixels,
                       const Rect& area);

} // namespace glyptos
