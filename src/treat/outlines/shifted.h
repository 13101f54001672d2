// Internal to treat: what shows, smoothed and seen off to a side.
#pragma once

#include "treat/filters.h"

namespace glyptos {

struct Shifted {
    WideGaussian how;
    int dx, dy; ///< px
    Need need() const {
        Need out = how.need();
        out.reach += (std::max(std::abs(dx), std::abs(dy)) >> out.level) + 1;
        return out;
    }
    /// Over `area`; what falls there stands off by the shift.
    Plane of(const Plane& input, const IntRect& area) const {
        Plane out = smoothed(input, how, {area.x - dx, area.y - dy, area.w, area.h});
        out.area = area;
        return out;
    }
    Planes of(const Planes& input, const IntRect& area) const {
        Planes out;
        out.area = area;
        for (int c = 0; c < 4; ++c) out.c[c] = of(input.c[c], area);
        return out;
    }
};

/// Towards a direction (degrees) by a distance; smoothed by half of `softness`; units of the piece.
inline Shifted shifted(const Place& place, double direction, double distance, double softness) {
    const Vec2 way = place.way(direction, distance);
    return {wideGaussian(place.px(softness) / 2), int(std::lround(way.x)), int(std::lround(way.y))};
}

} // namespace glyptos
