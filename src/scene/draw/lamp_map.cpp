#include "scene/draw/lamp_map.h"

#include "scene/draw/each_apart.h"

namespace glyptos {
namespace {

constexpr float kFarthest = -1e30f;

/// Whether the surface of a facet with a picture is there, at shares of its edges.
bool isThere(const Facet& facet, double s, double t) {
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
    const auto low = [](double at, double a, double b) { return at + std::min({0.0, a, b, a + b}); };
    const auto high = [](double at, double a, double b) { return at + std::max({0.0, a, b, a + b}); };
    const int y0 = std::max(top, int(low(c.corner.y, c.right.y, c.down.y) - 1));
    const int y1 = std::min(bottom - 1, int(high(c.corner.y, c.right.y, c.down.y) + 1));
    const double left = low(c.corner.x, c.right.x, c.down.x), right = high(c.corner.x, c.right.x, c.down.x);
    for (int y = y0; y <= y1; ++y) {
        // The middles of cells between the four edges.
        double from = std::max(0.0, left - 0.5), to = std::min(kSide - 1.0, right - 0.5);
        const double s0 = c.q[0].at(0.5, y + 0.5), t0 = c.q[1].at(0.5, y + 0.5);
        const double ds = c.q[0].alongX, dt = c.q[1].alongX;
        const auto within = [&](double at, double along) { // at + along · x ≥ 0
            if (std::abs(along) < 1e-15)
                to = at < 0 ? from - 1 : to;
            else if (along > 0)
                from = std::max(from, -at / along);
            else
                to = std::min(to, -at / along);
        };
        within(s0, ds), within(1 - s0, -ds), within(t0, dt), within(1 - t0, -dt);
        drawRow(c, y, int(std::ceil(from - 1e-9)), int(std::floor(to + 1e-9)), {s0, t0});
    }
}

/// Its cells from `first` to `last` of a row, whose own first cell lies at shares `start` of the caster.
void LampMap::drawRow(const Caster& c, int y, int first, int last, Vec2 start) {
    float* row = depths_.data() + size_t(y) * kSide;
    const double ds = c.q[0].alongX, dt = c.q[1].alongX;
    const auto depth = float(c.corner.z + start.x * c.right.z + start.y * c.down.z);
    const auto along = float(ds * c.right.z + dt * c.down.z);
    if (!c.facet->picture || c.facet->picture->isWhole()) {
        for (int x = first; x <= last; ++x) row[x] = std::max(row[x], depth + along * float(x));
        return;
    }
    for (int x = first; x <= last; ++x) {
        const float here = depth + along * float(x);
        if (here > row[x] && isThere(*c.facet, start.x + ds * x, start.y + dt * x)) row[x] = here;
    }
}

} // namespace glyptos
