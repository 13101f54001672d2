// What is dragged along its way: how far it must have come to be seen nearest to a point.
#pragma once

#include "base/geometry.h"

#include <cmath>
#include <optional>

namespace glyptos {

/// `seen` tells where it is seen (px) once it has come as far as a share of 0…1, or nothing; `now` is how far
/// it has come. Of two ways that are as near, the one nearer to that.
template <class Seen>
double nearestShare(Seen seen, double now, Vec2 at) {
    constexpr int kTries = 181;
    constexpr double kStay = 12; // px that all of the way must be nearer by
    double best = now, least = 1e30;
    for (int i = 0; i < kTries; ++i) {
        const double share = double(i) / (kTries - 1);
        const std::optional<Vec2> there = seen(share);
        if (!there) continue;
        const double off = (*there - at).length() + kStay * std::abs(share - now);
        if (off < least) least = off, best = share;
    }
    return best;
}

} // namespace glyptos
