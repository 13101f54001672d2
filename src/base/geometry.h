// Plane geometry as values: points, rectangles and affine maps, y downwards.
#pragma once

#include <algorithm>
#include <cmath>
#include <numbers>
#include <optional>

namespace glyptos {

struct Vec2 {
    double x = 0, y = 0;
    bool operator==(const Vec2&) const = default;
    Vec2 operator+(Vec2 o) const { return {x + o.x, y + o.y}; }
    Vec2 operator-(Vec2 o) const { return {x - o.x, y - o.y}; }
    Vec2 operator*(double k) const { return {x * k, y * k}; }
    double length() const { return std::hypot(x, y); }
};

/// Half-open rectangle [x, x+w) × [y, y+h); empty when w or h is not positive.
struct Rect {
    double x = 0, y = 0, w = 0, h = 0;
    bool operator==(const Rect&) const = default;
    double right() const { return x + w; }
    double bottom() const { return y + h; }
    Vec2 centre() const { return {x + w / 2, y + h / 2}; }
    bool empty() const { return !(w > 0 && h > 0); }
    bool contains(Vec2 p) const { return p.x >= x && p.y >= y && p.x < right() && p.y < bottom(); }
    /// Grown by the given amounts on each side; negative amounts shrink.
    Rect grown(double left, double top, double rightBy, double bottomBy) const {
        return {x - left, y - top, w + left + rightBy, h + top + bottomBy};
    }
    Rect grown(double by) const { return grown(by, by, by, by); }
    Rect intersected(const Rect& o) const {
        const double l = std::max(x, o.x), t = std::max(y, o.y);
        return {l, t, std::min(right(), o.right()) - l, std::min(bottom(), o.bottom()) - t};
    }
    /// Smallest rectangle round both; an empty one adds nothing.
    Rect united(const Rect& o) const {
        if (empty()) return o;
        if (o.empty()) return *this;
        const double l = std::min(x, o.x), t = std::min(y, o.y);
        return {l, t, std::max(right(), o.right()) - l, std::max(bottom(), o.bottom()) - t};
    }
};

/// Half-open rectangle of whole pixels.
struct IntRect {
    int x = 0, y = 0, w = 0, h = 0;
    bool operator==(const IntRect&) const = default;
    int right() const { return x + w; }
    int bottom() const { return y + h; }
    bool empty() const { return w <= 0 || h <= 0; }
    IntRect intersected(const IntRect& o) const {
        const int l = std::max(x, o.x), t = std::max(y, o.y);
        return {l, t, std::min(right(), o.right()) - l, std::min(bottom(), o.bottom()) - t};
    }
    Rect toRect() const { return {double(x), double(y), double(w), double(h)}; }
};

/// `v` as a whole number, at most 2^29 from zero, so that sums and differences of two stay whole numbers; NaN
/// is the least. Nothing that far out is ever drawn.
inline int wholePixel(double v) {
    constexpr double kFar = 536870912;
    return static_cast<int>(v >= kFar ? kFar : v > -kFar ? v : -kFar);
}

/// Smallest pixel rectangle that holds all of `r`.
inline IntRect pixelsAround(const Rect& r) {
    const int l = wholePixel(std::floor(r.x)), t = wholePixel(std::floor(r.y));
    return {l, t, wholePixel(std::ceil(r.right())) - l, wholePixel(std::ceil(r.bottom())) - t};
}

/// x' = a·x + c·y + e,  y' = b·x + d·y + f
struct Affine {
    double a = 1, b = 0, c = 0, d = 1, e = 0, f = 0;
    bool operator==(const Affine&) const = default;

    static Affine translation(double x, double y) { return {1, 0, 0, 1, x, y}; }
    static Affine scaling(double sx, double sy) { return {sx, 0, 0, sy, 0, 0}; }
    /// Clockwise as seen (y downwards). Quarter turns are exact.
    static Affine rotation(double degrees) {
        const double turns = std::remainder(degrees, 360.0);
        if (turns == 0) return {};
        if (turns == 90) return {0, 1, -1, 0, 0, 0};
        if (turns == -90) return {0, -1, 1, 0, 0, 0};
        if (std::abs(turns) == 180) return {-1, 0, 0, -1, 0, 0};
        const double r = turns * std::numbers::pi / 180, s = std::sin(r), k = std::cos(r);
        return {k, s, -s, k, 0, 0};
    }

    Vec2 map(Vec2 p) const { return {a * p.x + c * p.y + e, b * p.x + d * p.y + f}; }
    /// The direction part alone, without the translation.
    Vec2 mapVector(Vec2 v) const { return {a * v.x + c * v.y, b * v.x + d * v.y}; }
    double determinant() const { return a * d - b * c; }
    /// Lengths of the images of the two unit vectors.
    double scaleX() const { return std::hypot(a, b); }
    double scaleY() const { return std::hypot(c, d); }

    /// Bounds of the image of `r`.
    Rect mapBounds(const Rect& r) const {
        const Vec2 p[4] = {map({r.x, r.y}), map({r.right(), r.y}), map({r.right(), r.bottom()}),
                           map({r.x, r.bottom()})};
        double l = p[0].x, t = p[0].y, ri = l, bo = t;
        for (const Vec2& q : p) {
            l = std::min(l, q.x), ri = std::max(ri, q.x);
            t = std::min(t, q.y), bo = std::max(bo, q.y);
        }
        return {l, t, ri - l, bo - t};
    }

    /// Nothing when the map flattens the plane.
    std::optional<Affine> inverse() const {
        const double det = determinant();
        if (!std::isfinite(det) || std::abs(det) < 1e-300) return std::nullopt;
        return Affine{d / det, -b / det, -c / det, a / det, (c * f - d * e) / det, (b * e - a * f) / det};
    }
};

/// `outer * inner` applies `inner` first.
inline Affine operator*(const Affine& o, const Affine& i) {
    return {o.a * i.a + o.c * i.b, o.b * i.a + o.d * i.b,       o.a * i.c + o.c * i.d,
            o.b * i.c + o.d * i.d, o.a * i.e + o.c * i.f + o.e, o.b * i.e + o.d * i.f + o.f};
}

} // namespace glyptos
