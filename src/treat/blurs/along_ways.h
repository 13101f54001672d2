// Internal to blurs: means along the way that each pixel moves.
#pragma once

#include "treat/planes.h"

#include <cmath>
#include <functional>

namespace glyptos {

/// Where the pixels of a row are at `t` of their ways, -½…½; at 0 where they stand. Output px.
using RowWays = std::function<void(float t, float* outX, float* outY)>;
/// The ways of a row of n pixels with their middles at x[i], y. What x points to stays while they are asked.
using Ways = std::function<RowWays(const float* x, float y, size_t n)>;

/// What is read round the result for ways at most `longest` px long.
int reachAlong(double longest);

/// How far round the result ways are asked for.
int drawnAlong(double longest);

/// The mean of `in` along the ways, over `area`; ways are at most `longest` px long and change little from
/// pixel to pixel. As many samples as the way has pixels, in rounds of four: each takes the mean of four of
/// the round before, four times as close.
Planes meanAlong(const Planes& in, const IntRect& area, double longest, const Ways& ways);

} // namespace glyptos
