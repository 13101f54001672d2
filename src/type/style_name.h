// What the name of a style says: "SemiBold Condensed Italic".
#pragma once

#include <string_view>

namespace glyptos {

/// On the scales of fontconfig: weight 0 (thin) to 210 (black), 80 regular; width in per cent of the normal
/// one; slant 0 upright, 100 italic, 110 oblique.
struct StyleTraits {
    int weight = 80, width = 100, slant = 0;
    bool operator==(const StyleTraits&) const = default;
};

/// Read off the words of the name, whatever stands between them ("Semi Bold", "Semi-Bold" and "DemiBold" are
/// one). What the name does not say is regular.
StyleTraits traitsOf(std::string_view styleName);

/// How far apart two styles look; 0 when they are the same. An upright letter for a slanted one is worst,
/// then width, then weight.
int distance(const StyleTraits& a, const StyleTraits& b);

} // namespace glyptos
