// One print of a brush's tip.
#pragma once

#include "base/geometry.h"

#include <array>
#include <cstdint>
#include <vector>

namespace glyptos {

struct Dab {
    /// From the tip's own frame, in which a round one is the disc of radius 1, to what is painted on.
    Affine place;
    Vec2 from;          ///< the middle was drawn along from there; one dab: where it is
    float cover = 1;    ///< 0…1
    float shade = 0;    ///< -1 black … 1 white: how far the colour goes there
    float hue = 0;      ///< degrees that the colour is turned by
    uint32_t stamp = 0; ///< of several, which, before it is counted round
    double along = 0;   ///< way of the stroke to here, units

    Vec2 at() const { return {place.e, place.f}; }
    bool isDrawn() const { return !(from == at()); }
    /// The pixels that it can touch.
    Rect bounds() const;
};
using Dabs = std::vector<Dab>;

/// The same dab on something that `map` leads to.
Dab mapped(const Dab& dab, const Affine& map);
/// About its own middle.
Dab scaled(Dab dab, double by);

/// A colour, sRGB-encoded, as a dab shows it: its hue turned at equal luma (P. Haeberli, "Matrix operations
/// for image processing", 1993: red and blue less luma, with the weights of ITU-R BT.709), then mixed with
/// white or black.
std::array<float, 3> shaded(const std::array<float, 3>& colour, const Dab& dab);

} // namespace glyptos
