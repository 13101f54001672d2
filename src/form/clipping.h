// Internal to form: outlines as whole numbers, which the clipping library counts in.
#pragma once

#include "raster/path.h"

#include <polyclipping/clipper.hpp>
#include <utility>
#include <vector>

namespace glyptos {

/// Steps to a unit.
inline constexpr double kClippingSteps = 1e5;

/// Curves become lines within 0.001 units.
ClipperLib::Paths toSteps(const Path& path);
Path fromSteps(const ClipperLib::Paths& contours);
ClipperLib::IntPoint toStep(Vec2 p);
Vec2 fromStep(const ClipperLib::IntPoint& p);

/// The stretches of a straight line that lie within an area.
std::vector<std::pair<Vec2, Vec2>> stretchesWithin(Vec2 from, Vec2 to, const ClipperLib::Paths& area);

} // namespace glyptos
