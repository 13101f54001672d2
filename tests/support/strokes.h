// Strokes of brushes for tests, and what is seen of them.
#pragma once

#include "raster/brush/painted_stroke.h"

namespace glyptos::test {

inline constexpr PixelFormat kMask{1, 1}, kPaint{4, 1}, kDeepPaint{4, 2};
inline constexpr IntRect kAll{-600, -600, 2400, 2400};

inline double at(const DabLayer& stroke, int x, int y) {
    float out[4]{};
    stroke.readRow(x, y, 1, {&out[0], &out[1], &out[2], &out[3]});
    return double(out[0]);
}

inline Brush round(double diameter, double hardness, double flow = 1) {
    Brush out;
    out.diameter = diameter, out.hardness = hardness, out.flow = flow;
    return out;
}

inline PaintedStroke strokeOf(const Brush& brush, std::array<float, 3> colour = {}) {
    return PaintedStroke(brush, tipLook(brush, colour), kAll);
}

inline std::array<int, 4> pixel(const PixelTiles& tiles, int x, int y) {
    std::array<uint8_t, 4> v{};
    tiles.readRow(x, y, 1, v.data());
    return {v[0], v[1], v[2], v[3]};
}

} // namespace glyptos::test
