// A picture seen through any mapping, sampled once.
//
// Where it is not made smaller the filter is the cubic of R. Keys (resample.h); where it is, the level of the
// picture whose pixels are as large as the footprint is narrow, the cubic widened by what remains, and as
// many of those along the longer axis as the footprint is longer than wide (the idea of J. McCormack et al.,
// "Feline: Fast Elliptical Lines for Anisotropic Texture Mapping", 1999). The footprint is that of the
// mapping's Jacobian, for each block of pixels.
#pragma once

#include "raster/picture.h"
#include "raster/tile.h"
#include "raster/warp/mapping.h"

namespace glyptos {

inline constexpr int kRemapBlock = 8; ///< px a side, of one footprint

/// Where each pixel of a result comes from: width × height values without gaps.
struct Coordinates {
    int width = 0, height = 0;
    Buffer<float> x, y;  ///< in the frame, its unit
    Buffer<float> share; ///< 0…1: how much of the pixel is within the borders of what is shown
    /// Of each block, row by row, how far one pixel to the right and one down lead in the frame.
    struct Footprint {
        Vec2 across, down;
    };
    std::vector<Footprint> footprints;
    bool empty = true; ///< every share is 0
};

/// A picture whose own pixels are kneaded keeps its borders, and what is pulled in at them is as the field
/// says; those of anything else go along.
enum class Borders : unsigned char { Stay, GoAlong };

/// For the result pixels of `region`; `mapping` leads from the frame to them, and `shown` is the part of the
/// frame that is shown. Within 1/32 px of a result pixel of the exact mapping.
Coordinates coordinatesFor(const Mapping& mapping, const Rect& shown, const IntRect& region,
                           Borders borders = Borders::Stay);

/// A picture in the frame of coordinates: its level-0 pixel (0, 0) begins at `origin`, and a unit of the
/// frame is so many of its pixels wide and high.
struct FramedPicture {
    const Pyramid& pixels;
    double scaleX = 1, scaleY = 1;
    Vec2 origin = {};
};

/// With all that a footprint sees, or by its longer axis alone, once and softly: for what is drawn anew when
/// it rests.
enum class Sampling : unsigned char { Whole, Draft };

/// Fills `out`, premultiplied RGBA, of the coordinates' size.
void remapTile(const FramedPicture& source, const Coordinates& from, Tile& out,
               Sampling sampling = Sampling::Whole);

/// The same of a picture all at once, several threads: a straight picture of its depth, see-through outside.
Picture remapped(const Pyramid& source, const Mapping& mapping, int width, int height);

} // namespace glyptos
