#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "raster/warp/remap_simd.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>

#include "raster/load_premultiplied-inl.h"
#include "raster/resample_plan.h"
#include "raster/warp/remap_probes.h"

#include <array>
#include <tbb/parallel_for.h>

HWY_BEFORE_NAMESPACE();
namespace glyptos::HWY_NAMESPACE {

namespace hn = hwy::HWY_NAMESPACE;
using FourPixels = hn::CappedTag<float, 16>; ///< a quarter, a half or all of four pixels

/// The cubic's four weights at 256 places between two pixels, each written four times, once a channel.
struct Phases {
    static constexpr int kCount = 256;
    alignas(64) float wide[kCount + 1][16];
    float plain[kCount + 1][4];
    Phases() {
        for (int i = 0; i <= kCount; ++i)
            for (int k = 0; k < 4; ++k) {
                plain[i][k] = float(cubicKernel(k - 1 - double(i) / kCount));
                std::fill_n(wide[i] + 4 * k, 4, plain[i][k]);
            }
    }
};

const Phases& phases() {
    static const Phases made;
    return made;
}

/// A place between pixels as whole phases; never so far out that it would not fit.
HWY_INLINE int PhaseAt(float place, float side) {
    constexpr float kBeyond = 16;
    const float p = std::min(std::max(-kBeyond, place), side + kBeyond) - 0.5f;
    return int((p + 2 * kBeyond) * Phases::kCount + 0.5f) - int(2 * kBeyond) * Phases::kCount;
}

/// The cubic between four by four pixels, the first of them at `row`, premultiplied, on T's scale.
template <class T, bool kOpaque>
HWY_INLINE hn::Vec<Pixel> Cubic(const T* HWY_RESTRICT row, size_t stride, const float* HWY_RESTRICT wx,
                                const float* HWY_RESTRICT wy) {
    const FourPixels tag;
    const size_t lanes = hn::Lanes(tag);
    const Pixel pixel;
    alignas(64) float sums[16];
    for (size_t i = 0; i < 16; i += lanes) {
        auto sum = hn::Mul(LoadPremultiplied<T, kOpaque>(tag, row + i), hn::Set(tag, wy[0]));
        sum = hn::MulAdd(LoadPremultiplied<T, kOpaque>(tag, row + stride + i), hn::Set(tag, wy[1]), sum);
        sum = hn::MulAdd(LoadPremultiplied<T, kOpaque>(tag, row + 2 * stride + i), hn::Set(tag, wy[2]), sum);
        sum = hn::MulAdd(LoadPremultiplied<T, kOpaque>(tag, row + 3 * stride + i), hn::Set(tag, wy[3]), sum);
        hn::Store(hn::Mul(sum, hn::Load(tag, wx + i)), tag, sums + i);
    }
    return hn::Add(hn::Add(hn::Load(pixel, sums), hn::Load(pixel, sums + 4)),
                   hn::Add(hn::Load(pixel, sums + 8), hn::Load(pixel, sums + 12)));
}

/// The same where the kernel runs over the picture's border: its edge pixels go on.
template <class T, bool kOpaque>
HWY_NOINLINE hn::Vec<Pixel> CubicAtEdge(const Picture& source, int x, int y, const float* wx,
                                        const float* wy) {
    const Pixel pixel;
    auto total = hn::Zero(pixel);
    for (int j = 0; j < 4; ++j) {
        const T* row = source.row<T>(std::clamp(y + j, 0, source.height - 1));
        auto sum = hn::Zero(pixel);
        for (int i = 0; i < 4; ++i)
            sum = hn::MulAdd(LoadPremultiplied<T, kOpaque>(
                                 pixel, row + 4 * size_t(std::clamp(x + i, 0, source.width - 1))),
                             hn::Set(pixel, wx[4 * i]), sum);
        total = hn::MulAdd(sum, hn::Set(pixel, wy[j]), total);
    }
    return total;
}

/// The cubic at a place told in phases.
template <class T, bool kOpaque>
HWY_INLINE hn::Vec<Pixel> CubicAt(const Picture& source, const Phases& table, int px, int py) {
    const int left = (px >> 8) - 1, top = (py >> 8) - 1;
    const float *wx = table.wide[px & 255], *wy = table.plain[py & 255];
    const bool inside = left >= 0 && top >= 0 && left + 4 <= source.width && top + 4 <= source.height;
    if (!inside) return CubicAtEdge<T, kOpaque>(source, left, top, wx, wy);
    const size_t stride = 4 * size_t(source.width);
    return Cubic<T, kOpaque>(source.row<T>(0) + size_t(top) * stride + 4 * size_t(left), stride, wx, wy);
}

/// The cubic laid over more pixels than four: its weights along one axis, from pixel `first` on.
struct Taps {
    static constexpr int kMost = 16; ///< a kernel widened 2.5 times needs 11
    int first;
    alignas(64) float weights[kMost];

