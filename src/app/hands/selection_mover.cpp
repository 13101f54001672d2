#include "app/hands/selection_mover.h"

#include "app/bench/compose_bench.h"
#include "app/widgets/theme.h"

#include <cmath>
#include <numbers>

namespace glyptos {
namespace {

constexpr double kTurnStem = 26; // px from the frame to the turn grip
constexpr double kLeastScale = 0.01;

std::array<Vec2, 4> cornersOf(const Rect& r) {
    return {Vec2{r.x, r.y}, {r.right(), r.y}, {r.right(), r.bottom()}, {r.x, r.bottom()}};
}

Affine about(Vec2 point, const Affine& map) {
    return Affine::translation(point.x, point.y) * map * Affine::translation(-point.x, -point.y);
}

/// As long as before, or `kLeastScale` of it; not the other way round.
double factor(double now, double before) {
    return std::abs(before) < 1e-9 ? 1 : std::max(now / before, kLeastScale);
}

} // namespace

std::optional<Rect> SelectionMover::frame() const {
    const auto now = bench_.selection().selection();
    if (!now) return std::nullopt;
    return Affine::scaling(now->pixel, now->pixel).mapBounds(now->tiles->bounds().toRect());
}

Vec2 SelectionMover::inView(Vec2 onPanel) const {
    return bench_.toView().map(onPanel);
}

/// In view, as the corners are.
Vec2 SelectionMover::turnGrip(const std::array<Vec2, 4>& c) const {
    const Vec2 top = (c[0] + c[1]) * 0.5, up = top - (c[2] + c[3]) * 0.5;
    return up.length() > 1 ? top + up * (kTurnStem / up.length()) : top - Vec2{0, kTurnStem};
}

bool SelectionMover::press(Vec2 at) {
    grip_ = Grip::None;
    const auto now = frame();
    if (!now) return false;
    box_ = *now, from_ = at, map_ = {};
    auto corners = cornersOf(box_);
    for (Vec2& c : corners) c = inView(c);
    const Vec2 p = inView(at);
    for (size_t i = 0; i < corners.size(); ++i)
        if ((p - corners[i]).length() < kGripReach) grip_ = Grip::Corner, corner_ = i;
    if ((p - turnGrip(corners)).length() < kGripReach) grip_ = Grip::Turn;
    if (grip_ == Grip::None && box_.contains(at)) grip_ = Grip::Body;
    return grip_ != Grip::None;
}

/// About the opposite corner, or with Alt about the middle; keeping the proportions, or with Shift not.
Affine SelectionMover::scaling(Vec2 at, Qt::KeyboardModifiers keys) const {
    const auto corners = cornersOf(box_);
    const Vec2 still = keys & Qt::AltModifier ? box_.centre() : corners[(corner_ + 2) % 4];
    const Vec2 before = corners[corner_] - still, now = at - still;
    const double both =
        factor(before.x * now.x + before.y * now.y, before.x * before.x + before.y * before.y);
    const bool free = keys & Qt::ShiftModifier;
    return about(
        still, Affine::scaling(free ? factor(now.x, before.x) : both, free ? factor(now.y, before.y) : both));
}

/// With Shift by steps of 15 degrees.
Affine SelectionMover::turning(Vec2 at, Qt::KeyboardModifiers keys) const {
    constexpr double kStep = 15;
    const auto angle = [&](Vec2 p) {
        const Vec2 way = p - box_.centre();
        return std::atan2(way.y, way.x) * 180 / std::numbers::pi;
    };
    const double turn = angle(at) - angle(from_);
    return about(box_.centre(),
                 Affine::rotation(keys & Qt::ShiftModifier ? std::round(turn / kStep) * kStep : turn));
}

void SelectionMover::drag(Vec2 at, Qt::KeyboardModifiers keys) {
    if (grip_ == Grip::None) return;
    Vec2 by = at - from_;
    if (map_ == Affine{} && by.length() * bench_.zoom() < kDragStarts) return;
    if (grip_ == Grip::Body && (keys & Qt::ShiftModifier))
        (std::abs(by.x) > std::abs(by.y) ? by.y : by.x) = 0;
    map_ = grip_ == Grip::Corner ? scaling(at, keys)
           : grip_ == Grip::Turn ? turning(at, keys)
                                 : Affine::translation(by.x, by.y);
    bench_.selection().showMapped(map_);
}

std::optional<Affine> SelectionMover::release() {
    const bool did = std::exchange(grip_, Grip::None) != Grip::None && !(map_ == Affine{});
    return did ? std::optional(map_) : std::nullopt;
}

bool SelectionMover::cancel() {
    bench_.selection().showMapped({});
    map_ = {};
    return std::exchange(grip_, Grip::None) != Grip::None;
}

void SelectionMover::paint(QPainter& painter) const {
    const auto now = frame();
    if (!now) return;
    const Affine map = grip_ == Grip::None ? Affine{} : map_;
    auto corners = cornersOf(*now);
    for (Vec2& c : corners) c = inView(map.map(c));
    paintOutline(painter, corners);
    const Vec2 turn = turnGrip(corners);
    paintWay(painter, (corners[0] + corners[1]) * 0.5, turn);
    paintRoundGrip(painter, turn);
    for (const Vec2& c : corners) paintSquareGrip(painter, c);
}

} // namespace glyptos
