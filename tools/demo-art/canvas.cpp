#include "canvas.h"

#include "file/pictures/picture_writer.h"
#include "raster/noise.h"

#include <cmath>

namespace glyptos::demo {
namespace {

uint8_t byte(float v) {
    return static_cast<uint8_t>(std::clamp(v, 0.0f, 1.0f) * 255 + 0.5f);
}

} // namespace

void Canvas::grain(float strength, uint32_t seed) {
    run([&](int x, int y, Dot& dot) {
        const float g = (hashNoise(x, y, seed) + hashNoise(x, y, seed + 1) - 1) * strength;
        dot.ink = dot.ink + Ink{g, g, g};
    });
}

std::vector<uint8_t> Canvas::jpeg(int quality) const {
    std::vector<uint8_t> rgb;
    rgb.reserve(dots.size() * 3);
    for (const Dot& d : dots) rgb.insert(rgb.end(), {byte(d.ink.r), byte(d.ink.g), byte(d.ink.b)});
    return encodeJpeg(rgb, width, height, quality, {300}).value();
}

std::vector<uint8_t> Canvas::png() const {
    std::vector<uint8_t> rgba;
    rgba.reserve(dots.size() * 4);
    for (const Dot& d : dots)
        rgba.insert(rgba.end(), {byte(d.ink.r), byte(d.ink.g), byte(d.ink.b), byte(d.alpha)});
    return encodePng(rgba, width, height, {300}).value();
}

Path stroke(const Curve& curve, const Widths& widths) {
    const auto& [a, b, c, d] = curve;
    const auto& [w0, w1, w2] = widths;
    constexpr int kSteps = 24;
    std::vector<Vec2> left, right;
    for (int i = 0; i <= kSteps; ++i) {
        const double t = double(i) / kSteps, s = 1 - t;
        const Vec2 p = a * (s * s * s) + b * (3 * s * s * t) + c * (3 * s * t * t) + d * (t * t * t);
        const Vec2 dir = (b - a) * (3 * s * s) + (c - b) * (6 * s * t) + (d - c) * (3 * t * t);
        const double length = std::max(dir.length(), 1e-9),
                     w = (t < 0.5 ? w0 + (w1 - w0) * 2 * t : w1 + (w2 - w1) * (2 * t - 1)) / 2;
        const Vec2 side{-dir.y / length * w, dir.x / length * w};
        left.push_back(p + side);
        right.push_back(p - side);
    }
    Path path;
    path.moveTo(left[0]);
    for (size_t i = 1; i < left.size(); ++i) path.lineTo(left[i]);
    for (size_t i = right.size(); i-- > 0;) path.lineTo(right[i]);
    return path;
}

} // namespace glyptos::demo
