#include "release/paths/fit_contour.h"

#include <array>
#include <cmath>
#include <span>
#include <tuple>

namespace glyptos {
namespace {

using Points = std::span<const Vec2>;
using Curve = std::array<Vec2, 4>;

double dot(Vec2 a, Vec2 b) {
    return a.x * b.x + a.y * b.y;
}

Vec2 unit(Vec2 v) {
    const double length = v.length();
    return length > 0 ? v * (1 / length) : Vec2{1, 0};
}

Vec2 at(const Curve& c, double t) {
    const double s = 1 - t;
    return c[0] * (s * s * s) + c[1] * (3 * s * s * t) + c[2] * (3 * s * t * t) + c[3] * (t * t * t);
}

/// Shares of the way to each point.
std::vector<double> chordShares(Points p) {
    std::vector<double> out{0};
    for (size_t i = 1; i < p.size(); ++i) out.push_back(out.back() + (p[i] - p[i - 1]).length());
    for (double& t : out) t /= std::max(out.back(), 1e-300);
    return out;
}

/// The curve with those directions at its ends that lies nearest in squares.
Curve nearest(Points p, const std::vector<double>& shares, Vec2 begins, Vec2 ends) {
    double c00 = 0, c01 = 0, c11 = 0, x0 = 0, x1 = 0;
    for (size_t i = 0; i < p.size(); ++i) {
        const double t = shares[i], s = 1 - t, b0 = s * s * s, b1 = 3 * s * s * t, b2 = 3 * s * t * t,
                     b3 = t * t * t;
        const Vec2 a0 = begins * b1, a1 = ends * b2,
                   left = p[i] - p.front() * (b0 + b1) - p.back() * (b2 + b3);
        c00 += dot(a0, a0), c01 += dot(a0, a1), c11 += dot(a1, a1), x0 += dot(a0, left), x1 += dot(a1, left);
    }
    const double det = c00 * c11 - c01 * c01, chord = (p.back() - p.front()).length();
    double first = std::abs(det) > 1e-12 ? (x0 * c11 - x1 * c01) / det : 0,
           second = std::abs(det) > 1e-12 ? (c00 * x1 - c01 * x0) / det : 0;
    if (!(first > chord * 1e-3 && second > chord * 1e-3 && first < chord * 20 && second < chord * 20))
        first = second = chord / 3;
    return {p.front(), p.front() + begins * first, p.back() + ends * second, p.back()};
}

/// A step of Newton's towards the place on the curve nearest to each point.
void improve(Points p, const Curve& c, std::vector<double>& shares) {
    for (size_t i = 0; i < p.size(); ++i) {
        const double t = shares[i], s = 1 - t;
        const Vec2 off = at(c, t) - p[i];
        const Vec2 first =
            (c[1] - c[0]) * (3 * s * s) + (c[2] - c[1]) * (6 * s * t) + (c[3] - c[2]) * (3 * t * t);
        const Vec2 second = (c[2] - c[1] * 2 + c[0]) * (6 * s) + (c[3] - c[2] * 2 + c[1]) * (6 * t);
        const double slope = dot(first, first) + dot(off, second);
        if (std::abs(slope) > 1e-12) shares[i] = std::clamp(t - dot(off, first) / slope, 0.0, 1.0);
    }
}

/// The point that lies farthest off, and how far.
std::pair<size_t, double> worst(Points p, const Curve& c, const std::vector<double>& shares) {
    std::pair<size_t, double> out{p.size() / 2, 0};
    for (size_t i = 1; i + 1 < p.size(); ++i)
        if (const double off = (at(c, shares[i]) - p[i]).length(); off > out.second) out = {i, off};
    return out;
}

/// The direction through a point, from a few to both sides.
Vec2 through(Points p, size_t i) {
    constexpr size_t kReach = 3;
    const size_t before = i > kReach ? i - kReach : 0, after = std::min(i + kReach, p.size() - 1);
    return unit(p[after] - p[before]);
}

class Fitter {
  public:
    Fitter(double tolerance, std::vector<PathNode>& nodes)
        : tolerance_(tolerance)
        , nodes_(nodes) {}

    void fit(Points p, Vec2 begins, Vec2 ends) {
        if (p.size() == 2) {
            const double third = (p[1] - p[0]).length() / 3;
            return add({p[0], p[0] + begins * third, p[1] + ends * third, p[1]});
        }
        std::vector<double> shares = chordShares(p);
        Curve curve = nearest(p, shares, begins, ends);
        auto [split, off] = worst(p, curve, shares);
        constexpr int kTries = 6;
        for (int i = 0; i < kTries && off > tolerance_ && off < 16 * tolerance_; ++i) {
            improve(p, curve, shares);
            curve = nearest(p, shares, begins, ends);
            std::tie(split, off) = worst(p, curve, shares);
        }
        if (off <= tolerance_) return add(curve);
        const Vec2 middle = through(p, split);
        fit(p.first(split + 1), begins, middle * -1);
        fit(p.subspan(split), middle, ends);
    }

  private:
    void add(const Curve& c) {
        nodes_.back().after = c[1] - c[0];
        nodes_.push_back({c[3], c[2] - c[3], {}});
    }
    double tolerance_;
    std::vector<PathNode>& nodes_;
};

bool isCorner(Points p, size_t i) {
    constexpr double kSharp = 0.5; // cosine of 60°
    const size_t reach = std::min({size_t(3), i, p.size() - 1 - i});
    return dot(unit(p[i] - p[i - reach]), unit(p[i + reach] - p[i])) < kSharp;
}

} // namespace

Contour fittedContour(const std::vector<Vec2>& points, double tolerance) {
    std::vector<Vec2> apart;
    for (const Vec2& p : points)
        if (apart.empty() || (p - apart.back()).length() > tolerance * 1e-3) apart.push_back(p);
    Contour out;
    out.closed = false;
    if (apart.empty()) return out;
    out.nodes.push_back({apart.front(), {}, {}});
    size_t from = 0;
    Fitter fitter(tolerance, out.nodes);
    for (size_t i = 1; i < apart.size(); ++i) {
        const bool isLast = i + 1 == apart.size();
        if (!isLast && !isCorner(apart, i)) continue;
        const Points part = Points(apart).subspan(from, i - from + 1);
        fitter.fit(part, unit(part[1] - part[0]), unit(part[part.size() - 2] - part.back()));
        from = i;
    }
    return out;
}

} // namespace glyptos
