// Words for colours, and for the relations between them.
#pragma once

#include "color/oklab.h"

#include <string>
#include <vector>

namespace glyptos {

/// Families of colours that people sort pictures by.
enum class ColourFamily : unsigned char {
    Red,
    Orange,
    Yellow,
    Green,
    Teal,
    Blue,
    Violet,
    Pink,
    Brown,
    Black,
    Grey,
    White
};
inline constexpr int kColourFamilies = 12;
/// "Red", "Orange", …
const char* nameOf(ColourFamily family);
ColourFamily familyOf(const Oklab& colour);

/// A plain name such as "deep blue", "pale warm grey" or "vivid orange", from lightness, chroma and hue in
/// Oklab.
std::string nameOf(const Rgba& colour);

/// Colours that go with one, each set by a rule on the hue circle.
struct Harmony {
    std::string name;
    std::vector<Rgba> colours; ///< the given one first
};
/// Opposite, two beside the opposite, neighbours, three and four round the circle, and one hue from dark to
/// light. Chroma is lowered where sRGB cannot show a colour.
std::vector<Harmony> harmoniesOf(const Rgba& colour);

/// Contrast ratio of two opaque colours, 1…21, by the Web Content Accessibility Guidelines 2.2 (relative
/// luminance of sRGB).
double contrastRatio(const Rgba& a, const Rgba& b);
/// What the guidelines say of words in these colours: "AAA" from 7, "AA" from 4.5, "AA large" from 3, else
/// "too low".
const char* contrastGrade(double ratio);

} // namespace glyptos
