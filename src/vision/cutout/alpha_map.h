// How much of each pixel belongs to a figure.
#pragma once

#include "base/geometry.h"

#include <cstdint>
#include <vector>

namespace glyptos {

/// One byte a pixel, row by row: 0 is ground, 255 figure.
struct AlphaMap {
    int width = 0, height = 0;
    std::vector<uint8_t> values;

    AlphaMap() = default;
    AlphaMap(int w, int h, uint8_t value = 0)
        : width(w)
        , height(h)
        , values(size_t(w) * size_t(h), value) {}
    uint8_t& at(int x, int y) { return values[size_t(y) * size_t(width) + size_t(x)]; }
    uint8_t at(int x, int y) const { return values[size_t(y) * size_t(width) + size_t(x)]; }
};

} // namespace glyptos
