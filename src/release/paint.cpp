#include "release/paint.h"

#include "base/overloaded.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace glyptos {

Gradient evenRun(const Rect& area, double turn, const Ink& first, const Ink& last) {
    const Vec2 along = Affine::rotation(turn).mapVector({0, 1});
    const Vec2 half = along * ((std::abs(along.x) * area.w + std::abs(along.y) * area.h) / 2);
    Gradient out;
    out.from = area.centre() - half;
    out.to = area.centre() + half;
    out.stops = {{0, first}, {1, last}};
    return out;
}

bool goesRound(const Gradient& g) {
    return g.kind == GradientKind::Conic || g.kind == GradientKind::Spiral;
}

Vec2 stopPlace(const Gradient& g, double at) {
    const Vec2 line = g.to - g.from;
    if (!goesRound(g)) return g.from + line * at;
    const double rounds = g.kind == GradientKind::Conic ? at : g.turns - at;
    return g.from + Affine::rotation(rounds * 360).mapVector(line);
}

std::vector<Vec2> turnsOf(const Gradient& g, double reach) {
    std::vector<Vec2> out;
    const Vec2 line = g.to - g.from;
    const double length = line.length();
    if (g.kind != GradientKind::Spiral || !(length > 0) || !(reach > 0)) return out;
    constexpr double kStep = 3, kMost = 20000; // degrees from point to point; points
    const double rounds = std::abs(g.turns) * reach / length,
                 count = std::clamp(std::ceil(rounds * 360 / kStep), 1.0, kMost);
    for (int i = 0; i <= int(count); ++i) {
        const double far = reach * i / count;
        out.push_back(g.from +
                      Affine::rotation(g.turns * far / length * 360).mapVector(line * (far / length)));
    }
    return out;
}

double nearestOnRun(const Gradient& g, Vec2 p) {
    const Vec2 line = g.to - g.from, way = p - g.from;
    const double square = std::max(line.x * line.x + line.y * line.y, 1e-18);
    if (!goesRound(g)) return std::clamp((way.x * line.x + way.y * line.y) / square, 0.0, 1.0);
    const double angle = (std::atan2(way.y, way.x) - std::atan2(line.y, line.x)) / (2 * std::numbers::pi);
    const double at = g.kind == GradientKind::Conic ? angle : g.turns - angle;
    return at - std::floor(at);
}

Paint scaled(Paint paint, const PaintScale& k) {
    std::visit(Overloaded{[](Ink&) {},
                          [&](Gradient& g) {
                              g.from = k.to + (g.from - k.from) * k.spread;
                              g.to = k.to + (g.to - k.from) * k.spread;
                          },
                          [&](Clouds& c) { c.size *= k.size; }, [&](Paper& p) { p.size *= k.size; },
                          [&](Pattern& p) {
                              p.origin = k.to + (p.origin - k.from) * k.size;
                              p.scale *= k.size;
                          }},
               paint);
    return paint;
}

namespace {

/// Runs that go round go the other way.
void mirror(Gradient& g) {
    if (g.kind == GradientKind::Spiral) g.turns = -g.turns;
    if (!goesRound(g)) return;
    std::reverse(g.stops.begin(), g.stops.end());
    for (GradientStop& stop : g.stops) stop.at = 1 - stop.at;
}

} // namespace

Paint mapped(Paint paint, const Affine& map) {
    const bool mirrors = map.a * map.d - map.b * map.c < 0;
    if (auto* g = std::get_if<Gradient>(&paint)) {
        g->from = map.map(g->from);
        g->to = map.map(g->to);
        if (mirrors) mirror(*g);
    }
    if (auto* p = std::get_if<Pattern>(&paint)) {
        const double turn = std::atan2(map.b, map.a) * 180 / std::numbers::pi;
        p->origin = map.map(p->origin);
        p->turn = mirrors ? turn - 180 - p->turn : p->turn + turn;
        p->turn = std::remainder(p->turn, 360.0);
    }
    return paint;
}

} // namespace glyptos
