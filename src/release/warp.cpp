#include "release/warp.h"

namespace glyptos {

Mapping mappingOf(const Warp& warp, const Rect& own) {
    const Rect box = warp.box.empty() ? own : warp.box;
    Mapping out;
    if (box.empty()) return out;
    if (warp.knead && !warp.knead->empty()) out = Mapping(KneadStage{warp.knead, box});
    if (warp.bend) out = Mapping(BendStage{warp.bend, box}) * out;
    if (warp.corners)
        if (const auto plane = Homography::toCorners(*warp.corners)) {
            const Affine shares = Affine::scaling(1 / box.w, 1 / box.h) * Affine::translation(-box.x, -box.y);
            out = Mapping(*shares.inverse()) * Mapping(Mapping::Stage(*plane)) * Mapping(shares) * out;
        }
    return out;
}

} // namespace glyptos
