// How a layer is kneaded, bent and tilted before it is placed.
#pragma once

#include "raster/warp/mapping.h"

namespace glyptos {

/// From a layer's own frame to that frame: first kneaded, then bent, then tilted. Nothing of it touches the
/// source.
struct Warp {
    /// What is warped, in the layer's own frame: pixels of the whole picture, painted pixels, units of a
    /// group's panel. Empty: as large as the words or the shape happen to be.
    Rect box;
    /// Where its corners go, in shares of the box, clockwise from left top.
    std::optional<std::array<Vec2, 4>> corners;
    std::shared_ptr<const BendSurface> bend;
    std::shared_ptr<const KneadField> knead;

    bool empty() const { return !corners && !bend && !knead; }
    bool operator==(const Warp& o) const {
        const auto same = [](const auto& a, const auto& b, const auto& value) {
            return a == b || (a && b && value(*a) == value(*b));
        };
        return box == o.box && corners == o.corners &&
               same(bend, o.bend, [](const BendSurface& s) -> const BendGrid& { return s.grid(); }) &&
               same(knead, o.knead, [](const KneadField& f) -> const KneadField& { return f; });
    }
};

/// `own`: the box when the warp has none. The identity for corners that make no plane.
Mapping mappingOf(const Warp& warp, const Rect& own);

} // namespace glyptos
