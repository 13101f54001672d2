// Whether words can be read: against what is behind them, and how small.
#pragma once

#include "color/color.h"
#include "raster/path.h"

#include <cstdint>
#include <optional>
#include <span>

namespace glyptos {

/// Contrast ratios of WCAG 2.1 between the colour of words and what is behind them along their edges.
struct EdgeContrast {
    double worst = 21;   ///< of all but the worst twentieth of the edges
    double typical = 21; ///< the median
};

/// `behind` is what is drawn without the words: RGBA8 straight, width × height px without gaps; `cover` how
/// much of each px the words take up. See-through words are mixed with what is behind them; where nothing is
/// behind, paper white is. Nothing when the words have no edge there.
std::optional<EdgeContrast> edgeContrast(std::span<const uint8_t> behind, const Buffer<float>& cover,
                                         int width, int height, const Rgba& ink);

} // namespace glyptos
