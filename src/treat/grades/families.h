// Internal to grades: a colour told as grey and two neighbouring families of hue.
//
// With its channels in order, max ≥ mid ≥ min, a colour is min of white, mid - min of the secondary and
// max - mid of the primary between whose hues it lies; that is exact and changes smoothly from hue to hue.
#pragma once

#include "treat/vector_math.h"

namespace glyptos::rows {

/// How much there is of each family, 0…1; red, yellow, green, cyan, blue, magenta.
struct Families {
    float hue[6];
    float least, most; ///< of the channels
};

GLYPTOS_IN_ROWS Families familiesOf(float r, float g, float b) {
    const float rg = r < g ? r : g, gb = g < b ? g : b, rb = r < b ? r : b;
    const float RG = r < g ? g : r, GB = g < b ? b : g, RB = r < b ? b : r;
    const float least = rg < b ? rg : b, most = RG > b ? RG : b;
    const auto above = [](float v) { return v > 0 ? v : 0.0f; };
    return {{above(r - GB), above(rg - b), above(g - RB), above(gb - r), above(b - RG), above(rb - g)},
            least,
            most};
}

} // namespace glyptos::rows
