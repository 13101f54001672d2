#include "color/color.h"

#include <algorithm>
#include <cmath>
#include <cstdio>

namespace glyptos {
namespace {

int toByte(float v) {
    return static_cast<int>(std::lround(std::clamp(v, 0.0f, 1.0f) * 255));
}

int hexDigit(char c) {
    if (c >= '0' && c <= '9') return c - '0';
    if (c >= 'a' && c <= 'f') return c - 'a' + 10;
    if (c >= 'A' && c <= 'F') return c - 'A' + 10;
    return -1;
}

} // namespace

std::string toHex(const Rgba& colour) {
    char text[10];
    const int alpha = toByte(colour.a);
    if (alpha == 255)
        std::snprintf(text, sizeof text, "#%02x%02x%02x", toByte(colour.r), toByte(colour.g),
                      toByte(colour.b));
    else
        std::snprintf(text, sizeof text, "#%02x%02x%02x%02x", toByte(colour.r), toByte(colour.g),
                      toByte(colour.b), alpha);
    return text;
}

std::optional<Rgba> rgbaFromHex(std::string_view text) {
    if (!text.empty() && text[0] == '#') text.remove_prefix(1);
    std::string full(text);
    if (full.size() == 3) full = {text[0], text[0], text[1], text[1], text[2], text[2]};
    if (full.size() == 6) full += "ff";
    if (full.size() != 8) return std::nullopt;
    float v[4];
    for (size_t i = 0; i < 4; ++i) {
        const int high = hexDigit(full[2 * i]), low = hexDigit(full[2 * i + 1]);
        if (high < 0 || low < 0) return std::nullopt;
        v[i] = float(16 * high + low) / 255.0f;
    }
    return Rgba{v[0], v[1], v[2], v[3]};
}

} // namespace glyptos
