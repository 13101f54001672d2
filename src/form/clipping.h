// Internal to form: outlines as whole numbers, which the clipping library counts in.
#pragma once

#include "raster/path.h"

#include <polyclipping/clipper.hpp>

namespace glyptos {

/// Steps to a unit.
inline constexpr double kClippingSteps = 1e5;

/// Curves become lines within 0.001 units.
ClipperLib::Paths toSteps(const Path& path);
Path fromSteps(const ClipperLib::Paths& contours);

} // namespace glyptos
