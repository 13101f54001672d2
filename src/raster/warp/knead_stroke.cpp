#include "raster/warp/knead_dab.h"

#include <cmath>

namespace glyptos {
namespace {

constexpr double kNodesARadius = 32;    ///< at least as many steps of the lattice to a tip's radius
constexpr double kLeastMove = 1.0 / 32; ///< in radii

} // namespace

KneadStroke::KneadStroke(const KneadField& before, KneadTip tip)
    : field_(before)
    , tip_(std::move(tip)) {
    if (field_.empty()) field_.across = KneadField{}.across;
    while (tip_.radius * field_.across < kNodesARadius && field_.across < kFinestKnead) {
        if (field_.empty())
            field_.across *= 2;
        else
            field_ = refined(field_);
    }
}

/// All the way in one go: the lattice is laid out once, and made into tiles once.
void KneadStroke::dabs(Vec2 from, Vec2 to, int count) {
    const double steps = field_.across;
    // Between its nodes the lattice carries what they are moved by two steps farther.
    const double radius = std::max(tip_.radius * steps - 2, tip_.radius * steps / 2);
    std::vector<KneadDab> all;
    Rect reach;
    for (int i = 0; i < count; ++i) {
        const Vec2 way = (to - from) * (steps / count), a = from * steps + way * i, b = a + way;
        all.push_back({tip_.way, a, b, (a + b) * 0.5, radius, tip_.strength, steps, tip_.height * steps,
                       tip_.holdEdges, tip_.freedom});
        reach = reach.united(reachOf(all.back()).toRect());
    }
    if (reach.empty() || (field_.empty() && tip_.way >= KneadWay::Smooth)) return;
    ShiftPatch patch(*field_.shifts, pixelsAround(reach.grown(radius / 8 + 4)));
    for (const KneadDab& dab : all) apply(dab, patch);
    PixelTiles next = *field_.shifts;
    next.change(pixelsAround(reach), [&](const PixelPart& part) {
        for (int y = part.area.y; y < part.area.bottom(); ++y)
            std::copy_n(patch.node(part.area.x, y), size_t(part.area.w) * 2,
                        reinterpret_cast<float*>(part.row(y)));
    });
    field_.shifts = std::make_shared<const PixelTiles>(std::move(next));
}

void KneadStroke::moveTo(Vec2 at) {
    if (!std::isfinite(at.x) || !std::isfinite(at.y)) return;
    asked_ = at;
    const bool moves = tip_.way == KneadWay::Push;
    if (!last_) {
        last_ = at;
        if (!moves) dabs(at, at, 1);
        return;
    }
    const Vec2 way = at - *last_;
    const double longest = tip_.radius * kLongestDab;
    if (moves) {
        if (way.length() < tip_.radius * kLeastMove) return;
        // Some at a time, so that a long way under a small tip lays out no more of the lattice than it
        // touches.
        constexpr int kTogether = 32;
        const int count = std::max(1, int(std::ceil(way.length() / longest)));
        const Vec2 from = *last_, one = way * (1.0 / count);
        for (int i = 0; i < count; i += kTogether) {
            const int until = std::min(i + kTogether, count);
            dabs(from + one * i, from + one * until, until - i);
        }
        last_ = at;
        return;
    }
    // At even distances, wherever the events fall.
    const Vec2 one = way * (longest / std::max(way.length(), 1e-12));
    for (auto left = int(way.length() / longest); left > 0; --left) {
        last_ = *last_ + one;
        dabs(*last_, *last_, 1);
    }
}

void KneadStroke::dwell() {
    if (last_ && tip_.way != KneadWay::Push) dabs(*last_, *last_, 1);
}

void KneadStroke::finish() {
    if (last_ && asked_ && tip_.way == KneadWay::Push && !(*last_ == *asked_)) dabs(*last_, *asked_, 1);
    last_ = asked_;
}

} // namespace glyptos
