// The W3C formulas (Compositing and Blending Level 1) in plain double arithmetic on straight colours, written
// down apart from the kernels'.
#pragma once

#include "raster/blend_modes.h"

#include <array>

namespace glyptos::test {

using Three = std::array<double, 3>;

/// Colour straight unless said otherwise, 0…1.
struct StraightPixel {
    Three c{};
    double a = 0;
};

/// `s` blended over `b`. The result's colour is premultiplied, so that nothing is divided by a small alpha.
StraightPixel composited(BlendMode mode, const StraightPixel& b, const StraightPixel& s);

} // namespace glyptos::test
