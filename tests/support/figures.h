// Figures whose alpha and colours are known: a keeper with wind-blown hair before five kinds of ground.
#pragma once

#include "base/geometry.h"
#include "raster/picture.h"

#include <vector>

namespace glyptos::test {

enum class Ground { Plain, Gradient, Textured, Busy, HairColoured };

struct KnownFigure {
    int width = 0, height = 0;
    std::vector<float> alpha; ///< row by row, 0…1
    Picture figure;           ///< its own colours, everywhere; opaque
    Picture photo;            ///< figure over ground, opaque
};

/// Head and shoulders with `strands` hairs, each about 1 px wide at a side of 900; the same for the same
/// seed.
KnownFigure knownFigure(Ground ground, int side, uint32_t seed, int strands = 500);

/// The smallest box that holds everything with an alpha of more than 0.05.
Rect boxOf(const KnownFigure& figure);

} // namespace glyptos::test
