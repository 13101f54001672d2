// Outlines as contours whose nodes can be moved.
#pragma once

#include "raster/contour.h"

namespace glyptos {

/// Quadratic curves become cubic ones of the same course. A contour that ends where it began has that node
/// once.
std::vector<Contour> contoursOf(const Path& path);

} // namespace glyptos
