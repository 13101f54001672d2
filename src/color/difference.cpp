#include "color/difference.h"

#include "color/oklab.h"

#include <cmath>
#include <numbers>

namespace glyptos {
namespace {

constexpr double kDegree = std::numbers::pi / 180;

double curved(double t) {
    constexpr double kEdge = 216.0 / 24389, kSlope = 24389.0 / 27;
    return t > kEdge ? std::cbrt(t) : (kSlope * t + 16) / 116;
}

double square(double v) {
    return v * v;
}

/// c⁷ / (c⁷ + 25⁷), rooted: how far a chroma is beyond the greys.
double beyondGrey(double chroma) {
    const double c = std::pow(chroma, 7);
    return std::sqrt(c / (c + std::pow(25.0, 7)));
}

double hueOf(double a, double b) {
    if (a == 0 && b == 0) return 0;
    const double h = std::atan2(b, a) / kDegree;
    return h < 0 ? h + 360 : h;
}

} // namespace

Lab toLab(const Rgba& colour) {
    const double r = double(linearFromEncoded(colour.r)), g = double(linearFromEncoded(colour.g)),
                 b = double(linearFromEncoded(colour.b));
    const double x = curved((0.4124564 * r + 0.3575761 * g + 0.1804375 * b) / 0.95047);
    const double y = curved(0.2126729 * r + 0.7151522 * g + 0.0721750 * b);
    const double z = curved((0.0193339 * r + 0.1191920 * g + 0.9503041 * b) / 1.08883);
    return {116 * y - 16, 500 * (x - y), 200 * (y - z)};
}

double ciede2000(const Lab& one, const Lab& other) {
    const double middle = (std::hypot(one.a, one.b) + std::hypot(other.a, other.b)) / 2;
    const double grow = 1 + 0.5 * (1 - beyondGrey(middle));
    const double a1 = one.a * grow, a2 = other.a * grow;
    const double c1 = std::hypot(a1, one.b), c2 = std::hypot(a2, other.b);
    const double h1 = hueOf(a1, one.b), h2 = hueOf(a2, other.b);
    const bool grey = c1 * c2 == 0;
    double turn = grey ? 0 : h2 - h1;
    if (turn > 180) turn -= 360;
    if (turn < -180) turn += 360;
    const double dL = other.L - one.L, dC = c2 - c1,
                 dH = 2 * std::sqrt(c1 * c2) * std::sin(turn / 2 * kDegree);
    double hue = h1 + h2;
    if (!grey) {
        if (std::abs(h1 - h2) > 180) hue += hue < 360 ? 360 : -360;
        hue /= 2;
    }
    const double light = (one.L + other.L) / 2, chroma = (c1 + c2) / 2;
    const double t = 1 - 0.17 * std::cos((hue - 30) * kDegree) + 0.24 * std::cos(2 * hue * kDegree) +
                     0.32 * std::cos((3 * hue + 6) * kDegree) - 0.20 * std::cos((4 * hue - 63) * kDegree);
    const double sL = 1 + 0.015 * square(light - 50) / std::sqrt(20 + square(light - 50));
    const double sC = 1 + 0.045 * chroma, sH = 1 + 0.015 * chroma * t;
    const double lean =
        -std::sin(60 * std::exp(-square((hue - 275) / 25)) * kDegree) * 2 * beyondGrey(chroma);
    return std::sqrt(square(dL / sL) + square(dC / sC) + square(dH / sH) + lean * (dC / sC) * (dH / sH));
}

} // namespace glyptos
