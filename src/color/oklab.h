// A perceptual colour space: equal steps look about equally large.
//
// Oklab: B. Ottosson, "A perceptual color space for image processing" (2020), as in CSS Color Module Level 4.
#pragma once

#include "color/color.h"

namespace glyptos {

/// L 0 (black) … 1 (white); a green to red, b blue to yellow, both within about ±0.4 for sRGB.
struct Oklab {
    float L = 0, a = 0, b = 0;
    bool operator==(const Oklab&) const = default;
};

/// The same in polar form: chroma 0 … about 0.32 and hue in degrees, 0 … 360 (29 is red, 142 green, 264
/// blue).
struct Oklch {
    double L = 0, C = 0, h = 0;
};

/// Alpha is left out.
Oklab toOklab(const Rgba& colour);
/// May lie outside 0…1 where sRGB cannot show it.
Rgba toRgba(const Oklab& colour);
Oklch toOklch(const Oklab& colour);
Oklab toOklab(const Oklch& colour);

/// Distance as seen: about 0.02 can just be told apart, black and white are 1 apart.
float distance(const Oklab& a, const Oklab& b);
/// Its square, which is quicker to compare.
inline float squaredDistance(const Oklab& a, const Oklab& b) {
    const float l = a.L - b.L, u = a.a - b.a, v = a.b - b.b;
    return l * l + u * u + v * v;
}

/// The colour that sRGB can show with that lightness (kept within 0…1) and hue and as much of the chroma as
/// it can.
Rgba shownAs(const Oklch& colour);

/// sRGB-encoded to linear light, IEC 61966-2-1, for 0…1.
float linearFromEncoded(float v);

} // namespace glyptos
