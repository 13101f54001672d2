// What is painted: pixels in tiles that are shared until they are written.
#pragma once

#include "base/figure_hints.h"
#include "raster/pixel_tiles.h"

namespace glyptos {

/// The same pixels, wherever they lie in memory.
inline bool sameTiles(const PixelTilesPtr& a, const PixelTilesPtr& b) {
    return a == b || (a && b && *a == *b);
}

/// A mask that is painted by hand: one 8-bit value a pixel, in a frame whose unit is a pixel.
struct PaintedMask {
    PixelTilesPtr tiles; ///< never missing
    /// What a zero stands for, and so what is where there is no tile: true shows all, false nothing; 255 is
    /// the other.
    bool shows = true;
    /// Of the figure that it was cut out by, when it has not been changed since: more can be said.
    std::shared_ptr<const CutoutHints> hints = nullptr;
    bool operator==(const PaintedMask& o) const {
        const bool sameHints = hints == o.hints || (hints && o.hints && *hints == *o.hints);
        return shows == o.shows && sameHints && sameTiles(tiles, o.tiles);
    }
};

/// A layer of painted pixels, straight RGBA, in a frame whose unit is a pixel. One that mends holds what was
/// filled from the layers below it.
struct PaintedContent {
    PixelTilesPtr tiles; ///< never missing
    /// One value a pixel: what is to be mended of what lies below; none: a layer that is painted on.
    PixelTilesPtr holes;
    bool operator==(const PaintedContent& o) const {
        return sameTiles(tiles, o.tiles) && sameTiles(holes, o.holes);
    }
};

inline constexpr PixelFormat kMaskPixels{1, 1}, kPaintPixels{4, 1}, kDeepPaintPixels{4, 2};

} // namespace glyptos
