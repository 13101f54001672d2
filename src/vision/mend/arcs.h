// Internal to mending: circles on which an edge runs through the hole, such as the rim of a moon.
#pragma once

#include "vision/mend/work_picture.h"

namespace glyptos::mending {

struct Arc {
    Vec2 centre;
    double radius = 0;  ///< px
    double spanned = 0; ///< degrees of it that the hole covers
};

/// Edges that end at the hole are paired where one circle, at right angles to the steps of light at both,
/// goes through both and through the hole; it is fitted to the edge on both sides. None where
/// many edges end at the hole, as in a texture.
std::vector<Arc> arcsThrough(const WorkPicture& picture);

} // namespace glyptos::mending
