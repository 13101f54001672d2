#include "color/oklab.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace glyptos {
namespace {

float encodedFromLinear(float v) {
    return v <= 0.0031308f ? 12.92f * v : 1.055f * std::pow(v, 1 / 2.4f) - 0.055f;
}

bool isShown(const Rgba& c) {
    constexpr float kSlack = 0.0005f;
    const auto within = [](float v) { return v >= -kSlack && v <= 1 + kSlack; };
    return within(c.r) && within(c.g) && within(c.b);
}

Rgba kept(const Rgba& c) {
    const auto within = [](float v) { return std::clamp(v, 0.0f, 1.0f); };
    return {within(c.r), within(c.g), within(c.b), 1};
}

} // namespace

float linearFromEncoded(float v) {
    return v <= 0.04045f ? v / 12.92f : std::pow((v + 0.055f) / 1.055f, 2.4f);
}

Oklab toOklab(const Rgba& colour) {
    const float r = linearFromEncoded(colour.r), g = linearFromEncoded(colour.g),
                b = linearFromEncoded(colour.b);
    const float l = std::cbrt(0.4122214708f * r + 0.5363325363f * g + 0.0514459929f * b);
    const float m = std::cbrt(0.2119034982f * r + 0.6806995451f * g + 0.1073969566f * b);
    const float s = std::cbrt(0.0883024619f * r + 0.2817188376f * g + 0.6299787005f * b);
    return {0.2104542553f * l + 0.7936177850f * m - 0.0040720468f * s,
            1.9779984951f * l - 2.4285922050f * m + 0.4505937099f * s,
            0.0259040371f * l + 0.7827717662f * m - 0.8086757660f * s};
}

Rgba toRgba(const Oklab& c) {
    const auto cube = [](float v) { return v * v * v; };
    const float l = cube(c.L + 0.3963377774f * c.a + 0.2158037573f * c.b);
    const float m = cube(c.L - 0.1055613458f * c.a - 0.0638541728f * c.b);
    const float s = cube(c.L - 0.0894841775f * c.a - 1.2914855480f * c.b);
    return {encodedFromLinear(4.0767416621f * l - 3.3077115913f * m + 0.2309699292f * s),
            encodedFromLinear(-1.2684380046f * l + 2.6097574011f * m - 0.3413193965f * s),
            encodedFromLinear(-0.0041960863f * l - 0.7034186147f * m + 1.7076147010f * s), 1};
}

Oklch toOklch(const Oklab& c) {
    const double hue = std::atan2(c.b, c.a) * 180 / std::numbers::pi;
    return {c.L, std::hypot(c.a, c.b), hue < 0 ? hue + 360 : hue};
}

Oklab toOklab(const Oklch& c) {
    const double angle = c.h * std::numbers::pi / 180;
    return {float(c.L), float(c.C * std::cos(angle)), float(c.C * std::sin(angle))};
}

float distance(const Oklab& a, const Oklab& b) {
    return std::sqrt(squaredDistance(a, b));
}

Rgba shownAs(const Oklch& wanted) {
    Oklch colour = wanted;
    colour.L = std::clamp(colour.L, 0.0, 1.0);
    if (const Rgba all = toRgba(toOklab(colour)); isShown(all)) return kept(all);
    double low = 0, high = colour.C;
    for (int i = 0; i < 24; ++i) {
        colour.C = (low + high) / 2;
        (isShown(toRgba(toOklab(colour))) ? low : high) = colour.C;
    }
    colour.C = low;
    return kept(toRgba(toOklab(colour)));
}

} // namespace glyptos
