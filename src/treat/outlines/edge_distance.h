// Internal to treat: how far every pixel is from the outline of what shows.
#pragma once

#include "treat/filters.h"

namespace glyptos {

/// Distance in px to where `alpha` passes one half, positive outside and negative inside, over alpha.area; at
/// least `most` where there is no outline within that. Edges are taken between pixels, from how much of them
/// is covered (S. Gustavson, R. Strand, "Anti-aliased Euclidean distance transform", 2011), and carried on by
/// vectors (P.-E. Danielsson, "Euclidean distance mapping", 1980).
Plane edgeDistance(const Plane& alpha, float most);

/// How distances up to `reachPx` are had: from the layer halved so often that they are at most 24 px there.
struct DistanceLevel {
    int level = 0;
    double reach = 0; ///< px of that level
    Need need() const;
};
DistanceLevel distanceLevel(double reachPx);
/// From what need() asked for, in px of level 0, over `area`. Where it was halved the edge itself, within two
/// px of that level, is softer than it is: use the layer's own alpha there.
Plane distances(const Planes& input, const DistanceLevel& how, const IntRect& area);

} // namespace glyptos
