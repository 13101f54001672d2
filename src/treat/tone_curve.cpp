#include "treat/tone_curve.h"

#include <algorithm>
#include <cmath>

namespace glyptos {

bool isIdentity(const ToneCurve& curve) {
    const bool spans = curve.empty() || (curve.front() == Vec2{0, 0} && curve.back() == Vec2{1, 1});
    return spans && std::all_of(curve.begin(), curve.end(), [](const Vec2& p) { return p.x == p.y; });
}

bool isCurve(const ToneCurve& curve) {
    if (curve.size() > kMostCurvePoints) return false;
    const auto within = [](double v) { return v >= 0 && v <= 1; };
    for (size_t i = 0; i < curve.size(); ++i) {
        if (!within(curve[i].x) || !within(curve[i].y)) return false;
        if (i > 0 && !(curve[i].x > curve[i - 1].x)) return false;
    }
    return true;
}

ToneFunction::ToneFunction(const ToneCurve& curve)
    : points_(curve)
    , slopes_(curve.size(), 0.0) {
    const size_t n = points_.size();
    if (n < 2) return;
    const auto width = [&](size_t i) { return points_[i + 1].x - points_[i].x; };
    const auto rise = [&](size_t i) { return (points_[i + 1].y - points_[i].y) / width(i); };
    slopes_.front() = rise(0), slopes_.back() = rise(n - 2);
    for (size_t i = 1; i + 1 < n; ++i) {
        const double before = rise(i - 1), after = rise(i), h0 = width(i - 1), h1 = width(i);
        if (before * after <= 0) continue;
        const double w0 = 2 * h1 + h0, w1 = h1 + 2 * h0;
        slopes_[i] = (w0 + w1) / (w0 / before + w1 / after);
    }
}

double ToneFunction::operator()(double x) const {
    if (points_.empty()) return x;
    if (x <= points_.front().x) return points_.front().y;
    if (x >= points_.back().x) return points_.back().y;
    const auto behind =
        std::upper_bound(points_.begin(), points_.end(), x, [](double v, const Vec2& p) { return v < p.x; });
    const auto i = size_t(behind - points_.begin()) - 1;
    const Vec2 &a = points_[i], &b = points_[i + 1];
    const double h = b.x - a.x, t = (x - a.x) / h, s = 1 - t;
    return a.y * (1 + 2 * t) * s * s + h * slopes_[i] * t * s * s + b.y * t * t * (3 - 2 * t) -
           h * slopes_[i + 1] * t * t * s;
}

} // namespace glyptos
