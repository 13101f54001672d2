// How different two colours look.
#pragma once

#include "color/color.h"

namespace glyptos {

/// CIE L*a*b* of a D65 white (CIE 15; linear light of IEC 61966-2-1): L 0…100, a and b within about ±128.
struct Lab {
    double L = 0, a = 0, b = 0;
};
/// Alpha is left out.
Lab toLab(const Rgba& colour);

/// CIEDE2000 with all weights 1 (ISO/CIE 11664-6; G. Sharma, W. Wu, E. N. Dalal, "The CIEDE2000
/// color-difference formula", 2005): about 1 can just be told apart, black and white are 100 apart.
double ciede2000(const Lab& one, const Lab& other);

} // namespace glyptos
