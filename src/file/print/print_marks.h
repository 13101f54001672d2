// Crop and fold marks of a print page.
#pragma once

#include "base/units.h"
#include "form/flat.h"

#include <string>
#include <vector>

namespace glyptos {

/// Width of the band outside the bleed that holds the marks.
inline constexpr Mm kMarkZone{10};

/// One line of 0.25 pt, in mm on the flat.
struct PageMark {
    Vec2 from, to;
    bool fold = false; ///< dashed, in line with a fold; else solid, in line with the trim
};

/// Crop marks at the corners of a sheet and fold marks at the ends of those folds that cross it, all of them
/// between the bleed and the edge of the page. Folds along the trim have the crop marks.
std::vector<PageMark> pageMarks(const Flat& flat, size_t sheet);

/// Height of the band below that of the marks that holds the slug.
inline constexpr Mm kSlugZone{9};

/// The whole page in mm on the flat: the bleed and the band of marks round it, and below it that of the slug.
Rect pageArea(const Sheet& sheet, bool slug = false);

/// The marks as PDF operators in the colour space /Registration. `mmToPage` maps the flat to points.
std::string markOperators(const Flat& flat, size_t sheet, const Affine& mmToPage);

} // namespace glyptos
