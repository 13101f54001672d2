// Internal to draw: facets as a camera sees them.
#pragma once

#include "scene/draw/facet.h"

namespace glyptos {

/// Three figures of a pixel that change evenly from pixel to pixel.
struct EvenlyChanging {
    double atZero = 0, alongX = 0, alongY = 0;
    double at(double x, double y) const { return atZero + alongX * x + alongY * y; }
};

/// A facet on the picture: q[0] / q[2] and q[1] / q[2] are the shares of its right and down edges that a
/// pixel lies at, and q[2] is one over its depth. (Heckbert, Fundamentals of Texture Mapping and Image
/// Warping, 1989, 2.2.) A pixel lies on it where 0 ≤ q[0], q[1] ≤ q[2].
struct SeenFacet {
    const Facet* facet = nullptr;
    Vec3 corner, right, down; ///< as the camera sees them
    EvenlyChanging q[3];
    Rect bounds; ///< px from the middle of the picture
};

/// Nothing when it shows its other side, or no area at all, or reaches behind the eye.
std::optional<SeenFacet> seenFacet(const Facet& facet, const Eye& eye);

/// From the matrix whose columns are right, down and corner in homogeneous pixels; false where it is flat.
bool setPlanes(const Vec3& right, const Vec3& down, const Vec3& corner, EvenlyChanging (&q)[3]);

} // namespace glyptos
