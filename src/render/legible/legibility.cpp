#include "render/legible/legibility.h"

#include "color/colour_words.h"

#include <algorithm>
#include <vector>

namespace glyptos {
namespace {

constexpr int kReach = 2; // px round a letter's edge

Rgba over(const Rgba& top, const Rgba& below) {
    const auto mix = [&](float a, float b) { return a * top.a + b * (1 - top.a); };
    return {mix(top.r, below.r), mix(top.g, below.g), mix(top.b, below.b), 1};
}

/// Outside the letters, but near to them.
bool isAtEdge(const Buffer<float>& cover, int width, int height, int x, int y) {
    if (cover.data()[size_t(y) * size_t(width) + size_t(x)] > 0.5F) return false;
    for (int dy = -kReach; dy <= kReach; ++dy)
        for (int dx = -kReach; dx <= kReach; ++dx) {
            const int u = x + dx, v = y + dy;
            if (u >= 0 && v >= 0 && u < width && v < height &&
                cover.data()[size_t(v) * size_t(width) + size_t(u)] > 0.5F)
                return true;
        }
    return false;
}

} // namespace

std::optional<EdgeContrast> edgeContrast(std::span<const uint8_t> behind, const Buffer<float>& cover,
                                         int width, int height, const Rgba& ink) {
    std::vector<double> ratios;
    for (int y = 0; y < height; ++y)
        for (int x = 0; x < width; ++x) {
            if (!isAtEdge(cover, width, height, x, y)) continue;
            const uint8_t* p = behind.data() + 4 * (size_t(y) * size_t(width) + size_t(x));
            const Rgba ground = over(
                {float(p[0]) / 255, float(p[1]) / 255, float(p[2]) / 255, float(p[3]) / 255}, {1, 1, 1, 1});
            ratios.push_back(contrastRatio(over(ink, ground), ground));
        }
    if (ratios.empty()) return std::nullopt;
    std::sort(ratios.begin(), ratios.end());
    return EdgeContrast{ratios[ratios.size() / 20], ratios[ratios.size() / 2]};
}

} // namespace glyptos
