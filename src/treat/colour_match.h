// The colours of one picture made to lie like those of another.
#pragma once

#include "color/color.h"
#include "treat/look_table.h"

#include <span>

namespace glyptos {

/// How colours lie in Oklab: their mean and how they vary together.
struct ColourSpread {
    std::array<double, 3> mean{};
    std::array<std::array<double, 3>, 3> covariance{};
    size_t count = 0; ///< of colours; 0: there were none
};

/// Of straight, encoded colours; what is less than half opaque does not count.
ColourSpread spreadOf(std::span<const Rgba> colours);

/// A cube of 33 that gives colours which lie like `from` the mean and covariance of `to`, with the least
/// change: the linear map of Monge and Kantorovich (F. Pitié, A. Kokaram, "The linear Monge-Kantorovitch
/// linear colour mapping for example-based colour transfer", 2007), in Oklab. What `from` hardly varies in is
/// not drawn out beyond measure. The identity when one of them is empty.
LookTable matchTable(const ColourSpread& from, const ColourSpread& to, std::string title);

} // namespace glyptos
