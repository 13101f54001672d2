// Art on white paper.
#pragma once

#include "raster/composite.h"

#include <algorithm>

namespace glyptos {

/// A share of 0…1 as a byte, to the nearest; what lies outside is not to be had.
inline uint8_t nearestByte(float share) {
    return uint8_t(std::clamp(share, 0.0f, 1.0f) * 255.0f + 0.5f); // NOLINT(bugprone-incorrect-roundings)
}

/// A row of premultiplied float planes as sRGB bytes, 3 a pixel: what shows through is white.
inline void packRgb8OnWhite(const RowPlanes& row, uint8_t* out, size_t n) {
    for (int c = 0; c < 3; ++c) {
        const float *plane = row.c[c], *alpha = row.c[3];
        for (size_t i = 0; i < n; ++i) out[3 * i + size_t(c)] = nearestByte(plane[i] + 1 - alpha[i]);
    }
}

} // namespace glyptos
