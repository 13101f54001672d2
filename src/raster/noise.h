// Repeatable noise: the same coordinates and seed give the same value on every machine, at any zoom.
#pragma once

#include <cstdint>

namespace glyptos {

/// Uniform in [0, 1) from whole coordinates. Mixing steps of MurmurHash3's finaliser (A. Appleby, public
/// domain).
inline float hashNoise(int32_t x, int32_t y, uint32_t seed) {
    uint32_t h =
        static_cast<uint32_t>(x) * 0x8da6b343u ^ static_cast<uint32_t>(y) * 0xd8163841u ^ seed * 0xcb1ab31fu;
    h = (h ^ (h >> 16)) * 0x85ebca6bu;
    h = (h ^ (h >> 13)) * 0xc2b2ae35u;
    return float((h ^ (h >> 16)) >> 8) * (1.0f / 16777216.0f);
}

/// The whole number at or below `v`, which must lie within an int32_t. Without the function call that
/// std::floor is where the processor's rounding is not known at compile time.
inline int32_t floorOf(float v) {
    const auto towardsZero = static_cast<int32_t>(v);
    return towardsZero - (static_cast<float>(towardsZero) > v ? 1 : 0);
}

/// Value noise in [0, 1], smooth to the second derivative (K. Perlin's quintic fade, 2002), one knot a unit.
inline float valueNoise(float x, float y, uint32_t seed) {
    const int32_t ix = floorOf(x), iy = floorOf(y);
    const auto fade = [](float t) { return t * t * t * (t * (t * 6 - 15) + 10); };
    const float u = fade(x - float(ix)), v = fade(y - float(iy));
    const float a = hashNoise(ix, iy, seed), b = hashNoise(ix + 1, iy, seed);
    const float c = hashNoise(ix, iy + 1, seed), d = hashNoise(ix + 1, iy + 1, seed);
    const float top = a + (b - a) * u, bottom = c + (d - c) * u;
    return top + (bottom - top) * v;
}

/// Sum of `octaves` value noises, each at twice the frequency and half the strength, in [0, 1].
inline float fractalNoise(float x, float y, int octaves, uint32_t seed) {
    float sum = 0, strength = 0.5f, total = 0;
    for (int i = 0; i < octaves; ++i) {
        sum += strength * valueNoise(x, y, seed + static_cast<uint32_t>(i));
        total += strength;
        strength *= 0.5f;
        x = x * 2 + 17.3f, y = y * 2 + 9.1f;
    }
    return sum / total;
}

} // namespace glyptos
