// Places on contours, and nodes put there.
#pragma once

#include "release/shape.h"

namespace glyptos {

/// A place on a contour: on the curve that starts at a node, `t` of its run, 0…1.
struct ContourPlace {
    size_t node = 0;
    double t = 0;
};

/// The point at that place. An open contour has no curve after its last node.
Vec2 pointOn(const Contour& contour, const ContourPlace& place);
/// The place nearest to a point once the contour is mapped by `map`, among 64 of each curve, and how far off
/// it is; nothing for a contour without curves.
std::optional<std::pair<ContourPlace, double>> nearestPlace(const Contour& contour, const Affine& map,
                                                            Vec2 point);
/// The contour with one more node at that place, its form unchanged (de Casteljau's construction).
Contour withNodeAt(Contour contour, const ContourPlace& place);
/// The contour with a smooth node where there was a corner, or a corner where the node had handles.
Contour withSmoothed(Contour contour, size_t node);

} // namespace glyptos
