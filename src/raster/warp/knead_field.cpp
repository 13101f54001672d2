#include "raster/warp/knead_field.h"

#include <cmath>

namespace glyptos {
namespace {

std::array<float, 4> cubicWeights(double t) {
    return {float(((-0.5 * t + 1) * t - 0.5) * t), float((1.5 * t - 2.5) * t * t + 1),
            float(((-1.5 * t + 2) * t + 0.5) * t), float((0.5 * t - 0.5) * t * t)};
}

} // namespace

Vec2 KneadField::shiftAt(Vec2 at) const {
    return ShiftPatch(*shifts, pixelsAround(Rect{at.x, at.y, 1, 1}.grown(2))).at(at) * strength;
}

double KneadField::farthest(const Rect& area) const {
    const IntRect nodes = pixelsAround(area.grown(2));
    // Between nodes the cubic overshoots by less than a quarter.
    constexpr double kOvershoot = 1.25;
    float most = 0;
    for (const auto& [place, tile] : shifts->tiles())
        if (!place.area().intersected(nodes).empty()) most = std::max(most, tile->farthest());
    return double(most) * std::numbers::sqrt2 * kOvershoot * strength;
}

ShiftPatch::ShiftPatch(const PixelTiles& shifts, const IntRect& area)
    : nodes(area)
    , values(size_t(std::max(area.w, 0)) * size_t(std::max(area.h, 0)) * 2) {
    for (int y = area.y; y < area.bottom(); ++y)
        shifts.readRow(area.x, y, size_t(area.w), reinterpret_cast<uint8_t*>(node(area.x, y)));
}

Vec2 ShiftPatch::at(Vec2 place) const {
    const double fx = std::floor(place.x), fy = std::floor(place.y);
    if (!(fx >= nodes.x - 2 && fx < nodes.right() + 1 && fy >= nodes.y - 2 && fy < nodes.bottom() + 1))
        return {};
    const int x = int(fx) - 1 - nodes.x, y = int(fy) - 1 - nodes.y;
    const auto wx = cubicWeights(place.x - fx), wy = cubicWeights(place.y - fy);
    const bool inside = x >= 0 && y >= 0 && x + 4 <= nodes.w && y + 4 <= nodes.h;
    float sumX = 0, sumY = 0;
    for (int j = 0; j < 4; ++j) {
        if (!inside && (y + j < 0 || y + j >= nodes.h)) continue;
        const float* row = values.data() + (ptrdiff_t(y + j) * nodes.w + x) * 2;
        float rowX = 0, rowY = 0;
        for (int i = 0; i < 4; ++i) {
            if (!inside && (x + i < 0 || x + i >= nodes.w)) continue;
            const float* node = row + ptrdiff_t(2) * i;
            rowX += wx[size_t(i)] * node[0], rowY += wx[size_t(i)] * node[1];
        }
        sumX += wy[size_t(j)] * rowX, sumY += wy[size_t(j)] * rowY;
    }
    return {double(sumX), double(sumY)};
}

KneadWindow::KneadWindow(const KneadField& field, const Rect& area)
    : strength_(field.strength) {
    const IntRect used = field.shifts->bounds();
    const IntRect wanted =
        pixelsAround(area.grown(2)).intersected({used.x - 2, used.y - 2, used.w + 5, used.h + 5});
    if (!used.empty() && !wanted.empty() && strength_ != 0) patch_ = ShiftPatch(*field.shifts, wanted);
}

KneadField refined(const KneadField& field) {
    KneadField out = field;
    out.across *= 2;
    const IntRect used = field.shifts->bounds();
    KneadField plain = field;
    plain.strength = 1;
    const KneadWindow window(plain, used.toRect().grown(2));
    PixelTiles tiles(kShiftPixels);
    if (!used.empty())
        tiles.change({2 * used.x - 3, 2 * used.y - 3, 2 * used.w + 6, 2 * used.h + 6},
                     [&](const PixelPart& part) {
                         for (int y = part.area.y; y < part.area.bottom(); ++y) {
                             auto* row = reinterpret_cast<float*>(part.row(y));
                             for (int x = part.area.x; x < part.area.right(); ++x, row += 2) {
                                 const Vec2 v = window.shift({x / 2.0, y / 2.0}) * 2;
                                 row[0] = float(v.x), row[1] = float(v.y);
                             }
                         }
                     });
    out.shifts = std::make_shared<const PixelTiles>(std::move(tiles));
    return out;
}

} // namespace glyptos
