#include "treat/filters.h"

#include "treat/vector_math.h"

#include <tbb/parallel_for.h>

namespace glyptos {
namespace {

using Kernel = std::vector<float>;

/// The middle and one side, which add up to one with the other side.
Kernel halfKernel(double sigma) {
    Kernel out(size_t(gaussianReach(sigma)) + 1);
    double sum = 0;
    for (size_t i = 0; i < out.size(); ++i) {
        const double x = double(i) / sigma;
        out[i] = float(std::exp(-x * x / 2));
        sum += i > 0 ? 2 * double(out[i]) : double(out[i]);
    }
    for (float& v : out) v = float(v / sum);
    return out;
}

GLYPTOS_ROWS void sumAcross(const float* in, float* out, size_t n, const float* kernel, size_t taps) {
    for (size_t x = 0; x < n; ++x) {
        float sum = kernel[0] * in[x];
        for (size_t k = 1; k < taps; ++k) sum += kernel[k] * (in[x - k] + in[x + k]);
        out[x] = sum;
    }
}

/// The same as sumAcross, in blocks whose sums stay in registers.
GLYPTOS_ROWS void blurAcross(const float* in, float* out, size_t n, const float* kernel, size_t taps) {
    constexpr size_t kBlock = 64;
    size_t x = 0;
    for (; x + kBlock <= n; x += kBlock) {
        float sum[kBlock];
        for (size_t i = 0; i < kBlock; ++i) sum[i] = kernel[0] * in[x + i];
        for (size_t k = 1; k < taps; ++k)
            for (size_t i = 0; i < kBlock; ++i) sum[i] += kernel[k] * (in[x + i - k] + in[x + i + k]);
        for (size_t i = 0; i < kBlock; ++i) out[x + i] = sum[i];
    }
    sumAcross(in + x, out + x, n - x, kernel, taps);
}

GLYPTOS_ROWS void blurDown(const float* middle, ptrdiff_t stride, float* out, size_t n, const float* kernel,
                           size_t taps) {
    constexpr size_t kBlock = 64;
    for (size_t x = 0; x < n; x += kBlock) {
        const size_t m = std::min(kBlock, n - x);
        float sum[kBlock];
        for (size_t i = 0; i < kBlock; ++i) sum[i] = 0;
        if (m == kBlock) {
            for (size_t i = 0; i < kBlock; ++i) sum[i] = kernel[0] * middle[x + i];
            for (size_t k = 1; k < taps; ++k) {
                const float *up = middle + x - ptrdiff_t(k) * stride,
                            *down = middle + x + ptrdiff_t(k) * stride;
                for (size_t i = 0; i < kBlock; ++i) sum[i] += kernel[k] * (up[i] + down[i]);
            }
        } else {
            for (size_t i = 0; i < m; ++i) sum[i] = kernel[0] * middle[x + i];
            for (size_t k = 1; k < taps; ++k) {
                const float *up = middle + x - ptrdiff_t(k) * stride,
                            *down = middle + x + ptrdiff_t(k) * stride;
                for (size_t i = 0; i < m; ++i) sum[i] += kernel[k] * (up[i] + down[i]);
            }
        }
        std::copy_n(sum, m, out + x);
    }
}

GLYPTOS_ROWS void halveRow(const float* upper, const float* lower, float* out, size_t n) {
    for (size_t x = 0; x < n; ++x)
        out[x] = 0.25f * ((upper[2 * x] + upper[2 * x + 1]) + (lower[2 * x] + lower[2 * x + 1]));
}

GLYPTOS_ROWS void mixRows(const float* near, const float* far, float* out, size_t n) {
    for (size_t x = 0; x < n; ++x) out[x] = 0.75f * near[x] + 0.25f * far[x];
}

/// From a row whose first sample is coarse column c: n pairs of fine ones for columns c + 1 on.
GLYPTOS_ROWS void doubleRow(const float* in, float* out, size_t n) {
    for (size_t i = 0; i < n; ++i) {
        out[2 * i] = 0.75f * in[i + 1] + 0.25f * in[i];
        out[2 * i + 1] = 0.75f * in[i + 1] + 0.25f * in[i + 2];
    }
}

int floorHalf(int v) {
    return v >= 0 ? v / 2 : -((1 - v) / 2);
}

IntRect grown(const IntRect& r, int by) {
    return {r.x - by, r.y - by, r.w + 2 * by, r.h + 2 * by};
}

} // namespace

int gaussianReach(double sigma) {
    return sigma < 0.05 ? 0 : int(std::ceil(3 * sigma));
}

Plane gaussian(const Plane& in, const IntRect& area, double sigma) {
    const int reach = gaussianReach(sigma);
    Plane out(area);
    if (reach == 0) {
        for (int y = area.y; y < area.bottom(); ++y)
            std::copy_n(in.row(y) + (area.x - in.area.x), area.w, out.row(y));
        return out;
    }
    const Kernel kernel = halfKernel(sigma);
    Plane across({area.x, area.y - reach, area.w, area.h + 2 * reach});
    for (int y = across.area.y; y < across.area.bottom(); ++y)
        blurAcross(in.row(y) + (area.x - in.area.x), across.row(y), size_t(area.w), kernel.data(),
                   kernel.size());
    for (int y = area.y; y < area.bottom(); ++y)
        blurDown(across.row(y), ptrdiff_t(across.stride), out.row(y), size_t(area.w), kernel.data(),
                 kernel.size());
    return out;
}

Plane halved(const Plane& in) {
    Plane out({floorHalf(in.area.x), floorHalf(in.area.y), in.area.w / 2, in.area.h / 2});
    for (int y = out.area.y; y < out.area.bottom(); ++y)
        halveRow(in.row(2 * y), in.row(2 * y + 1), out.row(y), size_t(out.area.w));
    return out;
}

Plane doubled(const Plane& in, const IntRect& area) {
    Plane out(area);
    const int left = floorHalf(area.x), right = floorHalf(area.right() - 1);
    const size_t pairs = size_t(right - left) + 1;
    std::vector<float> upright(pairs + 2), fine(2 * pairs);
    for (int y = area.y; y < area.bottom(); ++y) {
        const int near = floorHalf(y), far = (y & 1) != 0 ? near + 1 : near - 1;
        const int skip = left - 1 - in.area.x;
        mixRows(in.row(near) + skip, in.row(far) + skip, upright.data(), pairs + 2);
        doubleRow(upright.data(), fine.data(), pairs);
        std::copy_n(fine.data() + (area.x - 2 * left), area.w, out.row(y));
    }
    return out;
}

Need WideGaussian::need() const {
    return {level, gaussianReach(sigma) + (level > 0 ? 3 : 0)};
}

WideGaussian wideGaussian(double sigmaPx) {
    constexpr double kWidest = 6; // px of a level
    WideGaussian out;
    while (sigmaPx / std::exp2(out.level) >= kWidest) ++out.level;
    const double unit = std::exp2(-2.0 * out.level);
    out.sigma = std::sqrt(std::max(sigmaPx * sigmaPx * unit - (1 - unit) / 3, 0.0));
    return out;
}

IntRect atLevel(const IntRect& area, int level) {
    const auto down = [&](int v) { return v >> level; }; // towards minus infinity
    const int l = down(area.x), t = down(area.y);
    return {l, t, down(area.right() - 1) + 1 - l, down(area.bottom() - 1) + 1 - t};
}

namespace {

/// What each doubling makes, from `area` on: it reads one sample round that.
std::vector<IntRect> doublings(const IntRect& area, int level) {
    std::vector<IntRect> out{area};
    for (int k = 1; k <= level; ++k) out.push_back(grown(atLevel(out.back(), 1), 1));
    return out;
}

Plane doubledTo(Plane plane, const std::vector<IntRect>& areas) {
    for (size_t level = areas.size() - 1; level-- > 0;) plane = doubled(plane, areas[level]);
    return plane;
}

} // namespace

Plane resized(const Plane& coarse, int level, const IntRect& area) {
    const auto areas = doublings(area, level);
    return doubledTo(gaussian(coarse, areas.back(), 0), areas);
}

Plane smoothed(const Plane& input, const WideGaussian& how, const IntRect& area) {
    const auto areas = doublings(area, how.level);
    return doubledTo(gaussian(input, areas.back(), how.sigma), areas);
}

Planes smoothed(const Planes& input, const WideGaussian& how, const IntRect& area) {
    Planes out;
    out.area = area;
    for (int c = 0; c < 4; ++c) out.c[c] = smoothed(input.c[c], how, area);
    return out;
}

void goOnBeyond(const IntRect& inside, Planes& planes) {
    const IntRect& all = planes.area;
    const IntRect within = inside.intersected(all);
    if (within.empty() || within == all) return;
    for (int y = all.y; y < all.bottom(); ++y) {
        const int nearY = std::clamp(y, within.y, within.bottom() - 1);
        for (int x = all.x; x < all.right(); ++x) {
            const int nearX = std::clamp(x, within.x, within.right() - 1);
            if (nearX == x && nearY == y) continue;
            const float through = 1 - planes.c[3].at(x, y);
            if (through <= 0) continue;
            for (Plane& plane : planes.c) plane.row(y)[x - all.x] += through * plane.at(nearX, nearY);
        }
    }
}

Plane extended(const Plane& in, const IntRect& area) {
    Plane out(area);
    const IntRect both = in.area.intersected(area);
    for (int y = area.y; y < area.bottom(); ++y) {
        const float* from = in.row(std::clamp(y, in.area.y, in.area.bottom() - 1));
        float* to = out.row(y);
        std::fill_n(to, both.x - area.x, from[both.x - in.area.x]);
        std::copy_n(from + (both.x - in.area.x), both.w, to + (both.x - area.x));
        std::fill(to + (both.right() - area.x), to + area.w, from[both.right() - 1 - in.area.x]);
    }
    return out;
}

/// `in` halved, with two more pixels on each side, so that its outermost ones are those beyond the edge
/// alone.
Plane halvedBeyond(const Plane& in) {
    constexpr size_t kRows = 16;
    const IntRect &from = in.area, area = atLevel(grown(from, 2), 1);
    Plane out(area);
    const auto nearest = [&](const float* row, int x) {
        return row[std::clamp(x, from.x, from.right() - 1) - from.x];
    };
    tbb::parallel_for(
        tbb::blocked_range<int>(area.y, area.bottom(), kRows), [&](const tbb::blocked_range<int>& part) {
            for (int y = part.begin(); y < part.end(); ++y) {
                const float* upper = in.row(std::clamp(2 * y, from.y, from.bottom() - 1));
                const float* lower = in.row(std::clamp(2 * y + 1, from.y, from.bottom() - 1));
                float* to = out.row(y) - area.x;
                const int first = (from.x + 1) >> 1, last = from.right() >> 1; // whose both columns are there
                halveRow(upper + (2 * first - from.x), lower + (2 * first - from.x), to + first,
                         size_t(std::max(0, last - first)));
                for (int x = area.x; x < area.right(); ++x) {
                    if (x == first) x = std::max(first, last);
                    if (x == area.right()) break;
                    to[x] = 0.25f * (nearest(upper, 2 * x) + nearest(upper, 2 * x + 1) +
                                     nearest(lower, 2 * x) + nearest(lower, 2 * x + 1));
                }
            }
        });
    return out;
}

Planes smoothedWhole(const Planes& in, double sigmaPx) {
    const WideGaussian how = wideGaussian(sigmaPx);
    Planes out(in.area);
    constexpr int kStrip = 64;
    tbb::parallel_for(0, 4, [&](int c) {
        std::vector<Plane> halves;
        const Plane* coarse = &in.c[c];
        for (int level = 0; level < how.level; ++level) {
            halves.push_back(halvedBeyond(*coarse));
            coarse = &halves.back();
        }
        const Plane read = extended(*coarse, grown(coarse->area, how.need().reach));
        tbb::parallel_for(0, (in.area.h + kStrip - 1) / kStrip, [&](int strip) {
            const int y = in.area.y + strip * kStrip;
            const IntRect area{in.area.x, y, in.area.w, std::min(kStrip, in.area.bottom() - y)};
            const Plane part = smoothed(read, how, area);
            for (int row = area.y; row < area.bottom(); ++row)
                std::copy_n(part.row(row), area.w, out.row(c, row));
        });
    });
    return out;
}

GLYPTOS_ROWS void toStraightRow(float* const (&c)[4], size_t n) {
    float* __restrict r = c[0], * __restrict g = c[1], * __restrict b = c[2];
    const float* __restrict alpha = c[3];
    for (size_t x = 0; x < n; ++x) {
        const float inverse = alpha[x] > 0 ? 1 / alpha[x] : 0.0f;
        r[x] *= inverse, g[x] *= inverse, b[x] *= inverse;
    }
}

GLYPTOS_ROWS void toPremultipliedRow(float* const (&c)[4], size_t n) {
    float* __restrict r = c[0], * __restrict g = c[1], * __restrict b = c[2];
    const float* __restrict alpha = c[3];
    for (size_t x = 0; x < n; ++x) r[x] *= alpha[x], g[x] *= alpha[x], b[x] *= alpha[x];
}

} // namespace glyptos
