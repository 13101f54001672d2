// Internal to draw: in which size, and along which way, a surface's picture is read for what is seen of it.
#pragma once

#include "base/geometry.h"
#include "scene/draw/span_shade.h"

#include <algorithm>
#include <cmath>

namespace glyptos {

/// `across` and `down`: by how many shares of the picture a pixel to the right, and one below, lie farther.
/// With `rough` in the one size that is nearest, and twice at most.
inline void planReading(const SurfacePicture& picture, Vec2 across, Vec2 down, bool rough, SpanLook& look) {
    const int most = rough ? 2 : 4;
    const double w = picture.width(), h = picture.height();
    const auto px = [&](Vec2 v) { return std::sqrt(v.x * w * v.x * w + v.y * h * v.y * h); };
    const double a = px(across), d = px(down);
    const double wide = std::max({a, d, 1e-6}), narrow = std::max(std::min(a, d), wide / most);
    look.reads = std::clamp(int(std::ceil(wide / narrow - 0.25)), 1, most);
    const Vec2 step = (a > d ? across : down) * (1.0 / look.reads);
    look.stepX = float(step.x), look.stepY = float(step.y);
    const auto& levels = picture.levels();
    const double level = std::clamp(std::log2(wide / look.reads), 0.0, double(levels.size() - 1));
    size_t first = size_t(level);
    look.between = float(level - double(first));
    if (rough && look.between > 0.5F) ++first;
    if (rough || look.between < 0.02F) look.between = 0; // not worth reading two sizes for
    look.levels[0] = &levels[first];
    look.levels[1] = &levels[std::min(first + 1, levels.size() - 1)];
}

} // namespace glyptos
