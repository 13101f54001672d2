#include "scene/fold/grab.h"

#include "scene/draw/nearest_share.h"
#include "scene/draw/rasterize.h"
#include "scene/draw/seen_facet.h"

#include <algorithm>

namespace glyptos {
namespace {

/// The box of a board from one side, at `height` over its printed side.
Facet sideOf(const Rect& box, const Pose& pose, double height, bool fromBehind) {
    Facet out;
    out.corner = pose.map({fromBehind ? box.right() : box.x, box.y, height});
    out.right = pose.mapVector({fromBehind ? -box.w : box.w, 0, 0});
    out.down = pose.mapVector({0, box.h, 0});
    return out;
}

bool isBoard(const Board& board, Vec2 onFlat) {
    return board.outline.contains(onFlat) &&
           std::none_of(board.holes.begin(), board.holes.end(),
                        [&](const Outline& hole) { return hole.contains(onFlat); });
}

} // namespace

std::optional<Grab> boardAt(const Folding& folding, const FoldShares& shares, const Eye& eye, Vec2 at) {
    std::optional<Grab> out;
    double nearest = 0; // one over the depth
    const std::vector<Pose> poses = folding.poses(shares);
    for (size_t i = 0; i < poses.size(); ++i) {
        const Board& board = folding.boards()[i];
        const Rect& box = board.outline.box;
        for (const bool fromBehind : {false, true}) {
            if (box.empty()) continue;
            const Facet side = sideOf(box, poses[i], fromBehind ? -folding.thickness() : 0, fromBehind);
            const auto seen = seenFacet(side, eye);
            if (!seen) continue;
            const double w = seen->q[2].at(at.x, at.y);
            const double s = seen->q[0].at(at.x, at.y) / w, t = seen->q[1].at(at.x, at.y) / w;
            if (w <= nearest || s < 0 || t < 0 || s > 1 || t > 1) continue;
            const Vec2 onFlat{fromBehind ? box.right() - s * box.w : box.x + s * box.w, box.y + t * box.h};
            if (isBoard(board, onFlat)) nearest = w, out = Grab{i, onFlat};
        }
    }
    return out;
}

std::optional<FoldTowards> foldTowards(const Folding& folding, const FoldShares& shares, const Grab& grab,
                                       const Eye& eye, Vec2 at) {
    const auto hinge = std::find_if(folding.hinges().begin(), folding.hinges().end(),
                                    [&](const Hinge& h) { return h.child == grab.board; });
    if (hinge == folding.hinges().end()) return std::nullopt;
    FoldShares tried = shares;
    const auto seen = [&](double share) {
        tried[hinge->fold] = share;
        const Pose pose = folding.poses(tried)[grab.board];
        return seenAt(pose.map({grab.onFlat.x, grab.onFlat.y, 0}), eye);
    };
    return FoldTowards{hinge->fold, nearestShare(seen, shares[hinge->fold], at)};
}

} // namespace glyptos
