#include "vision/select/colour_range.h"

#include "base/error.h"
#include "color/difference.h"
#include "vision/reduced.h"

#include <algorithm>
#include <cmath>
#include <tbb/parallel_for.h>

namespace glyptos {
namespace {

Rgba meanAbout(const Picture& picture, int x, int y) {
    Rgba sum{0, 0, 0, 0};
    float count = 0;
    for (int v = std::max(y - 1, 0); v <= std::min(y + 1, picture.height - 1); ++v)
        for (int u = std::max(x - 1, 0); u <= std::min(x + 1, picture.width - 1); ++u) {
            const Rgba c = straightAt(picture, u, v);
            sum.r += c.r * c.a, sum.g += c.g * c.a, sum.b += c.b * c.a, sum.a += c.a, ++count;
        }
    if (sum.a <= 0) return {0, 0, 0, 0};
    return {sum.r / sum.a, sum.g / sum.a, sum.b / sum.a, sum.a / count};
}

/// Keeps the patch round a point: what is selected and hangs together, edge by edge.
void keepPatch(AlphaMap& map, int x, int y) {
    AlphaMap out(map.width, map.height);
    std::vector<std::pair<int, int>> open{{x, y}};
    const auto take = [&](int u, int v) {
        if (u < 0 || v < 0 || u >= map.width || v >= map.height) return;
        if (map.at(u, v) == 0 || out.at(u, v) != 0) return;
        out.at(u, v) = map.at(u, v);
        open.emplace_back(u, v);
    };
    out.at(x, y) = map.at(x, y);
    while (!open.empty()) {
        const auto [u, v] = open.back();
        open.pop_back();
        take(u - 1, v), take(u + 1, v), take(u, v - 1), take(u, v + 1);
    }
    map = std::move(out);
}

} // namespace

AlphaMap withColourOf(const Picture& picture, int x, int y, const ColourRange& range) {
    const Rgba wanted = meanAbout(picture, x, y);
    const Lab middle = toLab(wanted);
    const double fade = std::max(range.tolerance / 5, 0.5);
    AlphaMap out(picture.width, picture.height);
    tbb::parallel_for(0, picture.height, [&](int v) {
        if (isCancelled(range.cancel)) return;
        Rgba last{-1, -1, -1, -1};
        double selected = 0;
        for (int u = 0; u < picture.width; ++u) {
            const Rgba c = straightAt(picture, u, v);
            if (!(c == last)) {
                // Where nothing is to be seen, nothing is alike but what is see-through too.
                const double apart = wanted.a <= 0 ? (c.a <= 0 ? 0 : 100) : ciede2000(middle, toLab(c));
                const double cover = wanted.a <= 0 ? 1 : double(c.a);
                selected = std::clamp((range.tolerance + fade - apart) / fade, 0.0, 1.0) * cover;
                last = c;
            }
            out.at(u, v) = static_cast<uint8_t>(std::lround(255 * selected));
        }
    });
    if (isCancelled(range.cancel)) return AlphaMap(picture.width, picture.height);
    if (range.connected) keepPatch(out, x, y);
    return out;
}

} // namespace glyptos
