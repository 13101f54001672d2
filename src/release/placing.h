// Moving, scaling, turning and fitting layers as values, groups and linked masks included.
#pragma once

#include "release/release.h"

namespace glyptos {

/// From the frame of what is placed, whose middle or anchor is (0, 0), to the panel.
Affine placementMap(const Placement& placement);
/// The placement whose map is `map`; flips of `like` are kept where both say the same. Fails (nothing) when
/// the map flattens the plane.
std::optional<Placement> placementOf(const Affine& map, const Placement& like);

/// The layer mapped on the panel. Fills stay where they are. Stroke widths, corner radii and type sizes stay;
/// scaled() changes them with the layer.
Layer transformed(Layer layer, const Affine& onPanel);
/// The layer moved by `by`, panel units. Fills stay where they are.
Layer moved(Layer layer, Vec2 by);
/// The layer `factor` times as large, the point `about` staying where it is. `factor` > 0.
Layer scaled(Layer layer, Vec2 about, double factor);
/// The layer kx and ky times as large along the axes of a frame turned by `turn`, about a point. kx, ky > 0.
Layer stretchedAlong(Layer layer, Vec2 about, double turn, double kx, double ky);
/// The layer turned clockwise about a point.
Layer turned(Layer layer, Vec2 about, double degrees);
/// The layer mirrored left to right (or top to bottom) about its position.
Layer flipped(Layer layer, bool upDown);

/// The layer warped so, or no longer when that is nothing. A group, which is placed by what is in it until
/// then, lies where it lay. Fills have no frame and stay as they are.
Layer withWarp(Layer layer, std::shared_ptr<const Warp> warp);

/// Upright placement in which a picture of width × height pixels, of which `crop` shows, just covers `area`,
/// centred.
Placement covering(const Rect& area, const Source& source, const Rect& crop = {0, 0, 1, 1});
/// Upright placement inside `area` without covering more than `share` of its width or height, centred on
/// `centre`.
Placement within(const Rect& area, const Source& source, double share, Vec2 centre);

/// The picture as a reference laid over `area`, as large as covers it.
Reference referenceOver(const Rect& area, const Source& source);

/// The crop of `layer` changed so that what stays visible does not move on the panel.
Layer cropped(Layer layer, const Rect& crop);
/// The picture slid under its frame, which stays: by `by` on the panel, as far as there is picture.
Layer slid(Layer layer, Vec2 by, const Source& source);
/// The picture upright, covering `area` and cropped to it.
Layer laidOver(Layer layer, const Rect& area, const Source& source);
/// Another picture in the same frame, covering it, the middle of the picture in the middle.
Layer withPicture(Layer layer, const Source& old, const Source& source);

/// Pixels per inch at which a picture prints, the lower of both directions; for pieces in mm.
double effectivePpi(const Placement& placement);

} // namespace glyptos
