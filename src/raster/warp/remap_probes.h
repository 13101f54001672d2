// Internal to remap: how a block of pixels is sampled.
#pragma once

#include "raster/picture.h"
#include "raster/warp/remap.h"

namespace glyptos {

/// From which level, with how wide a kernel, and along which way how often.
struct Probes {
    const Picture* picture = nullptr;
    double k = 1; ///< pixels of the level for one unit of the frame, across
    double l = 1; ///< and down
    Vec2 origin;  ///< of the level, in the frame
    float widen = 1;
    int count = 1;
    Vec2 way; ///< from one to the next, px of the level
};

Probes probesFor(const FramedPicture& source, const Coordinates::Footprint& print, Sampling sampling);

} // namespace glyptos
