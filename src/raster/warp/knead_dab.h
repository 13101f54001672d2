// Internal to kneading: one dab of a stroke.
#pragma once

#include "raster/warp/knead_field.h"

namespace glyptos {

inline constexpr double kLongestDab = 1.0 / 11; ///< in radii

/// One dab, in steps of the lattice.
struct KneadDab {
    KneadWay way;
    Vec2 from, to, middle;
    double radius, strength, width, height; ///< of what is kneaded
    bool holdEdges;
    const std::function<float(Vec2)>& freedom;
};

/// Does a dab to the nodes of a patch. One that would fold them is done more weakly, or not at all.
void apply(KneadDab dab, ShiftPatch& patch);
/// The nodes that it can move.
IntRect reachOf(const KneadDab& dab);

} // namespace glyptos
