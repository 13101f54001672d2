// Internal to treat: pixels seen at places between them.
#pragma once

#include "treat/planes.h"

#include <cmath>

namespace glyptos {

struct Sample {
    float c[4];
};

/// Between the four nearest pixel middles; (x, y) in output px, those of the edge beyond it.
inline Sample sampledAt(const Planes& in, float x, float y) {
    const IntRect& a = in.area;
    const float px = std::clamp(x - 0.5f - float(a.x), 0.0f, float(a.w - 1)),
                py = std::clamp(y - 0.5f - float(a.y), 0.0f, float(a.h - 1));
    const int ix = std::min(int(px), std::max(a.w - 2, 0)), iy = std::min(int(py), std::max(a.h - 2, 0));
    const int right = std::min(ix + 1, a.w - 1), below = std::min(iy + 1, a.h - 1);
    const float fx = px - float(ix), fy = py - float(iy);
    Sample out{};
    for (int c = 0; c < 4; ++c) {
        const float *first = in.row(c, a.y + iy), *second = in.row(c, a.y + below);
        const float top = first[ix] + (first[right] - first[ix]) * fx;
        const float bottom = second[ix] + (second[right] - second[ix]) * fx;
        out.c[c] = top + (bottom - top) * fy;
    }
    return out;
}

} // namespace glyptos
