#include "scene/draw/lamp_map.h"

#include "scene/draw/each_apart.h"

namespace glyptos {
namespace {

constexpr float kFarthest = -1e30f;

/// Whether the surface is there, at shares of its picture.
bool isThere(const Facet& facet, double s, double t) {
    if (!facet.picture || facet.picture->isWhole()) return true;
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
    scale_ = (kMiddle - 2) / reach;
    depths_.assign(size_t(kSide) * kSide, kFarthest);
    // Closed boards: what faces away from the lamp lies behind what faces it.
    std::vector<Caster> casters;
    for (const Facet& facet : facets)
        if (auto caster = casterOf(facet, eye)) casters.push_back(*caster);
    constexpr int kBand = 32;
    eachApart(kSide / kBand, [&](int band) {
        for (const Caster& caster : casters) draw(caster, band * kBand, (band + 1) * kBand);
    });
}

std::optional<LampMap::Caster> LampMap::casterOf(const Facet& facet, const Eye& eye) const {
    if (facet.opacity < 1) return std::nullopt;
    Caster out;
    out.facet = &facet;
    out.corner = placeOf(eye.turn.mapVector(facet.corner - eye.middle));
    out.right = mapVector(eye.turn.mapVector(facet.right)),
    out.down = mapVector(eye.turn.mapVector(facet.down));
    if (out.right.cross(out.down).z <= 0) return std::nullopt;
    const bool good = setPlanes({out.right.x, out.right.y, 0}, {out.down.x, out.down.y, 0},
                                {out.corner.x, out.corner.y, 1}, out.q);
    return good ? std::optional(out) : std::nullopt;
}

void LampMap::draw(const Caster& c, int top, int bottom) {
    const auto range = [](double at, double a, double b, int least, int most) {
        return std::pair(std::max(least, int(at + std::min({0.0, a, b, a + b}) - 1)),
                         std::min(most - 1, int(at + std::max({0.0, a, b, a + b}) + 1)));
    };
    const auto [x0, x1] = range(c.corner.x, c.right.x, c.down.x, 0, kSide);
    const auto [y0, y1] = range(c.corner.y, c.right.y, c.down.y, top, bottom);
    for (int y = y0; y <= y1; ++y) {
        float* row = depths_.data() + size_t(y) * kSide;
        const auto s0 = float(c.q[0].at(0.5, y + 0.5)), t0 = float(c.q[1].at(0.5, y + 0.5));
        const auto ds = float(c.q[0].alongX), dt = float(c.q[1].alongX);
        for (int x = x0; x <= x1; ++x) {
            const float s = s0 + ds * float(x), t = t0 + dt * float(x);
            if (s < 0 || t < 0 || s > 1 || t > 1) continue;
            const float depth = float(c.corner.z) + s * float(c.right.z) + t * float(c.down.z);
            if (depth > row[x] && isThere(*c.facet, double(s), double(t))) row[x] = depth;
        }
    }
}

} // namespace glyptos
