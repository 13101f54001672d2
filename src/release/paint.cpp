#include "release/paint.h"

namespace glyptos {

Gradient evenRun(const Rect& area, double turn, const Rgba& first, const Rgba& last) {
    const Vec2 along = Affine::rotation(turn).mapVector({0, 1});
    const Vec2 half = along * ((std::abs(along.x) * area.w + std::abs(along.y) * area.h) / 2);
    Gradient out;
    out.from = area.centre() - half;
    out.to = area.centre() + half;
    out.stops = {{0, first}, {1, last}};
    return out;
}

} // namespace glyptos
