#include "support/figures.h"

#include "base/geometry.h"
#include "raster/noise.h"
#include "raster/path.h"
#include "raster/stroke.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <random>

namespace glyptos::test {
namespace {

using Colour = std::array<float, 3>;

Colour mixed(const Colour& a, const Colour& b, float t) {
    return {a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t, a[2] + (b[2] - a[2]) * t};
}

constexpr Colour kHair{0.26f, 0.17f, 0.11f}, kHairLight{0.5f, 0.36f, 0.22f}, kSkin{0.8f, 0.6f, 0.5f},
    kCoat{0.2f, 0.27f, 0.36f};

/// Light and dark along the strands, skin below, the coat at the bottom.
Colour figureColour(float u, float v, uint32_t seed) {
    const float strand = valueNoise(u * 60, v * 18, seed + 3);
    const Colour hair = mixed(kHair, kHairLight, strand);
    const float grain = valueNoise(u * 200, v * 200, seed + 4) - 0.5f;
    Colour out = hair;
    if (v > 0.3f && std::hypot(u - 0.5f, (v - 0.42f) * 0.8f) < 0.1f) out = kSkin;
    if (v > 0.62f) {
        const bool stripe = std::fmod(v * 22, 1.0f) > 0.8f;
        out = stripe ? Colour{0.68f, 0.3f, 0.2f} : kCoat;
    }
    for (float& c : out) c = std::clamp(c + grain * 0.06f, 0.0f, 1.0f);
    return out;
}

Colour groundColour(Ground ground, float u, float v, uint32_t seed) {
    switch (ground) {
    case Ground::Plain:
        return {0.78f, 0.84f, 0.86f};
    case Ground::Gradient:
        return mixed({0.35f, 0.55f, 0.75f}, {0.95f, 0.85f, 0.7f}, v);
    case Ground::Textured: {
        const float n = fractalNoise(u * 40, v * 40, 4, seed + 9);
        return mixed({0.45f, 0.6f, 0.42f}, {0.8f, 0.9f, 0.72f}, n);
    }
    case Ground::Busy: { // a quay with crates, nets and lamps: a dozen colours, over each other
        static constexpr std::array<Colour, 12> kColours{{{0.86f, 0.3f, 0.22f},
                                                          {0.2f, 0.5f, 0.6f},
                                                          {0.93f, 0.78f, 0.35f},
                                                          {0.3f, 0.62f, 0.4f},
                                                          {0.55f, 0.75f, 0.85f},
                                                          {0.9f, 0.88f, 0.84f},
                                                          {0.42f, 0.4f, 0.6f},
                                                          {0.7f, 0.5f, 0.7f},
                                                          {0.6f, 0.66f, 0.3f},
                                                          {0.12f, 0.35f, 0.33f},
                                                          {0.95f, 0.6f, 0.5f},
                                                          {0.5f, 0.52f, 0.54f}}};
        Colour out{0.5f, 0.52f, 0.54f};
        for (int layer = 0; layer < 3; ++layer) {
            const float cells = 9.0f + 5 * float(layer);
            const float fu = u * cells + float(layer) * 0.37f, fv = v * cells + float(layer) * 0.61f;
            const int x = int(fu), y = int(fv);
            const auto chance = [&](uint32_t k) {
                return hashNoise(x, y, seed + 40 + 10 * uint32_t(layer) + k);
            };
            const bool disc = chance(0) < 0.5f;
            const float du = fu - float(x) - 0.5f, dv = fv - float(y) - 0.5f;
            if (disc ? std::hypot(du, dv) < 0.45f : std::abs(du) < 0.15f + 0.3f * chance(1))
                out = kColours[size_t(chance(2) * 11.99f)];
        }
        const float grain = (valueNoise(u * 150, v * 150, seed + 8) - 0.5f) * 0.12f;
        for (float& c : out) c = std::clamp(c + grain, 0.0f, 1.0f);
        return out;
    }
    default: {
        const float n = fractalNoise(u * 30, v * 30, 4, seed + 9);
        return mixed(kHair, kHairLight, n);
    }
    }
}

void cover(const Path& path, std::vector<float>& alpha, int side) {
    const IntRect area = pixelsAround(path.bounds()).intersected({0, 0, side, side});
    if (area.empty()) return;
    const Buffer<float> share = coverage(path, Affine::translation(-area.x, -area.y), area.w, area.h);
    for (int y = 0; y < area.h; ++y)
        for (int x = 0; x < area.w; ++x) {
            float& a = alpha[size_t(area.y + y) * size_t(side) + size_t(area.x + x)];
            a = 1 - (1 - a) * (1 - share[size_t(y) * size_t(area.w) + size_t(x)]);
        }
}

Path ellipse(Vec2 middle, double rx, double ry) {
    constexpr double kRound = 0.5522847498; // of a quarter of a circle by a cubic
    Path p;
    p.moveTo({middle.x + rx, middle.y});
    p.cubicTo({middle.x + rx, middle.y + ry * kRound}, {middle.x + rx * kRound, middle.y + ry},
              {middle.x, middle.y + ry});
    p.cubicTo({middle.x - rx * kRound, middle.y + ry}, {middle.x - rx, middle.y + ry * kRound},
              {middle.x - rx, middle.y});
    p.cubicTo({middle.x - rx, middle.y - ry * kRound}, {middle.x - rx * kRound, middle.y - ry},
              {middle.x, middle.y - ry});
    p.cubicTo({middle.x + rx * kRound, middle.y - ry}, {middle.x + rx, middle.y - ry * kRound},
              {middle.x + rx, middle.y});
    return p;
}

std::vector<float> alphaOf(int side, uint32_t seed, int strands) {
    std::vector<float> alpha(size_t(side) * size_t(side));
    const double s = side;
    cover(ellipse({0.5 * s, 0.4 * s}, 0.13 * s, 0.17 * s), alpha, side);
    Path neck;
    neck.addRect({0.46 * s, 0.5 * s, 0.08 * s, 0.15 * s});
    cover(neck, alpha, side);
    cover(ellipse({0.5 * s, 0.92 * s}, 0.3 * s, 0.33 * s), alpha, side);
    std::mt19937 random(seed);
    const auto share = [&](double from, double to) {
        return from + (to - from) * double(random() % 10000) / 9999;
    };
    for (int i = 0; i < strands; ++i) {
        // From the crown outwards, blown to the right.
        const double turn = share(-3.6, 0.5);
        const Vec2 root{(0.5 + 0.12 * std::cos(turn)) * s, (0.38 + 0.15 * std::sin(turn)) * s};
        const Vec2 out{std::cos(turn), std::sin(turn)};
        const double length = share(0.05, 0.17) * s;
        const Vec2 tip =
            root + Vec2{out.x * length + share(0, 0.08) * s, out.y * length + share(-0.02, 0.04) * s};
        Path line;
        line.moveTo(root - out * (0.03 * s));
        line.cubicTo(root + out * (length * 0.4), tip - Vec2{0.3 * length, share(-0.2, 0.2) * length}, tip);
        cover(strokeOutline(flattened(line, 0.1), {share(0.6, 1.8) * s / 900}, 0.1), alpha, side);
    }
    return alpha;
}

} // namespace

KnownFigure knownFigure(Ground ground, int side, uint32_t seed, int strands) {
    KnownFigure out;
    out.width = out.height = side;
    out.alpha = alphaOf(side, seed, strands);
    out.figure = Picture::create<uint8_t>(side, side);
    out.photo = Picture::create<uint8_t>(side, side);
    out.figure.opaque = out.photo.opaque = true;
    for (int y = 0; y < side; ++y)
        for (int x = 0; x < side; ++x) {
            const float u = (float(x) + 0.5f) / float(side), v = (float(y) + 0.5f) / float(side);
            const Colour f = figureColour(u, v, seed), b = groundColour(ground, u, v, seed);
            const float a = out.alpha[size_t(y) * size_t(side) + size_t(x)];
            uint8_t* figure = out.figure.row<uint8_t>(y) + 4 * x;
            uint8_t* photo = out.photo.row<uint8_t>(y) + 4 * x;
            for (size_t c = 0; c < 3; ++c) {
                figure[c] = static_cast<uint8_t>(std::lround(255 * f[c]));
                photo[c] = static_cast<uint8_t>(std::lround(255 * (a * f[c] + (1 - a) * b[c])));
            }
            figure[3] = photo[3] = 255;
        }
    return out;
}

Rect boxOf(const KnownFigure& figure) {
    int left = figure.width, top = figure.height, right = 0, bottom = 0;
    for (int y = 0; y < figure.height; ++y)
        for (int x = 0; x < figure.width; ++x)
            if (figure.alpha[size_t(y) * size_t(figure.width) + size_t(x)] > 0.05f) {
                left = std::min(left, x), right = std::max(right, x + 1);
                top = std::min(top, y), bottom = std::max(bottom, y + 1);
            }
    return {double(left), double(top), double(right - left), double(bottom - top)};
}

} // namespace glyptos::test
