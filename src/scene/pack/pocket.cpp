#include "scene/pack/packages.h"

#include <algorithm>

namespace glyptos {
namespace {

/// Boards that lie as the front does, by the z of their middles, the nearest first.
struct Lying {
    double z;
    bool large; ///< at least half of the front
};
std::vector<Lying> lyingBehind(const PackedPiece& sleeve) {
    const Folding& folding = *sleeve.folding;
    const auto poses = folding.poses(folding.sharesAt(1));
    const auto area = [&](size_t i) {
        const Rect& box = folding.boards()[i].outline.box;
        return box.w * box.h;
    };
    const size_t front = sleeve.flat->front;
    std::vector<Lying> out;
    for (size_t i = 0; i < poses.size(); ++i) {
        constexpr double kFlat = 0.99;
        if (i == front || area(i) <= 0 || std::abs(poses[i].z.z) < kFlat) continue;
        const Vec2 centre = folding.boards()[i].outline.box.centre();
        out.push_back(
            {poses[i].map({centre.x, centre.y, -folding.thickness() / 2}).z, area(i) > area(front) / 2});
    }
    std::sort(out.begin(), out.end(), [](const Lying& a, const Lying& b) { return a.z > b.z; });
    return out;
}

} // namespace

/// The widest between two boards that follow one another.
Pocket pocketOf(const PackedPiece& sleeve) {
    const double t = sleeve.folding->thickness();
    constexpr double kOpen = 3; // mm, where nothing closes it
    Pocket widest{-t, -t};
    double top = -t;
    for (const Lying& board : lyingBehind(sleeve)) {
        if (board.z > -t) continue; // before the front
        const Pocket here{top, board.z + t / 2};
        if (here.gap() > widest.gap()) widest = here;
        top = board.z - t / 2;
        if (board.large) return widest;
    }
    return {-t, -t - kOpen};
}

} // namespace glyptos
