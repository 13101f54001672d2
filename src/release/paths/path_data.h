// Path data as in SVG 1.1, section 8.3, without elliptical arcs.
#pragma once

#include "base/error.h"
#include "release/shape.h"

#include <string_view>

namespace glyptos {

/// The contours that M, L, H, V, C, S, Q, T and Z (and their relative forms) describe; quadratic curves
/// become cubic ones. Fails on anything else, saying where.
Result<std::vector<Contour>> contoursFromPathData(std::string_view data);

} // namespace glyptos
