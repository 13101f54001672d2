// What is certain and what is not: figure, ground, and the band between them whose alpha is to be found.
#pragma once

#include "vision/cutout/alpha_map.h"

namespace glyptos {

/// In a trimap, values of an AlphaMap: 0 is ground, 255 figure, all others uncertain, and some of them rather
/// the one than the other.
inline constexpr uint8_t kProbablyGround = 85, kUncertain = 128, kProbablyFigure = 170;
constexpr bool isUncertain(uint8_t value) {
    return value != 0 && value != 255;
}

/// `mask` (0 or 255) with everything uncertain that lies within `inwards` or `outwards` px of its border.
AlphaMap trimapAround(const AlphaMap& mask, double inwards, double outwards);

/// The trimap at another size, each pixel by the one that it lies in; certain pixels next to the uncertain
/// become uncertain, by `margin` px.
AlphaMap resizedTrimap(const AlphaMap& trimap, int width, int height, int margin);

/// The smallest area that holds all uncertain pixels; empty when there are none.
IntRect uncertainArea(const AlphaMap& trimap);

} // namespace glyptos
