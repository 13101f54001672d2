#include "raster/brush/dab_walk.h"

#include "raster/noise.h"

#include <numbers>

namespace glyptos {
namespace {

constexpr double kDegrees = 180 / std::numbers::pi;
constexpr double kFine = 24;         // steps from a dab to the next, along a bent way
constexpr double kDrawnPiece = 0.08; // diameters, of an area drawn along a bent way
constexpr double kFaintest = 0.02;   // of the size, below which there is no dab

bool isNumber(const PenSample& s) {
    return std::isfinite(s.at.x) && std::isfinite(s.at.y) && std::isfinite(s.pressure) &&
           std::isfinite(s.tilt) && std::isfinite(s.leans) && std::isfinite(s.turn);
}

double headingOf(Vec2 way) {
    return std::atan2(way.y, way.x) * kDegrees;
}

/// An angle between two, the short way round.
double between(double a, double b, double t) {
    return a + std::remainder(b - a, 360.0) * t;
}

PenSample between(const PenSample& a, const PenSample& b, double t) {
    return {a.at + (b.at - a.at) * t, a.pressure + (b.pressure - a.pressure) * t,
            a.tilt + (b.tilt - a.tilt) * t, between(a.leans, b.leans, t), between(a.turn, b.turn, t)};
}

/// Whether dabs of it are all alike, so that they make the area that the tip is drawn over.
bool canSweep(const Brush& b) {
    return b.tip == TipKind::Round && b.flow >= 1 && b.spacing == 0 && b.sizeJitter == 0 &&
           b.turnJitter == 0 && b.placeJitter == 0 && b.spread == 0 && b.opacityJitter == 0 &&
           !isColoured(b) && b.taperIn == 0 && b.taperOut == 0 && b.sizeAtEnd == 1 &&
           !(b.follows && b.roundness < 1);
}

} // namespace

DabWalk::DabWalk(const Brush& brush, double steadyLength)
    : brush_(brush)
    , steady_(std::max(steadyLength, 0.0))
    , sweeps_(canSweep(brush)) {}

std::optional<Vec2> DabWalk::tip() const {
    return last_ ? std::optional(tip_) : std::nullopt;
}

size_t DabWalk::takeFirstChanged() {
    return std::exchange(firstChanged_, dabs_.size());
}

double DabWalk::chance(int which) const {
    return double(hashNoise(int32_t(count_), which, uint32_t(brush_.seed)));
}

double DabWalk::diameterFor(const PenSample& how) const {
    return brush_.diameter * (brush_.penSize ? std::clamp(how.pressure, 0.0, 1.0) : 1);
}

bool DabWalk::put(Vec2 at, const PenSample& how, double direction) {
    const auto both = [&](int which) { return 2 * chance(which) - 1; };
    const double taper = brush_.taperIn > 0 ? std::min(1.0, along_ / (brush_.taperIn * brush_.diameter)) : 1,
                 diameter = diameterFor(how) * taper * (1 - brush_.sizeJitter * chance(0));
    Dab dab;
    double turn = brush_.turn + brush_.turnJitter * both(1), roundness = brush_.roundness;
    if (brush_.follows) turn += direction;
    if (brush_.penTurn) turn += how.turn;
    if (brush_.penTilt && how.tilt > 0) {
        turn = how.leans + brush_.turnJitter * both(1);
        roundness *= 1 - 0.8 * std::clamp(how.tilt, 0.0, 1.0);
    }
    if (brush_.placeJitter > 0) {
        // Evenly over a disc.
        const double away = std::sqrt(chance(2)) * brush_.placeJitter * brush_.diameter,
                     round = chance(3) * 360;
        at = at + Affine::rotation(round).mapVector({away, 0});
    }
    if (brush_.spread > 0)
        at = at + Affine::rotation(direction).mapVector({0, both(4) * brush_.spread * brush_.diameter});
    dab.place = Affine::translation(at.x, at.y) * Affine::rotation(turn) *
                Affine::scaling(diameter / 2, diameter / 2 * roundness);
    dab.from = at;
    dab.cover = float(1 - brush_.opacityJitter * chance(5));
    if (brush_.penOpacity) dab.cover *= float(std::clamp(how.pressure, 0.0, 1.0));
    dab.hue = float(brush_.hueJitter * both(6));
    dab.shade = float(brush_.lightJitter * both(7));
    dab.stamp = brush_.byChance ? uint32_t(chance(8) * 0xffffff) : count_;
    dab.along = along_;
    ++count_;
    const bool isSeen = diameter > kFaintest * brush_.diameter;
    if (isSeen) dabs_.push_back(dab);
    return isSeen;
}

/// The area from where it was drawn to last.
void DabWalk::drawAlong(Vec2 at, const PenSample& how) {
    if (put(at, how, 0)) dabs_.back().from = drawn_;
    drawn_ = at;
}

void DabWalk::walkTo(Vec2 to, const PenSample& how, double heading) {
    const Vec2 way = to - tip_;
    const double length = way.length();
    if (length <= 0) return;
    if (std::exchange(waits_, false)) put(tip_, how, heading), heading_ = heading;
    if (sweeps_) {
        along_ += length;
        heading_ = heading, tip_ = to;
        return;
    }
    for (double done = 0; done < length;) {
        const double spacing = spacingOf(brush_, std::max(diameterFor(how), kFaintest * brush_.diameter));
        const double left = (1 - towardsNext_) * spacing, step = std::min(left, length - done);
        along_ += step, done += step;
        towardsNext_ += step / spacing;
        if (step < left) break;
        towardsNext_ = 0;
        put(tip_ + way * (done / length), how, between(heading_, heading, done / length));
    }
    heading_ = heading, tip_ = to;
}

void DabWalk::moveTo(const PenSample& sample) {
    if (!isNumber(sample) || !(brush_.diameter > 0)) return;
    // A pen changes the size within the stroke: prints, not one area.
    if (sample.pressure != 1 || sample.tilt != 0) sweeps_ = false;
    if (!last_) {
        last_ = sample;
        tip_ = drawn_ = sample.at;
        waits_ = brush_.follows || brush_.taperIn > 0;
        if (!waits_) put(tip_, sample, 0);
        return;
    }
    const PenSample from = *last_;
    const double length = (sample.at - from.at).length();
    last_ = sample;
    if (length <= 0) return;
    const Vec2 on = (sample.at - from.at) * (1 / length);
    // d tip / ds = (pointer - tip) / L: along a straight way its solution is exact, so that the tip goes the
    // same way however the way is cut into moves.
    const Vec2 lag = tip_ - from.at + on * steady_;
    if (count_ == 0 || tip_ == from.at) heading_ = headingOf(on);
    const bool bends = steady_ > 0, changes = from.pressure != sample.pressure || from.tilt != sample.tilt ||
                                              from.turn != sample.turn || from.leans != sample.leans;
    const double spacing = spacingOf(brush_, brush_.diameter),
                 piece = sweeps_ ? kDrawnPiece * brush_.diameter : spacing / kFine;
    constexpr double kMostSteps = 20000;
    const double count =
        bends || changes ? std::clamp(std::ceil(length / std::max(piece, 1e-9)), 1.0, kMostSteps) : 1;
    const int steps = int(count);
    for (int i = 1; i <= steps; ++i) {
        const double s = length * i / steps;
        const Vec2 tip =
            bends ? from.at + on * (s - steady_) + lag * std::exp(-s / steady_) : from.at + on * s;
        const Vec2 ahead = bends ? on * s + from.at - tip : on;
        if (!bends) heading_ = headingOf(ahead);
        walkTo(tip, between(from, sample, double(i) / steps), headingOf(ahead));
        if (sweeps_) drawAlong(tip_, sample);
    }
}

void DabWalk::dwell(double seconds) {
    if (!last_ || brush_.buildUp <= 0) return;
    held_ += seconds * brush_.buildUp;
    for (; held_ >= 1 - 1e-9; held_ -= 1) {
        put(tip_, *last_, heading_);
        waits_ = false;
    }
}

void DabWalk::finish() {
    if (!last_) return;
    const PenSample end = *last_;
    if (!(tip_ == end.at)) {
        walkTo(end.at, end, headingOf(end.at - tip_));
        if (sweeps_) drawAlong(tip_, end);
    }
    if (std::exchange(waits_, false)) {
        along_ = std::max(along_, brush_.taperIn * brush_.diameter); // a click is one whole dab
        put(tip_, end, 0);
        return;
    }
    if (brush_.taperIn <= 0 && brush_.taperOut <= 0 && brush_.sizeAtEnd == 1) return;
    // Tapers that are longer together than the way share it.
    const double whole = std::max(along_, 1e-12), in = brush_.taperIn * brush_.diameter,
                 out = brush_.taperOut * brush_.diameter,
                 fit = std::min(1.0, whole / std::max(in + out, 1e-12));
    const auto grown = [](double along, double taper) {
        return taper > 0 ? std::min(1.0, along / taper) : 1;
    };
    for (size_t i = 0; i < dabs_.size(); ++i) {
        const double along = dabs_[i].along, size = (1 + (brush_.sizeAtEnd - 1) * along / whole) *
                                                    grown(whole - along, out * fit) * grown(along, in * fit) /
                                                    std::max(grown(along, in), 1e-12);
        if (size == 1) continue;
        dabs_[i] = scaled(dabs_[i], std::max(size, 0.0));
        firstChanged_ = std::min(firstChanged_, i);
    }
}

} // namespace glyptos
