// A curve through what a hand has drawn.
#pragma once

#include "release/shape.h"

#include <vector>

namespace glyptos {

/// An open contour of cubic curves that stays within `tolerance` of the points (P. J. Schneider, "An
/// algorithm for automatically fitting digitized curves", Graphics Gems, 1990); corners sharper than 60° stay
/// corners. Points that lie on each other count once; one point by itself gives one node.
Contour fittedContour(const std::vector<Vec2>& points, double tolerance);

} // namespace glyptos
