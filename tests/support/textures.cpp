#include "support/textures.h"

#include "raster/noise.h"

#include <algorithm>
#include <cmath>

namespace glyptos::test {
namespace {

using Colour = std::array<float, 3>;

Colour mixed(const Colour& a, const Colour& b, float t) {
    return {a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t, a[2] + (b[2] - a[2]) * t};
}

Colour shaded(Colour c, float by) {
    for (float& v : c) v += by;
    return c;
}

float soft(float from, float to, float v) {
    const float t = std::clamp((v - from) / (to - from), 0.0f, 1.0f);
    return t * t * (3 - 2 * t);
}

/// Canvas: threads over and under, a little uneven.
Colour weave(float x, float y, uint32_t seed) {
    constexpr float kThread = 9;
    const float u = x / kThread, v = y / kThread;
    const int i = floorOf(u), j = floorOf(v);
    const bool over = ((i + j) & 1) == 0;
    const float across = over ? u - float(i) : v - float(j);
    const float round = std::sin(across * 3.14159f);
    const float along = over ? v : u;
    const float twist = 0.06f * std::sin(along * 9 + across * 3);
    const float uneven = 0.05f * (hashNoise(over ? i : j, over ? 0 : 1, seed) - 0.5f);
    return shaded({0.62f, 0.55f, 0.42f}, 0.28f * (round - 0.6f) + twist + uneven);
}

/// A harbour wall in stretcher bond.
Colour bricks(float x, float y, uint32_t seed) {
    constexpr float kWide = 64, kHigh = 26, kJoint = 4;
    const int row = floorOf(y / kHigh);
    const float shifted = x + ((row & 1) ? kWide / 2 : 0);
    const int column = floorOf(shifted / kWide);
    const float u = shifted - float(column) * kWide, v = y - float(row) * kHigh;
    const float joint = std::min({u, kWide - u, v, kHigh - v});
    const float grain = valueNoise(x / 3, y / 3, seed + 2) - 0.5f;
    const float tone = hashNoise(column, row, seed);
    const Colour brick = mixed({0.55f, 0.26f, 0.2f}, {0.66f, 0.36f, 0.26f}, tone);
    return shaded(mixed({0.72f, 0.7f, 0.66f}, brick, soft(kJoint / 2 - 0.7f, kJoint / 2 + 0.7f, joint)),
                  grain * 0.1f);
}

/// Wind on water.
Colour ripples(float x, float y, uint32_t seed) {
    const float bend = 14 * fractalNoise(x / 160, y / 160, 2, seed);
    const float wave =
        std::sin((y + bend + 0.15f * x) / 3.2f) + 0.5f * std::sin((y * 0.9f - 0.3f * x) / 5.5f);
    const float grain = valueNoise(x / 2, y / 2, seed + 5) - 0.5f;
    return shaded(mixed({0.16f, 0.33f, 0.42f}, {0.62f, 0.76f, 0.8f}, 0.5f + 0.28f * wave), grain * 0.05f);
}

Colour bark(float x, float y, uint32_t seed) {
    const float n = fractalNoise(x / 11, y / 46, 4, seed);
    const float crack = std::abs(fractalNoise(x / 18, y / 90, 3, seed + 9) - 0.5f);
    const Colour c = mixed({0.2f, 0.14f, 0.1f}, {0.62f, 0.5f, 0.4f}, n);
    return mixed({0.07f, 0.05f, 0.04f}, c, soft(0, 0.05f, crack));
}

float grainAt(float x, float y, uint32_t seed) {
    const int i = floorOf(x), j = floorOf(y);
    return (hashNoise(i, j, seed) + hashNoise(i, j, seed + 1) + hashNoise(i, j, seed + 2) - 1.5f) / 1.5f;
}

/// Roof and sky: two plain sides, a little grain.
Colour sides(float distance, float x, float y, uint32_t seed) {
    const Colour c = mixed({0.7f, 0.36f, 0.24f}, {0.72f, 0.82f, 0.88f}, soft(-1, 1, distance));
    return shaded(c, 0.03f * grainAt(x, y, seed));
}

Colour sky(float x, float y, float side, uint32_t seed, uint32_t chance) {
    const Colour c = mixed({0.3f, 0.45f, 0.68f}, {0.9f, 0.82f, 0.72f}, y / side);
    return shaded(c, 0.05f * (fractalNoise(x / 120, y / 50, 4, seed) - 0.5f) +
                         0.02f * grainAt(x, y, chance + 3));
}

/// `chance` seeds what cannot be told from what lies around: grain, and bark as a whole.
Colour colourOf(Texture texture, float x, float y, float side, uint32_t seed, uint32_t chance) {
    switch (texture) {
    case Texture::Weave:
        return weave(x, y, seed);
    case Texture::Bricks:
        return bricks(x, y, seed);
    case Texture::Ripples:
        return ripples(x, y, seed);
    case Texture::Bark:
        return bark(x, y, chance);
    case Texture::Edge:
        return sides(x * 0.42f - y * 0.91f + side * 0.24f, x, y, seed);
    case Texture::Curve:
        return sides(std::hypot(x - side * 0.45f, y - side * 1.5f) - side, x, y, seed);
    case Texture::Grain:
        return shaded(
            mixed({0.25f, 0.3f, 0.42f}, {0.85f, 0.7f, 0.55f}, (0.7f * x + 0.5f * y) / (1.2f * side)),
            0.06f * grainAt(x, y, chance));
    default:
        return sky(x, y, side, seed, chance);
    }
}

bool isHole(Texture texture, float x, float y, float side, float holeSide, uint32_t seed) {
    if (texture == Texture::Wire)
        return std::abs(y - side * 0.35f - 0.2f * x - 0.0004f * (x - side / 2) * (x - side / 2)) < 4.5f;
    const float u = x - side / 2, v = y - side / 2, angle = std::atan2(v, u);
    const float radius = holeSide * (0.44f + 0.06f * std::sin(3 * angle + float(seed)));
    return std::hypot(u, v) < radius;
}

void put(const Colour& c, uint8_t* pixel) {
    for (size_t k = 0; k < 3; ++k) pixel[k] = uint8_t(std::lround(255 * std::clamp(c[k], 0.0f, 1.0f)));
    pixel[3] = 255;
}

} // namespace

Picture byOtherChance(const KnownTexture& known, Texture texture, uint32_t seed) {
    Picture out = copyOf(known.truth);
    constexpr uint32_t kOther = 1000;
    for (int y = 0; y < out.height; ++y)
        for (int x = 0; x < out.width; ++x)
            if (known.hole.at(x, y))
                put(colourOf(texture, float(x), float(y), float(out.width), seed, seed + kOther),
                    out.row<uint8_t>(y) + ptrdiff_t(4) * x);
    return out;
}

Picture copyOf(const Picture& p) {
    Picture out;
    out.width = p.width, out.height = p.height, out.opaque = p.opaque;
    std::visit(
        [&]<class T>(const Buffer<T>& from) {
            Buffer<T> to(from.size());
            std::copy_n(from.data(), from.size(), to.data());
            out.pixels = std::move(to);
        },
        p.pixels);
    return out;
}

KnownTexture knownTexture(Texture texture, int side, int holeSide, uint32_t seed) {
    KnownTexture out{Picture::create<uint8_t>(side, side), {}, AlphaMap(side, side)};
    out.truth.opaque = true;
    for (int y = 0; y < side; ++y)
        for (int x = 0; x < side; ++x) {
            const Colour c = colourOf(texture, float(x), float(y), float(side), seed, seed);
            uint8_t* p = out.truth.row<uint8_t>(y) + ptrdiff_t(4) * x;
            put(c, p);
            if (isHole(texture, float(x), float(y), float(side), float(holeSide), seed))
                out.hole.at(x, y) = 255;
        }
    out.damaged = copyOf(out.truth);
    for (int y = 0; y < side; ++y)
        for (int x = 0; x < side; ++x)
            if (out.hole.at(x, y)) {
                uint8_t* p = out.damaged.row<uint8_t>(y) + ptrdiff_t(4) * x;
                p[0] = 10, p[1] = 250, p[2] = 20;
            }
    return out;
}

} // namespace glyptos::test
