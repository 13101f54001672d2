#include "scene/draw/lamp_map.h"

namespace glyptos {
namespace {

constexpr float kFarthest = -1e30f;

/// Whether the surface is there, at shares of its picture.
bool isThere(const Facet& facet, double s, double t) {
    if (!facet.picture) return true;
    const auto& levels = facet.picture->levels();
    const auto& level = levels[std::min<size_t>(2, levels.size() - 1)];
    const auto at = [](double share, int n) { return std::clamp(int(share * n), 0, n - 1); };
    const Vec2 on = facet.onPicture.map({s, t});
    const int x = at(on.x, level.width), y = at(on.y, level.height);
    return level.bytes[(size_t(y) * size_t(level.width) + size_t(x)) * 4 + 3] > 127;
}

} // namespace

LampMap::LampMap(std::span<const Facet> facets, const Eye& eye, const Vec3& from)
    : from_(from.unit()) {
    x_ = Vec3{0, 1, 0}.cross(from_).unit();
    if (x_.length() < 0.5) x_ = {1, 0, 0};
    y_ = from_.cross(x_);
    double reach = 1e-9;
    for (const Facet& f : facets)
        for (const Vec3& p : {f.corner, f.corner + f.right, f.corner + f.down, f.corner + f.right + f.down})
            reach = std::max(reach, (p - eye.middle).length());
    scale_ = (kSide / 2 - 2) / reach;
    depths_.assign(size_t(kSide) * kSide, kFarthest);
    for (const Facet& facet : facets) draw(facet, eye);
}

void LampMap::draw(const Facet& facet, const Eye& eye) {
    const Vec3 corner = placeOf(eye.turn.mapVector(facet.corner - eye.middle));
    const Vec3 right = mapVector(eye.turn.mapVector(facet.right));
    const Vec3 down = mapVector(eye.turn.mapVector(facet.down));
    EvenlyChanging q[3];
    if (!setPlanes({right.x, right.y, 0}, {down.x, down.y, 0}, {corner.x, corner.y, 1}, q)) return;
    const auto range = [](double at, double a, double b) {
        return std::pair(std::max(0, int(at + std::min({0.0, a, b, a + b}) - 1)),
                         std::min(kSide - 1, int(at + std::max({0.0, a, b, a + b}) + 1)));
    };
    const auto [x0, x1] = range(corner.x, right.x, down.x);
    const auto [y0, y1] = range(corner.y, right.y, down.y);
    for (int y = y0; y <= y1; ++y)
        for (int x = x0; x <= x1; ++x) {
            const double s = q[0].at(x + 0.5, y + 0.5), t = q[1].at(x + 0.5, y + 0.5);
            if (s < 0 || t < 0 || s > 1 || t > 1 || !isThere(facet, s, t)) continue;
            float& depth = depths_[size_t(y) * kSide + size_t(x)];
            depth = std::max(depth, float(corner.z + s * right.z + t * down.z));
        }
}

float LampMap::light(const Vec3& place) const {
    const double x = place.x - 0.5, y = place.y - 0.5;
    const int ix = int(std::floor(x)), iy = int(std::floor(y));
    const auto fx = float(x - ix), fy = float(y - iy);
    const float above = lit(ix, iy, place.z) * (1 - fx) + lit(ix + 1, iy, place.z) * fx;
    const float below = lit(ix, iy + 1, place.z) * (1 - fx) + lit(ix + 1, iy + 1, place.z) * fx;
    return above * (1 - fy) + below * fy;
}

} // namespace glyptos
