#include "raster/brush/dab.h"

#include "raster/brush/brush.h"

#include <numbers>

namespace glyptos {

double spacingOf(const Brush& brush, double diameter) {
    constexpr double kClosed = 0.04; // diameters
    return std::max(brush.spacing, kClosed) * diameter;
}

double reachOf(const Brush& brush) {
    constexpr double kCorner = std::numbers::sqrt2; // of a stamp that is turned
    const double size = brush.diameter * std::max(1.0, brush.sizeAtEnd);
    return size * (kCorner / 2 + brush.placeJitter + brush.spread);
}

bool isColoured(const Brush& brush) {
    return brush.hueJitter > 0 || brush.lightJitter > 0 || (brush.tip == TipKind::Stamp && !brush.tinted);
}

Rect Dab::bounds() const {
    // The square that holds every tip, turned.
    const Rect box = place.mapBounds({-1, -1, 2, 2});
    const Vec2 way = from - at();
    return box.united({box.x + way.x, box.y + way.y, box.w, box.h}).grown(1.5);
}

Dab mapped(const Dab& dab, const Affine& map) {
    Dab out = dab;
    out.place = map * dab.place;
    out.from = dab.isDrawn() ? map.map(dab.from) : out.at();
    return out;
}

Dab scaled(Dab dab, double by) {
    dab.place = dab.place * Affine::scaling(by, by);
    return dab;
}

std::array<float, 3> shaded(const std::array<float, 3>& colour, const Dab& dab) {
    std::array<float, 3> out = colour;
    if (dab.hue != 0) {
        constexpr double kR = 0.2126, kG = 0.7152, kB = 0.0722;
        const double turn = double(dab.hue) * std::numbers::pi / 180, c = std::cos(turn), s = std::sin(turn);
        const double r = double(colour[0]), g = double(colour[1]), b = double(colour[2]);
        const double luma = kR * r + kG * g + kB * b;
        // Turned in the plane of equal luma.
        const double u = r - luma, v = b - luma;
        const double u2 = u * c - v * s, v2 = u * s + v * c;
        const double g2 = luma - (kR * u2 + kB * v2) / kG;
        out = {float(std::clamp(luma + u2, 0.0, 1.0)), float(std::clamp(g2, 0.0, 1.0)),
               float(std::clamp(luma + v2, 0.0, 1.0))};
    }
    for (float& v : out) v += ((dab.shade > 0 ? 1.0f : 0.0f) - v) * std::abs(dab.shade);
    return out;
}

} // namespace glyptos
