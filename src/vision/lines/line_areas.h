// Areas that lines bound, in a drawing: each free patch with the lines round it up to their middle.
//
// Gaps are closed by a ball: where one as wide as the widest gap does not fit between lines, areas end; what
// it does not reach goes to the area nearest by a way between the lines, so that corners are filled and a gap
// is parted in its middle (S. Zhang et al., "Vectorizing cartoon animations", 2009, with their trapped ball).
#pragma once

#include "raster/picture.h"
#include "vision/cutout/alpha_map.h"

#include <array>
#include <atomic>

namespace glyptos {

struct LineOptions {
    double tolerance =
        0.25;         ///< 0…1: from how far off the ground's colour on, in any channel, a pixel is line
    double gap = 8;   ///< px: gaps up to that width are closed
    double speck = 4; ///< px: marks smaller than a square of that side are no lines
    const std::atomic<bool>* cancel = nullptr;
};

struct LineArea {
    int pixels = 0;
    int free = 0; ///< of them those that no line covers
    IntRect bounds;
    bool runsOut = false; ///< it touches the edge of the drawing
};

struct LineAreas {
    int width = 0, height = 0;
    std::vector<int32_t>
        labels; ///< of each pixel: the index of its area, or -1 where there is no free patch near
    std::vector<LineArea> areas;

    int at(int x, int y) const;
    /// Whether an area is a line itself that was taken for ground: nearly all of it lies where that is not.
    bool isLine(int area) const;
    /// 255 in those areas, in the pixels of `bounds`, their rims soft by a pixel.
    AlphaMap mask(const std::vector<int>& which, const IntRect& bounds) const;
};

/// Premultiplied red, green, blue and alpha, 0…1.
using GroundColour = std::array<float, 4>;

/// The colour round a pixel: the median of 5 × 5.
GroundColour groundAt(const Picture& drawing, int x, int y);
/// Of a drawing, 8 bits; see-through is a colour of its own. Empty when cancelled.
LineAreas lineAreas(const Picture& drawing, const GroundColour& ground, const LineOptions& options);

} // namespace glyptos
