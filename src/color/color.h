// Colours as values. The working space everywhere is sRGB-encoded (IEC 61966-2-1).
#pragma once

#include <cstdint>
#include <optional>
#include <string>
#include <string_view>

namespace glyptos {

/// Straight sRGB-encoded colour with alpha, 0…1 each.
struct Rgba {
    float r = 0, g = 0, b = 0, a = 1;
    bool operator==(const Rgba&) const = default;
};

/// "#rrggbb", or "#rrggbbaa" when not opaque.
std::string toHex(const Rgba& colour);
/// From "#rgb", "#rrggbb" or "#rrggbbaa", the hash optional.
std::optional<Rgba> rgbaFromHex(std::string_view text);

/// Ink shares 0…1.
struct Cmyk {
    double c = 0, m = 0, y = 0, k = 0;
};

/// Luma: how light an encoded colour is (weights of ITU-R BT.709), 0…1.
inline float lumaOf(const Rgba& c) {
    return 0.2126f * c.r + 0.7152f * c.g + 0.0722f * c.b;
}

} // namespace glyptos
