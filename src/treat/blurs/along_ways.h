// Internal to blurs: means along the way that each pixel moves.
#pragma once

#include "treat/planes.h"

#include <cmath>

namespace glyptos {

/// The ways that pixels move, a row of them at a time.
class Ways {
  public:
    virtual ~Ways() = default;
    /// The row that is asked for next: n pixels side by side, the first with its middle at (x, y). Output px.
    virtual void startRow(float x, float y, size_t n) = 0;
    /// Where its pixels are at `t` of their ways, -½…½; at 0 where they stand.
    virtual void at(float t, float* outX, float* outY) const = 0;
};

/// What is read round the result for ways at most `longest` px long.
int reachAlong(double longest);

/// How far round the result ways are asked for.
int drawnAlong(double longest);

/// The mean of `in` along the ways, over `area`; ways are at most `longest` px long and change little from
/// pixel to pixel. As many samples as the way has pixels, in rounds of four: each takes the mean of four of
/// the round before, four times as close. No way that is asked for goes farther across and down than
/// `farthest` from one end to the other, px: nothing is read beyond that, and the result does not depend on
/// it.
Planes meanAlong(const Planes& in, const IntRect& area, double longest, const Vec2& farthest, Ways& ways);

} // namespace glyptos
