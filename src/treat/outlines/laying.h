// Internal to treat: flat colours laid under, over and into what shows.
#pragma once

#include "color/color.h"
#include "treat/planes.h"

namespace glyptos {

/// A plane as an area of one colour: `cover` times its alpha and `opacity`.
struct Tint {
    const Plane& cover;
    const Rgba& colour;
    float opacity = 1;
};

/// `below` under `over`, in place.
void layUnder(const Tint& below, Planes& over);
/// `tint` over what is there, as covering as that stays.
void layInside(const Tint& tint, Planes& on);
void layOver(const Tint& tint, Planes& on);

} // namespace glyptos
