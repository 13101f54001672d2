// Internal to file: crop and fold marks of a print page.
#pragma once

#include "base/units.h"
#include "form/form.h"

#include <string>

namespace glyptos {

/// Width of the band outside the bleed that holds the marks.
inline constexpr Mm kMarkZone{10};

/// PDF operators for the marks: crop marks at the corners of the flat and fold marks at the ends of its
/// folds, 0.25 pt lines in the colour space /Registration, none of them inside the bleed. `mmToPage` maps the
/// flat to points.
std::string markOperators(const Flat& flat, const Affine& mmToPage);

} // namespace glyptos
