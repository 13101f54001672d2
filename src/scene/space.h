// Space as values: x to the right, y down, z towards the viewer, so that a flat that lies in z = 0 is seen
// from its printed side.
#pragma once

#include "base/geometry.h"

#include <algorithm>

namespace glyptos {

struct Vec3 {
    double x = 0, y = 0, z = 0;
    bool operator==(const Vec3&) const = default;
    Vec3 operator+(const Vec3& o) const { return {x + o.x, y + o.y, z + o.z}; }
    Vec3 operator-(const Vec3& o) const { return {x - o.x, y - o.y, z - o.z}; }
    Vec3 operator*(double k) const { return {x * k, y * k, z * k}; }
    double length() const { return std::sqrt(dot(*this)); }
    double dot(const Vec3& o) const { return x * o.x + y * o.y + z * o.z; }
    Vec3 cross(const Vec3& o) const { return {y * o.z - z * o.y, z * o.x - x * o.z, x * o.y - y * o.x}; }
    Vec3 unit() const {
        const double l = length();
        return l > 0 ? *this * (1 / l) : *this;
    }
};

/// An upright box round points; of none, `least` lies beyond `most`.
struct Bounds3 {
    Vec3 least{1e30, 1e30, 1e30}, most{-1e30, -1e30, -1e30};
    void take(const Vec3& p) {
        least = {std::min(least.x, p.x), std::min(least.y, p.y), std::min(least.z, p.z)};
        most = {std::max(most.x, p.x), std::max(most.y, p.y), std::max(most.z, p.z)};
    }
};

/// A turn and a shift: where the three axes go, and the origin.
struct Pose {
    Vec3 x{1, 0, 0}, y{0, 1, 0}, z{0, 0, 1}, origin;

    Vec3 map(const Vec3& p) const { return mapVector(p) + origin; }
    Vec3 mapVector(const Vec3& v) const { return x * v.x + y * v.y + z * v.z; }
    /// The other way.
    Vec3 back(const Vec3& p) const {
        const Vec3 d = p - origin;
        return {d.dot(x), d.dot(y), d.dot(z)};
    }
};

/// `outer * inner` applies `inner` first.
inline Pose operator*(const Pose& o, const Pose& i) {
    return {o.mapVector(i.x), o.mapVector(i.y), o.mapVector(i.z), o.map(i.origin)};
}

/// The way back.
inline Pose inverse(const Pose& p) {
    Pose out{{p.x.x, p.y.x, p.z.x}, {p.x.y, p.y.y, p.z.y}, {p.x.z, p.y.z, p.z.z}, {}};
    out.origin = out.mapVector(p.origin) * -1;
    return out;
}

/// How gently a movement starts and ends: 0 to 1 as `share` goes there, and no farther.
inline double gentle(double share) {
    const double s = std::min(std::max(share, 0.0), 1.0);
    return s * s * (3 - 2 * s);
}

/// A turn that keeps the line through `at` along the unit vector `axis`, by `degrees` from y to z where the
/// axis is x.
inline Pose turnedAbout(const Vec3& at, const Vec3& axis, double degrees) {
    const double r = degrees * std::numbers::pi / 180, c = std::cos(r), s = std::sin(r);
    // Rodrigues' formula for each axis.
    const auto turn = [&](const Vec3& v) {
        return v * c + axis.cross(v) * s + axis * (axis.dot(v) * (1 - c));
    };
    Pose out{turn({1, 0, 0}), turn({0, 1, 0}), turn({0, 0, 1}), {}};
    out.origin = at - out.mapVector(at);
    return out;
}

} // namespace glyptos
