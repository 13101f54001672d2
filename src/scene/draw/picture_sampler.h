// Internal to draw: a surface's picture read as large as it is seen.
#pragma once

#include "base/geometry.h"
#include "scene/draw/surface_picture.h"

#include <algorithm>
#include <cmath>

namespace glyptos {

struct SurfaceColour {
    float b = 0, g = 0, r = 0, a = 0; ///< 0…255
};

/// For pixels that are near each other: which sizes of the picture to read, and along which way.
class PictureSampler {
  public:
    /// `across` and `down`: by how many shares of the picture a pixel to the right, and one below, lie
    /// farther.
    /// With `rough` in the one size that is nearest.
    PictureSampler(const SurfacePicture& picture, Vec2 across, Vec2 down, bool rough)
        : picture_(picture) {
        const double w = picture.width(), h = picture.height();
        const double a = std::hypot(across.x * w, across.y * h), d = std::hypot(down.x * w, down.y * h);
        const double wide = std::max({a, d, 1e-6}), narrow = std::max(std::min(a, d), wide / kMostReads);
        reads_ = std::clamp(int(std::ceil(wide / narrow - 0.25)), 1, kMostReads);
        step_ = (a > d ? across : down) * (1.0 / reads_);
        const double level = std::clamp(std::log2(wide / reads_), 0.0, double(picture.levels().size() - 1));
        level_ = size_t(level);
        between_ = float(level - double(level_));
        if (rough && between_ > 0.5f) ++level_;
        if (rough || between_ < 0.02f) between_ = 0; // not worth reading two sizes for
    }

    SurfaceColour at(Vec2 share) const {
        SurfaceColour sum;
        for (int i = 0; i < reads_; ++i) {
            const Vec2 p = share + step_ * (i - (reads_ - 1) / 2.0);
            add(picture_.levels()[level_], p, (1 - between_) / float(reads_), sum);
            if (between_ > 0)
                add(picture_.levels()[std::min(level_ + 1, picture_.levels().size() - 1)], p,
                    between_ / float(reads_), sum);
        }
        return sum;
    }

  private:
    static constexpr int kMostReads = 4;

    static void add(const SurfacePicture::Level& level, Vec2 share, float weight, SurfaceColour& sum) {
        const double x = std::clamp(share.x * level.width - 0.5, 0.0, level.width - 1.0);
        const double y = std::clamp(share.y * level.height - 0.5, 0.0, level.height - 1.0);
        const int ix = int(x), iy = int(y);
        const auto fx = float(x - ix), fy = float(y - iy);
        const size_t right = ix + 1 < level.width ? 4 : 0;
        const size_t below = iy + 1 < level.height ? size_t(level.width) * 4 : 0;
        const uint8_t* p = level.bytes.data() + (size_t(iy) * size_t(level.width) + size_t(ix)) * 4;
        const float w00 = (1 - fx) * (1 - fy) * weight, w10 = fx * (1 - fy) * weight,
                    w01 = (1 - fx) * fy * weight, w11 = fx * fy * weight;
        const auto mix = [&](int c) {
            return p[c] * w00 + p[size_t(c) + right] * w10 + p[size_t(c) + below] * w01 +
                   p[size_t(c) + right + below] * w11;
        };
        sum.b += mix(0), sum.g += mix(1), sum.r += mix(2), sum.a += mix(3);
    }

    const SurfacePicture& picture_;
    size_t level_ = 0;
    float between_ = 0;
    int reads_ = 1;
    Vec2 step_;
};

} // namespace glyptos
