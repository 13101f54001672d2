// Internal to render: masks as pixels.
#pragma once

#include "raster/tile.h"
#include "release/release.h"
#include "render/tiles/paint_tiles.h"

namespace glyptos {

/// A mask in the pixels of `region`, one channel. `toOutput` maps panel units to output pixels; `picture` is
/// that of a picture mask. A mask whose picture cannot be had shows everything.
Tile maskTile(const Mask& mask, const Affine& toOutput, const IntRect& region, const PatternPicture& picture);

/// The pixels of a painted mask that are read for `region`, its softening included.
IntRect maskReach(const Mask& mask, const Affine& toOutput, const IntRect& region);

/// From the mask's own frame (pixels of the picture; units of gradients and shapes) to the panel.
Affine maskToPanel(const Mask& mask, int pictureWidth, int pictureHeight);

} // namespace glyptos
