#include "render/tiles/gradient_run.h"

#include <algorithm>
#include <cmath>

namespace glyptos {
namespace {

Colour4 premultiplied(const Rgba& c) {
    return {double(c.r) * c.a, double(c.g) * c.a, double(c.b) * c.a, c.a};
}

/// a + k·b
Colour4 sum(const Colour4& a, const Colour4& b, double k) {
    Colour4 out;
    for (size_t c = 0; c < 4; ++c) out[c] = a[c] + k * b[c];
    return out;
}

} // namespace

GradientRun::GradientRun(const Gradient& g)
    : round_(g.kind == GradientKind::Conic || g.kind == GradientKind::Spiral)
    , spread_(g.spread) {
    Colour4 before{};
    const auto piece = [&](double from, double to, const Colour4& a, const Colour4& b) {
        if (!(to > from)) return;
        pieces_.push_back({from, to - from, a, sum(b, a, -1), before});
        before = sum(before, sum(a, b, 1), (to - from) / 2);
    };
    first_ = premultiplied(g.stops.front().colour);
    last_ = premultiplied(g.stops.back().colour);
    piece(0, std::min(g.stops.front().at, 1.0), first_, first_);
    for (size_t i = 0; i + 1 < g.stops.size(); ++i)
        piece(g.stops[i].at, g.stops[i + 1].at, premultiplied(g.stops[i].colour),
              premultiplied(g.stops[i + 1].colour));
    piece(std::max(g.stops.back().at, 0.0), 1, last_, last_);
    if (pieces_.empty()) piece(0, 1, first_, first_);
    whole_ = before;
}

const GradientRun::Piece& GradientRun::pieceAt(double t) const {
    const auto next = std::upper_bound(pieces_.begin(), pieces_.end(), t,
                                       [](double v, const Piece& p) { return v < p.at; });
    return next == pieces_.begin() ? *next : *(next - 1);
}

Colour4 GradientRun::within(double t) const {
    const Piece& p = pieceAt(t);
    const double way = std::clamp(t - p.at, 0.0, p.length);
    return sum(sum(p.before, p.colour, way), p.rise, way * way / (2 * p.length));
}

Colour4 GradientRun::integral(double t) const {
    if (!round_ && spread_ == GradientSpread::Hold) {
        if (t < 0) return sum({}, first_, t);
        return t > 1 ? sum(whole_, last_, t - 1) : within(t);
    }
    if (!round_ && spread_ == GradientSpread::Mirror) {
        const double pairs = std::floor(t / 2), rest = t - 2 * pairs;
        const Colour4 part = rest <= 1 ? within(rest) : sum(sum(whole_, whole_, 1), within(2 - rest), -1);
        return sum(part, whole_, 2 * pairs);
    }
    const double rounds = std::floor(t);
    return sum(within(t - rounds), whole_, rounds);
}

GradientRun::Straight GradientRun::straightAt(double t, double width) const {
    constexpr double kFar = 1e30;
    if (round_ || spread_ != GradientSpread::Hold) return {};
    const double half = width / 2;
    if (t + half <= 0) return {-kFar, -half, first_, {}};
    if (t - half >= 1) return {1 + half, kFar, last_, {}};
    const Piece& p = pieceAt(t);
    const Colour4 rise = sum({}, p.rise, 1 / p.length);
    return {p.at + half, p.at + p.length - half, sum(p.colour, rise, -p.at), rise};
}

Colour4 GradientRun::mean(double t, double width) const {
    // Close to zero a difference of integrals loses its digits; far out a run is not told from its mean.
    width = std::clamp(width, 1e-7, 64.0);
    if (!round_ && spread_ == GradientSpread::Hold) {
        // Most pixels lie on one straight part of the run, whose mean is its middle.
        const double from = t - width / 2, to = t + width / 2;
        if (to <= 0) return first_;
        if (from >= 1) return last_;
        const Piece& p = pieceAt(t);
        if (from >= p.at && to <= p.at + p.length) return sum(p.colour, p.rise, (t - p.at) / p.length);
    }
    const Colour4 difference = sum(integral(t + width / 2), integral(t - width / 2), -1);
    return sum({}, difference, 1 / width);
}

} // namespace glyptos
