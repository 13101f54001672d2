// Internal to mending: what is being filled, at one size.
#pragma once

#include "base/geometry.h"
#include "raster/picture.h"
#include "vision/cutout/alpha_map.h"

#include <cstdint>
#include <vector>

namespace glyptos::mending {

/// Patches are squares of 7 × 7 px about their middle.
inline constexpr int kReach = 3, kSide = 2 * kReach + 1, kPatchPixels = kSide * kSide;
/// A full sample of a WorkPicture.
inline constexpr int kFull = 1020;

/// In WorkPicture::hole: to be filled; neither known nor to be filled.
inline constexpr uint8_t kToFill = 1, kNotThere = 2;

/// Premultiplied RGBA of four samples a pixel, 0…kFull, and which pixels are to be filled.
struct WorkPicture {
    int width = 0, height = 0;
    std::vector<int16_t> samples;
    std::vector<uint8_t> hole; ///< 0: known; kToFill or kNotThere
    int own = 0;               ///< rows that are the picture; what lies below them can be copied from too

    WorkPicture(int w, int h)
        : width(w)
        , height(h)
        , samples(size_t(w) * size_t(h) * 4)
        , hole(size_t(w) * size_t(h))
        , own(h) {}
    size_t place(int x, int y) const { return size_t(y) * size_t(width) + size_t(x); }
    int16_t* pixel(size_t place) { return samples.data() + 4 * place; }
    const int16_t* pixel(size_t place) const { return samples.data() + 4 * place; }
};

/// The pixels of `area`, which lies in the picture. What any of `hole` covers is to be filled.
WorkPicture workPicture(const Picture& picture, const AlphaMap& hole, const IntRect& area);
/// Half the size: means of what is known; a pixel of which any part is to be filled is filled.
WorkPicture halved(const WorkPicture& picture);

/// The rows that are the picture itself.
WorkPicture ownRows(const WorkPicture& picture);

/// The smallest rectangle round all that is to be filled; empty when nothing is.
IntRect holeArea(const WorkPicture& picture);

/// Whether the patch about each pixel lies in the picture and holds nothing that is to be filled: what can
/// be copied from. One byte a pixel.
std::vector<uint8_t> wholePatches(const WorkPicture& picture);

/// How far the innermost pixel of the hole is from what is known, px.
double depthOf(const WorkPicture& picture);

} // namespace glyptos::mending