    HWY_INLINE Taps(float widen, float at)
        : first(int(std::ceil(at - 2 * widen - 0.5f))) {
        const FourPixels tag;
        const size_t lanes = hn::Lanes(tag);
        const auto one = hn::Set(tag, 1.0f), two = hn::Set(tag, 2.0f), inverse = hn::Set(tag, 1 / widen);
        auto sum = hn::Zero(tag);
        for (size_t i = 0; i < kMost; i += lanes) {
            const auto place = hn::Add(hn::Iota(tag, float(i)), hn::Set(tag, float(first) + 0.5f - at));
            const auto x = hn::Abs(hn::Mul(place, inverse));
            const auto square = hn::Mul(x, x);
            const auto inner = hn::MulAdd(hn::MulSub(hn::Set(tag, 1.5f), x, hn::Set(tag, 2.5f)), square, one);
            const auto outer = hn::MulAdd(
                hn::MulSub(hn::MulAdd(hn::Set(tag, -0.5f), x, hn::Set(tag, 2.5f)), x, hn::Set(tag, 4.0f)), x,
                two);
            const auto weight =
                hn::IfThenElse(hn::Lt(x, one), inner, hn::IfThenElseZero(hn::Lt(x, two), outer));
            sum = hn::Add(sum, weight);
            hn::Store(weight, tag, weights + i);
        }
        const auto whole = hn::Div(one, hn::SumOfLanes(tag, sum));
        for (size_t i = 0; i < kMost; i += lanes)
            hn::Store(hn::Mul(hn::Load(tag, weights + i), whole), tag, weights + i);
    }
};

template <class T, bool kOpaque>
HWY_INLINE hn::Vec<Pixel> Widened(const Picture& source, float widen, float u, float v) {
    constexpr float kBeyond = 16;
    const Taps across(widen, std::min(std::max(-kBeyond, u), float(source.width) + kBeyond)),
        down(widen, std::min(std::max(-kBeyond, v), float(source.height) + kBeyond));
    const int taps = int(std::ceil(4 * widen)) + 1, fours = (taps + 3) / 4;
    const Pixel pixel;
    const T* rows[Taps::kMost];
    const bool inside = across.first >= 0 && across.first + 4 * fours <= source.width;
    for (int j = 0; j < taps; ++j)
        rows[j] = source.row<T>(std::clamp(down.first + j, 0, source.height - 1)) +
                  (inside ? 4 * size_t(across.first) : 0);
    if (!inside) {
        auto total = hn::Zero(pixel);
        for (int j = 0; j < taps; ++j) {
            auto sum = hn::Zero(pixel);
            for (int k = 0; k < taps; ++k)
                sum = hn::MulAdd(
                    LoadPremultiplied<T, kOpaque>(
                        pixel, rows[j] + 4 * size_t(std::clamp(across.first + k, 0, source.width - 1))),
                    hn::Set(pixel, across.weights[k]), sum);
            total = hn::MulAdd(sum, hn::Set(pixel, down.weights[j]), total);
        }
        return total;
    }
    // Four pixels at a time: down the rows, then by their weights across, each of which is there four times.
    alignas(64) float wide[size_t(4) * Taps::kMost], sums[16];
    for (int k = 0; k < 4 * fours; ++k) hn::Store(hn::Set(pixel, across.weights[k]), pixel, wide + 4 * k);
    const FourPixels tag;
    const size_t lanes = hn::Lanes(tag);
    for (size_t part = 0; part < 16; part += lanes) {
        auto total = hn::Zero(tag);
        for (int four = 0; four < fours; ++four) {
            const size_t at = size_t(16) * size_t(four) + part;
            auto even = hn::Zero(tag), odd = hn::Zero(tag);
            int j = 0;
            for (; j + 1 < taps; j += 2) {
                even = hn::MulAdd(LoadPremultiplied<T, kOpaque>(tag, rows[j] + at),
                                  hn::Set(tag, down.weights[j]), even);
                odd = hn::MulAdd(LoadPremultiplied<T, kOpaque>(tag, rows[j + 1] + at),
                                 hn::Set(tag, down.weights[j + 1]), odd);
            }
            if (j < taps)
                even = hn::MulAdd(LoadPremultiplied<T, kOpaque>(tag, rows[j] + at),
                                  hn::Set(tag, down.weights[j]), even);
            total = hn::MulAdd(hn::Add(even, odd), hn::Load(tag, wide + at), total);
        }
        hn::Store(total, tag, sums + part);
    }
    return hn::Add(hn::Add(hn::Load(pixel, sums), hn::Load(pixel, sums + 4)),
                   hn::Add(hn::Load(pixel, sums + 8), hn::Load(pixel, sums + 12)));
}

/// A sum of T's scale as it is kept: on the scale of 65535, colour within alpha, by how much of the pixel it
/// is.
template <class T>
HWY_INLINE void StorePixel(hn::Vec<Pixel> sum, float share, float* HWY_RESTRICT out) {
    const Pixel pixel;
    const auto value = hn::Mul(sum, hn::Set(pixel, 65535.0f / float(T(~T(0)))));
    const auto alpha = hn::Min(hn::Max(hn::Broadcast<3>(value), hn::Zero(pixel)), hn::Set(pixel, 65535.0f));
    hn::StoreU(hn::Mul(hn::Min(hn::Max(value, hn::Zero(pixel)), alpha), hn::Set(pixel, share)), pixel, out);
}

/// Where a pixel of a block comes from, in phases.
struct Places {
    alignas(64) int x[kRemapBlock], y[kRemapBlock];
};

/// A block whose footprints are no larger than a pixel: the cubic as it is.
template <class T, bool kOpaque>
HWY_INLINE void SampleFine(const Probes& probes, const Coordinates& from, const IntRect& block,
                           float* HWY_RESTRICT out) {
    const Picture& source = *probes.picture;
    const Phases& table = phases();
    const Pixel pixel;
    const auto k = float(probes.k), l = float(probes.l), ox = float(probes.origin.x),
               oy = float(probes.origin.y);
    const auto width = float(source.width), height = float(source.height);
    for (int y = 0; y < block.h; ++y, out += 4 * kRemapBlock) {
        const size_t first = size_t(block.y + y) * size_t(from.width) + size_t(block.x);
        const float *xs = from.x.data() + first, *ys = from.y.data() + first,
                    *shares = from.share.data() + first;
        Places at;
        for (int x = 0; x < block.w; ++x) {
            at.x[x] = PhaseAt((xs[x] - ox) * k, width);
            at.y[x] = PhaseAt((ys[x] - oy) * l, height);
        }
        for (int x = 0; x < block.w; ++x) {
            if (shares[x] <= 0) {
                hn::StoreU(hn::Zero(pixel), pixel, out + 4 * size_t(x));
                continue;
            }
            StorePixel<T>(CubicAt<T, kOpaque>(source, table, at.x[x], at.y[x]), shares[x],
                          out + 4 * size_t(x));
        }
    }
}

/// Any other block.
template <class T, bool kOpaque>
HWY_INLINE void SampleWide(const Probes& probes, const Coordinates& from, const IntRect& block,
                           float* HWY_RESTRICT out) {
    const Picture& source = *probes.picture;
    const auto width = float(source.width), height = float(source.height);
    const Pixel pixel;
    for (int y = 0; y < block.h; ++y, out += 4 * kRemapBlock)
        for (int x = 0; x < block.w; ++x) {
            const size_t at = size_t(block.y + y) * size_t(from.width) + size_t(block.x + x);
            auto sum = hn::Zero(pixel);
            const auto u = float((double(from.x[at]) - probes.origin.x) * probes.k),
                       v = float((double(from.y[at]) - probes.origin.y) * probes.l);
            for (int i = 0; i < probes.count && from.share[at] > 0; ++i) {
                const float t = float(i) - float(probes.count - 1) / 2, there = u + float(probes.way.x) * t,
                            below = v + float(probes.way.y) * t;
                sum = hn::Add(sum, probes.widen > 1
                                       ? Widened<T, kOpaque>(source, probes.widen, there, below)
                                       : CubicAt<T, kOpaque>(source, phases(), PhaseAt(there, width),
                                                             PhaseAt(below, height)));
            }
            StorePixel<T>(hn::Mul(sum, hn::Set(pixel, 1.0f / float(probes.count))), from.share[at],
                          out + 4 * size_t(x));
        }
}

template <class T>
HWY_INLINE void SampleBlock(const Probes& probes, const Coordinates& from, const IntRect& block, float* out) {
    const bool fine = probes.count == 1 && probes.widen <= 1;
    if (probes.picture->opaque)
        fine ? SampleFine<T, true>(probes, from, block, out) : SampleWide<T, true>(probes, from, block, out);
    else
        fine ? SampleFine<T, false>(probes, from, block, out)
             : SampleWide<T, false>(probes, from, block, out);
}

/// Pixels of a block, in rows of kRemapBlock, each premultiplied on the scale of 65535.
void SampleBlock8(const Probes& probes, const Coordinates& from, const IntRect& block, float* out) {
    SampleBlock<uint8_t>(probes, from, block, out);
}
void SampleBlock16(const Probes& probes, const Coordinates& from, const IntRect& block, float* out) {
    SampleBlock<uint16_t>(probes, from, block, out);
}

} // namespace glyptos::HWY_NAMESPACE
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace glyptos {
namespace {

HWY_EXPORT(SampleBlock8);
HWY_EXPORT(SampleBlock16);

/// Calls put(x, y, n, pixels) for every row of every block.
template <class Put>
void eachRow(const FramedPicture& source, const Coordinates& from, Sampling sampling, const Put& put) {
    const int across = (from.width + kRemapBlock - 1) / kRemapBlock;
    alignas(64) std::array<float, size_t(4) * kRemapBlock * kRemapBlock + 16> pixels;
    for (int y = 0; y < from.height; y += kRemapBlock)
        for (int x = 0; x < from.width; x += kRemapBlock) {
            const auto& print =
                from.footprints[size_t(y / kRemapBlock) * size_t(across) + size_t(x / kRemapBlock)];
            const Probes probes = probesFor(source, print, sampling);
            const IntRect block{x, y, std::min(kRemapBlock, from.width - x),
                                std::min(kRemapBlock, from.height - y)};
            if (probes.picture->is16())
                HWY_DYNAMIC_DISPATCH(SampleBlock16)(probes, from, block, pixels.data());
            else
                HWY_DYNAMIC_DISPATCH(SampleBlock8)(probes, from, block, pixels.data());
            for (int j = 0; j < block.h; ++j)
                put(x, y + j, block.w, pixels.data() + size_t(4) * kRemapBlock * size_t(j));
        }
}

template <class T>
void remapInto(const Pyramid& source, const Mapping& mapping, Picture& out) {
    // Parts whose coordinates stay in the second-level cache until they are used.
    constexpr int kWide = 256, kHigh = 64;
    const Rect shown{0, 0, double(source.width()), double(source.height())};
    const int across = (out.width + kWide - 1) / kWide, down = (out.height + kHigh - 1) / kHigh;
    const float full = float(T(~T(0)));
    tbb::parallel_for(0, across * down, [&](int part) {
        const int x0 = part % across * kWide, y0 = part / across * kHigh;
        const IntRect area{x0, y0, std::min(kWide, out.width - x0), std::min(kHigh, out.height - y0)};
        const Coordinates from = coordinatesFor(mapping, shown, area);
        if (from.empty) {
            for (int y = area.y; y < area.bottom(); ++y)
                std::fill_n(out.row<T>(y) + 4 * size_t(area.x), size_t(area.w) * 4, T(0));
            return;
        }
        eachRow({source}, from, Sampling::Whole, [&](int x, int y, int n, const float* p) {
            T* to = out.row<T>(area.y + y) + 4 * size_t(area.x + x);
            for (int i = 0; i < n; ++i, p += 4, to += 4) {
                const float k = p[3] >= 65535 ? full / 65535 : p[3] > 0 ? full / p[3] : 0;
                for (int c = 0; c < 3; ++c) to[c] = static_cast<T>(std::min(p[c] * k, full) + 0.5F);
                to[3] = static_cast<T>(p[3] * (full / 65535) + 0.5F);
            }
        });
    });
}

} // namespace

void remapTile(const FramedPicture& source, const Coordinates& from, Tile& out, Sampling sampling) {
    eachRow(source, from, sampling, [&](int x, int y, int n, const float* p) {
        uint16_t *r = out.row(0, y) + x, *g = out.row(1, y) + x, *b = out.row(2, y) + x,
                 *a = out.row(3, y) + x;
        for (int i = 0; i < n; ++i, p += 4)
            r[i] = nearestSample(p[0]), g[i] = nearestSample(p[1]), b[i] = nearestSample(p[2]),
            a[i] = nearestSample(p[3]);
    });
}

Picture remapped(const Pyramid& source, const Mapping& mapping, int width, int height) {
    const bool deep = source.level(source.firstLevel()).is16();
    Picture out = deep ? Picture::create<uint16_t>(width, height) : Picture::create<uint8_t>(width, height);
    deep ? remapInto<uint16_t>(source, mapping, out) : remapInto<uint8_t>(source, mapping, out);
    return out;
}

} // namespace glyptos
#endif
