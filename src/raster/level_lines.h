// Lines along which a field has one value.
#pragma once

#include "base/geometry.h"

#include <vector>

namespace glyptos {

/// Closed lines round where a field of w × h samples, rows `stride` apart, lies above `level`: points in
/// samples, of which (i, j) lies at (i + ½, j + ½); the first is not repeated. Between samples the field is
/// straight; beyond its edge it is below, so that lines run along the edge there. What is above lies on the
/// same side of every line, so holes run the other way round (W. Lorensen, H. Cline, "Marching cubes", 1987,
/// in two dimensions; where two corners of a cell that face each other are above, the mean says whether they
/// are joined).
std::vector<std::vector<Vec2>> levelLines(const float* values, size_t stride, int w, int h, float level);

} // namespace glyptos
