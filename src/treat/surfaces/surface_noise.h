// Internal to surfaces: noise for rows that the compiler turns into vector code. Chance is that of
// raster/noise.h; where a surface repeats, knots are those of a lattice that does.
#pragma once

#include "treat/vector_math.h"

namespace glyptos::rows {

/// Chance of a surface: `maskX`, `maskY` are applied to knots, one less than the period, a power of two, or
/// all bits for none; `cell` is how many px lie between knots.
struct Lattice {
    uint32_t seed;
    int32_t maskX, maskY;
    float cell;
};

/// With `kx` and `ky` times as many knots each way, powers of two.
GLYPTOS_IN_ROWS Lattice finer(const Lattice& l, int kx, int ky, uint32_t seed) {
    const auto mask = [](int32_t m, int k) { return m < 0 ? m : (m + 1) * k - 1; };
    const int most = kx > ky ? kx : ky;
    return {l.seed + seed * 7919u, mask(l.maskX, kx), mask(l.maskY, ky), l.cell / float(most)};
}

GLYPTOS_IN_ROWS int32_t floorOf(float v) {
    const auto towardsZero = int32_t(v);
    return towardsZero - (float(towardsZero) > v ? 1 : 0);
}

/// Uniform in [0, 1).
GLYPTOS_IN_ROWS float knot(int32_t x, int32_t y, const Lattice& l) {
    uint32_t h =
        uint32_t(x & l.maskX) * 0x8da6b343u ^ uint32_t(y & l.maskY) * 0xd8163841u ^ l.seed * 0xcb1ab31fu;
    h = (h ^ (h >> 16)) * 0x85ebca6bu;
    h = (h ^ (h >> 13)) * 0xc2b2ae35u;
    return float(int32_t((h ^ (h >> 16)) >> 8)) * (1.0f / 16777216.0f);
}

/// 0 where knots are one px apart or less, 1 from two px on. (Without a choice, which would split the loop.)
GLYPTOS_IN_ROWS float shownOf(const Lattice& l) {
    const float t = l.cell - 1;
    return 0.5f * (__builtin_fabsf(t) - __builtin_fabsf(t - 1) + 1);
}

/// Value noise in [0, 1); about one half where its knots are closer than two px.
GLYPTOS_IN_ROWS float noise(float x, float y, const Lattice& l) {
    const int32_t ix = floorOf(x), iy = floorOf(y);
    const float fx = x - float(ix), fy = y - float(iy);
    const float u = fx * fx * fx * (fx * (fx * 6 - 15) + 10), v = fy * fy * fy * (fy * (fy * 6 - 15) + 10);
    const float a = knot(ix, iy, l), b = knot(ix + 1, iy, l), c = knot(ix, iy + 1, l),
                d = knot(ix + 1, iy + 1, l);
    const float top = a + (b - a) * u, bottom = c + (d - c) * u;
    return 0.5f + (top + (bottom - top) * v - 0.5f) * shownOf(l);
}

/// The octave `I` and all finer ones, not yet divided by the sum of their strengths. (By recursion and not in
/// a loop, as only loops that hold none are turned into vector code.)
template <int Octaves, int I = 0>
GLYPTOS_IN_ROWS float octaves(float x, float y, const Lattice& l) {
    constexpr auto k = float(1 << I);
    const float one = noise(x * k, y * k, finer(l, 1 << I, 1 << I, uint32_t(I))) * (0.5f / k);
    if constexpr (I + 1 < Octaves)
        return one + octaves<Octaves, I + 1>(x, y, l);
    else
        return one;
}
/// `Octaves` of it, each twice as fine and half as strong, in [0, 1).
template <int Octaves>
GLYPTOS_IN_ROWS float fractal(float x, float y, const Lattice& l) {
    constexpr float kStrengths = 1 - 1.0f / float(1 << Octaves);
    return octaves<Octaves>(x, y, l) * (1 / kStrengths);
}
/// The same with ridges where it passes the middle.
template <int Octaves>
GLYPTOS_IN_ROWS float ridges(float x, float y, const Lattice& l) {
    return 1 - absolute(2 * fractal<Octaves>(x, y, l) - 1);
}

/// One feature point a cell, by chance within it (S. Worley, "A Cellular Texture Basis Function", 1996).
struct CellPoint {
    float nearest, second; ///< distances, in cells
    float chance;          ///< of the nearest
    float toX, toY;        ///< the way to it
};
struct Knot {
    int32_t x, y;
};
/// Of squared distances while they are compared.
GLYPTOS_IN_ROWS CellPoint withPoint(const CellPoint& found, float x, float y, const Knot& at,
                                    const Lattice& l) {
    Lattice other = l, own = l;
    other.seed += 1, own.seed += 2;
    const float dx = float(at.x) + knot(at.x, at.y, l) - x, dy = float(at.y) + knot(at.x, at.y, other) - y;
    const float d = dx * dx + dy * dy;
    const bool nearer = d < found.nearest;
    const float between = nearer ? found.nearest : d;
    return {nearer ? d : found.nearest, between < found.second ? between : found.second,
            nearer ? knot(at.x, at.y, own) : found.chance, nearer ? dx : found.toX, nearer ? dy : found.toY};
}
GLYPTOS_IN_ROWS CellPoint withRow(CellPoint c, float x, float y, const Knot& at, const Lattice& l) {
    c = withPoint(c, x, y, {at.x - 1, at.y}, l);
    c = withPoint(c, x, y, at, l);
    return withPoint(c, x, y, {at.x + 1, at.y}, l);
}
GLYPTOS_IN_ROWS CellPoint cellPointAt(float x, float y, const Lattice& l) {
    const int32_t ix = floorOf(x), iy = floorOf(y);
    CellPoint c{9, 9, 0, 0, 0};
    c = withRow(c, x, y, {ix, iy - 1}, l);
    c = withRow(c, x, y, {ix, iy}, l);
    c = withRow(c, x, y, {ix, iy + 1}, l);
    c.nearest = __builtin_sqrtf(c.nearest), c.second = __builtin_sqrtf(c.second);
    return c;
}

} // namespace glyptos::rows
