// Art on white paper.
#pragma once

#include "raster/composite.h"

#include <algorithm>

namespace glyptos {

/// A row of premultiplied float planes as sRGB bytes, 3 a pixel: what shows through is white. To the nearest;
/// what lies outside 0…1 is not to be had in bytes.
inline void packRgb8OnWhite(const RowPlanes& row, uint8_t* out, size_t n) {
    for (int c = 0; c < 3; ++c) {
        const float *plane = row.c[c], *alpha = row.c[3];
        for (size_t i = 0; i < n; ++i)
            out[3 * i + size_t(c)] = uint8_t(std::clamp(plane[i] + 1 - alpha[i], 0.0f, 1.0f) * 255.0f + 0.5f);
    }
}

} // namespace glyptos
