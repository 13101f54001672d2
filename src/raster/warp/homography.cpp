#include "raster/warp/homography.h"

namespace glyptos {
namespace {

double cross(Vec2 a, Vec2 b) {
    return a.x * b.y - a.y * b.x;
}

/// Whether all four turns go the same way, and none is next to nothing.
bool isConvex(const std::array<Vec2, 4>& c) {
    constexpr double kLeast = 1e-6; // of the product of the sides that meet
    int left = 0, right = 0;
    for (size_t i = 0; i < 4; ++i) {
        const Vec2 in = c[(i + 1) % 4] - c[i], out = c[(i + 2) % 4] - c[(i + 1) % 4];
        const double turn = cross(in, out), least = kLeast * in.length() * out.length();
        if (!(std::abs(turn) > least)) return false;
        ++(turn > 0 ? left : right);
    }
    return left == 4 || right == 4;
}

} // namespace

Homography::Homography(const Affine& map)
    : m_{map.a, map.c, map.e, map.b, map.d, map.f, 0, 0, 1} {}

std::optional<Homography> Homography::toCorners(const std::array<Vec2, 4>& c) {
    for (const Vec2& p : c)
        if (!std::isfinite(p.x) || !std::isfinite(p.y)) return std::nullopt;
    if (!isConvex(c)) return std::nullopt;
    const Vec2 d1 = c[1] - c[2], d2 = c[3] - c[2], sum = c[0] - c[1] + c[2] - c[3];
    const double whole = cross(d1, d2), g = cross(sum, d2) / whole, h = cross(d1, sum) / whole;
    Homography out;
    out.m_ = {c[1].x - c[0].x + g * c[1].x,
              c[3].x - c[0].x + h * c[3].x,
              c[0].x,
              c[1].y - c[0].y + g * c[1].y,
              c[3].y - c[0].y + h * c[3].y,
              c[0].y,
              g,
              h,
              1};
    return out;
}

std::optional<Vec2> Homography::map(Vec2 p) const {
    constexpr double kAtTheEye = 1e-9;
    const double w = m_[6] * p.x + m_[7] * p.y + m_[8];
    if (!(w > kAtTheEye)) return std::nullopt;
    return Vec2{(m_[0] * p.x + m_[1] * p.y + m_[2]) / w, (m_[3] * p.x + m_[4] * p.y + m_[5]) / w};
}

std::optional<Homography> Homography::inverse() const {
    const auto& m = m_;
    Homography out;
    out.m_ = {m[4] * m[8] - m[5] * m[7], m[2] * m[7] - m[1] * m[8], m[1] * m[5] - m[2] * m[4],
              m[5] * m[6] - m[3] * m[8], m[0] * m[8] - m[2] * m[6], m[2] * m[3] - m[0] * m[5],
              m[3] * m[7] - m[4] * m[6], m[1] * m[6] - m[0] * m[7], m[0] * m[4] - m[1] * m[3]};
    const double det = m[0] * out.m_[0] + m[1] * out.m_[3] + m[2] * out.m_[6];
    if (!std::isfinite(det) || std::abs(det) < 1e-300) return std::nullopt;
    for (double& v : out.m_) v /= det; // w is positive then where it was
    return out;
}

Homography operator*(const Homography& o, const Homography& i) {
    Homography out;
    for (size_t row = 0; row < 3; ++row)
        for (size_t column = 0; column < 3; ++column) {
            double sum = 0;
            for (size_t k = 0; k < 3; ++k) sum += o.m_[3 * row + k] * i.m_[3 * k + column];
            out.m_[3 * row + column] = sum;
        }
    return out;
}

} // namespace glyptos
