// Internal to render: painted pixels on the output. Sizes are changed as those of pictures are (resample.h).
#pragma once

#include "raster/pixel_tiles.h"
#include "raster/tile.h"

namespace glyptos {

/// Straight RGBA pixels, mapped by `toOutput`, in the pixels of `region`. Empty when none falls there.
Tile paintedTile(const PixelTiles& tiles, const Affine& toOutput, const IntRect& region);
/// Values of one channel in the same way, 0…1; without gaps.
Buffer<float> paintedValues(const PixelTiles& tiles, const Affine& toOutput, const IntRect& region);

/// The pixels that are read for it.
IntRect paintedReach(const Affine& toOutput, const IntRect& region);

} // namespace glyptos
