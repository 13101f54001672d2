// Internal to raster: rows made half as wide and high.
#pragma once

#include <cstddef>
#include <cstdint>

namespace glyptos {

/// n straight RGBA pixels from two rows of 2n: each the mean of four, as meanOf() has it (mean.h).
void halveRow(const uint8_t* upper, const uint8_t* lower, uint8_t* out, size_t n);

} // namespace glyptos
