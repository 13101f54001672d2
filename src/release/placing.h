// Moving, scaling and turning layers as values, groups included.
#pragma once

#include "release/release.h"

namespace glyptos {

/// The layer moved by `by`, panel units. Fills stay where they are.
Layer moved(Layer layer, Vec2 by);
/// The layer `factor` times as large, the point `about` staying where it is. `factor` > 0.
Layer scaled(Layer layer, Vec2 about, double factor);
/// The layer turned clockwise about a point.
Layer turned(Layer layer, Vec2 about, double degrees);
/// The layer mirrored left to right (or top to bottom) about its position.
Layer flipped(Layer layer, bool upDown);

/// Upright placement in which a picture of width × height pixels, of which `crop` shows, just covers `area`,
/// centred.
Placement covering(const Rect& area, const Source& source, const Rect& crop = {0, 0, 1, 1});
/// Upright placement inside `area` without covering more than `share` of its width or height, centred on
/// `centre`.
Placement within(const Rect& area, const Source& source, double share, Vec2 centre);

/// The crop of `layer` changed so that what stays visible does not move on the panel.
Layer cropped(Layer layer, const Rect& crop);

/// Pixels per inch at which a picture prints, the lower of both directions; for pieces in mm.
double effectivePpi(const Placement& placement);

} // namespace glyptos
