// Internal to blurs: means along the way that each pixel moves.
#pragma once

#include "treat/planes.h"

#include <cmath>
#include <functional>

namespace glyptos {

/// Where a pixel (its middle, output px) is at `t` of its way, -½…½; at 0 where it stands.
using Way = std::function<void(const float* x, const float* y, float t, float* outX, float* outY, size_t n)>;

/// What is read round the result for ways at most `longest` px long.
int reachAlong(double longest);

/// The mean of `in` along the ways, over `area`; ways are at most `longest` px long and change little from
/// pixel to pixel. As many samples as the way has pixels, in rounds of four: each takes the mean of four of
/// the round before, a quarter of its step apart.
Planes meanAlong(Planes in, const IntRect& area, double longest, const Way& way);

} // namespace glyptos
