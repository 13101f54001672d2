// Internal to render: what is seen through a mapping that is more than an affine one, as pixels.
#pragma once

#include "raster/tile.h"
#include "raster/warp/remap.h"

#include <functional>

namespace glyptos {

/// A picture, sampled once. `shown`: px of the whole source, which is width × height.
struct WarpedPicture {
    const Pyramid& pixels;
    int width, height;
    const Mapping& mapping; ///< from source px to output px
    Rect shown;
    Sampling sampling = Sampling::Whole;
};
Tile warpedPictureTile(const WarpedPicture& picture, const IntRect& region);

/// Anything else: drawn upright in its own frame, as finely as it is needed, and sampled from there.
struct WarpedDrawing {
    Mapping mapping; ///< from the frame to output px
    Rect extent;     ///< of the frame: beyond it there is nothing
    double finest;   ///< pixels for a unit of the frame, at most: there is no more to be seen
    /// Draws a region of the pixels that `map` leads to from the frame; of all channels, or of one.
    std::function<Tile(const Affine& map, const IntRect& region)> draw;
    Sampling sampling = Sampling::Whole;
};
Tile warpedTile(const WarpedDrawing& drawing, const IntRect& region);
/// The same of one channel.
Tile warpedMaskTile(const WarpedDrawing& drawing, const IntRect& region);

} // namespace glyptos
