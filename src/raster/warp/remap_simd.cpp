#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "raster/warp/remap_simd.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>

#include "raster/load_premultiplied-inl.h"
#include "raster/resample.h"
#include "raster/resample_plan.h"
#include "raster/warp/remap_probes.h"

#include <array>
#include <tbb/blocked_range.h>
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

template <class T, bool kOpaque>
class Sampler {
  public:
    explicit Sampler(const Probes& probes)
        : probes_(probes)
        , source_(*probes.picture)
        , inverse_(1 / probes.widen) {}

    /// Premultiplied, on T's scale, into four floats. (u, v): px of the level.
    HWY_INLINE void At(double u, double v, float* HWY_RESTRICT out) const {
        if (probes_.count == 1) return Once(u, v, out);
        const Pixel pixel;
        auto sum = hn::Zero(pixel);
        for (int i = 0; i < probes_.count; ++i) {
            const double t = i - (probes_.count - 1) / 2.0;
            alignas(16) float one[4];
            Once(u + probes_.way.x * t, v + probes_.way.y * t, one);
            sum = hn::Add(sum, hn::Load(pixel, one));
        }
        hn::StoreU(hn::Mul(sum, hn::Set(pixel, 1.0f / float(probes_.count))), pixel, out);
    }

  private:
    HWY_INLINE void Once(double u, double v, float* HWY_RESTRICT out) const {
        u = std::clamp(u, -16.0, source_.width + 16.0), v = std::clamp(v, -16.0, source_.height + 16.0);
        probes_.widen > 1 ? Widened(u, v, out) : Cubic(u, v, out);
    }

    HWY_INLINE void Cubic(double u, double v, float* HWY_RESTRICT out) const {
        static const Phases phases;
        const int iu = int(std::lround((u - 0.5) * Phases::kCount)),
                  iv = int(std::lround((v - 0.5) * Phases::kCount));
        const int x = (iu >> 8) - 1, y = (iv >> 8) - 1, px = iu & 255, py = iv & 255;
        if (x < 0 || y < 0 || x + 4 > source_.width || y + 4 > source_.height)
            return Edge(x, y, px, py, phases, out);
        const FourPixels tag;
        const size_t lanes = hn::Lanes(tag);
        const float* HWY_RESTRICT wy = phases.plain[py];
        const T* row = source_.row<T>(y) + 4 * size_t(x);
        const size_t stride = 4 * size_t(source_.width);
        alignas(64) float sums[16];
        for (size_t i = 0; i < 16; i += lanes) {
            auto sum = hn::Mul(LoadPremultiplied<T, kOpaque>(tag, row + i), hn::Set(tag, wy[0]));
            sum = hn::MulAdd(LoadPremultiplied<T, kOpaque>(tag, row + stride + i), hn::Set(tag, wy[1]), sum);
            sum = hn::MulAdd(LoadPremultiplied<T, kOpaque>(tag, row + 2 * stride + i), hn::Set(tag, wy[2]),
                             sum);
            sum = hn::MulAdd(LoadPremultiplied<T, kOpaque>(tag, row + 3 * stride + i), hn::Set(tag, wy[3]),
                             sum);
            hn::Store(hn::Mul(sum, hn::Load(tag, phases.wide[px] + i)), tag, sums + i);
        }
        const Pixel pixel;
        hn::StoreU(hn::Add(hn::Add(hn::Load(pixel, sums), hn::Load(pixel, sums + 4)),
                           hn::Add(hn::Load(pixel, sums + 8), hn::Load(pixel, sums + 12))),
                   pixel, out);
    }

    /// The same where the kernel runs over the picture's border: its edge pixels go on.
    HWY_NOINLINE void Edge(int x, int y, int px, int py, const Phases& phases, float* out) const {
        const Pixel pixel;
        auto total = hn::Zero(pixel);
        for (int j = 0; j < 4; ++j) {
            const T* row = source_.row<T>(std::clamp(y + j, 0, source_.height - 1));
            auto sum = hn::Zero(pixel);
            for (int i = 0; i < 4; ++i)
                sum = hn::MulAdd(LoadPremultiplied<T, kOpaque>(
                                     pixel, row + 4 * size_t(std::clamp(x + i, 0, source_.width - 1))),
                                 hn::Set(pixel, phases.plain[px][i]), sum);
            total = hn::MulAdd(sum, hn::Set(pixel, phases.plain[py][j]), total);
        }
        hn::StoreU(total, pixel, out);
    }

    /// The cubic laid over more pixels than four.
    HWY_NOINLINE void Widened(double u, double v, float* out) const {
        constexpr int kMost = 12;
        const float widen = probes_.widen;
        const int taps = std::min(kMost, int(std::ceil(4 * widen)) + 1);
        const int x = int(std::ceil(u - 2 * double(widen) - 0.5)),
                  y = int(std::ceil(v - 2 * double(widen) - 0.5));
        std::array<float, kMost> wx{}, wy{};
        std::array<size_t, kMost> column{};
        float sumX = 0, sumY = 0;
        for (int k = 0; k < taps; ++k) {
            sumX += wx[size_t(k)] = Kernel(float(x + k + 0.5 - u) * inverse_);
            sumY += wy[size_t(k)] = Kernel(float(y + k + 0.5 - v) * inverse_);
            column[size_t(k)] = 4 * size_t(std::clamp(x + k, 0, source_.width - 1));
        }
        const Pixel pixel;
        auto total = hn::Zero(pixel);
        for (int j = 0; j < taps; ++j) {
            const T* row = source_.row<T>(std::clamp(y + j, 0, source_.height - 1));
            auto sum = hn::Zero(pixel);
            for (int k = 0; k < taps; ++k)
                sum = hn::MulAdd(LoadPremultiplied<T, kOpaque>(pixel, row + column[size_t(k)]),
                                 hn::Set(pixel, wx[size_t(k)]), sum);
            total = hn::MulAdd(sum, hn::Set(pixel, wy[size_t(j)]), total);
        }
        hn::StoreU(hn::Mul(total, hn::Set(pixel, 1 / (sumX * sumY))), pixel, out);
    }
    static float Kernel(float x) {
        x = std::abs(x);
        if (x < 1) return (1.5f * x - 2.5f) * x * x + 1;
        return x < 2 ? ((-0.5f * x + 2.5f) * x - 4) * x + 2 : 0;
    }

    const Probes& probes_;
    const Picture& source_;
    float inverse_;
};

/// One row of a block: `n` pixels from `from` on, each premultiplied on the scale of 65535.
template <class T, bool kOpaque>
HWY_INLINE void SampleRow(const Probes& probes, const Coordinates& from, size_t first, int n,
                          float* HWY_RESTRICT out) {
    const Sampler<T, kOpaque> sampler(probes);
    const Pixel pixel;
    for (int x = 0; x < n; ++x, out += 4) {
        const size_t i = first + size_t(x);
        const float share = from.share[i];
        if (share <= 0) {
            hn::StoreU(hn::Zero(pixel), pixel, out);
            continue;
        }
        alignas(16) float one[4];
        sampler.At((double(from.x[i]) - probes.origin.x) * probes.k,
                   (double(from.y[i]) - probes.origin.y) * probes.l, one);
        const float scale = 65535.0f / float(T(~T(0)));
        const auto value = hn::Mul(hn::Load(pixel, one), hn::Set(pixel, scale));
        const auto alpha =
            hn::Min(hn::Max(hn::Broadcast<3>(value), hn::Zero(pixel)), hn::Set(pixel, 65535.0f));
        hn::StoreU(hn::Mul(hn::Min(hn::Max(value, hn::Zero(pixel)), alpha), hn::Set(pixel, share)), pixel,
                   out);
    }
}

void SampleRow8(const Probes& probes, const Coordinates& from, size_t first, int n, float* out) {
    probes.picture->opaque ? SampleRow<uint8_t, true>(probes, from, first, n, out)
                           : SampleRow<uint8_t, false>(probes, from, first, n, out);
}
void SampleRow16(const Probes& probes, const Coordinates& from, size_t first, int n, float* out) {
    probes.picture->opaque ? SampleRow<uint16_t, true>(probes, from, first, n, out)
                           : SampleRow<uint16_t, false>(probes, from, first, n, out);
}

} // namespace glyptos::HWY_NAMESPACE
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace glyptos {
namespace {

HWY_EXPORT(SampleRow8);
HWY_EXPORT(SampleRow16);

/// Calls put(x, y, n, pixels) for every row of every block.
template <class Put>
void eachRow(const FramedPicture& source, const Coordinates& from, const Put& put) {
    const int across = (from.width + kRemapBlock - 1) / kRemapBlock;
    alignas(64) std::array<float, size_t(4) * kRemapBlock + 16> pixels;
    for (int by = 0; by < from.height; by += kRemapBlock)
        for (int bx = 0; bx < from.width; bx += kRemapBlock) {
            const auto& print =
                from.footprints[size_t(by / kRemapBlock) * size_t(across) + size_t(bx / kRemapBlock)];
            const Probes probes = probesFor(source, print);
            const int n = std::min(kRemapBlock, from.width - bx);
            for (int y = by; y < std::min(by + kRemapBlock, from.height); ++y) {
                const size_t first = size_t(y) * size_t(from.width) + size_t(bx);
                if (probes.picture->is16())
                    HWY_DYNAMIC_DISPATCH(SampleRow16)(probes, from, first, n, pixels.data());
                else
                    HWY_DYNAMIC_DISPATCH(SampleRow8)(probes, from, first, n, pixels.data());
                put(bx, y, n, pixels.data());
            }
        }
}

template <class T>
void remapInto(const Pyramid& source, const Mapping& mapping, Picture& out) {
    constexpr int kBand = 64; // rows a task
    const Rect shown{0, 0, double(source.width()), double(source.height())};
    const int bands = (out.height + kBand - 1) / kBand;
    const float full = float(T(~T(0)));
    tbb::parallel_for(0, bands, [&](int band) {
        const IntRect area{0, band * kBand, out.width, std::min(kBand, out.height - band * kBand)};
        std::fill_n(out.row<T>(area.y), size_t(area.w) * size_t(area.h) * 4, T(0));
        const Coordinates from = coordinatesFor(mapping, shown, area);
        if (from.empty) return;
        eachRow({source}, from, [&](int x, int y, int n, const float* p) {
            T* to = out.row<T>(area.y + y) + 4 * size_t(x);
            for (int i = 0; i < n; ++i, p += 4, to += 4) {
                if (p[3] <= 0) continue;
                const float k = full / p[3];
                for (int c = 0; c < 3; ++c) to[c] = static_cast<T>(std::min(p[c] * k, full) + 0.5F);
                to[3] = static_cast<T>(p[3] * (full / 65535) + 0.5F);
            }
        });
    });
}

} // namespace

void remapTile(const FramedPicture& source, const Coordinates& from, Tile& out) {
    eachRow(source, from, [&](int x, int y, int n, const float* p) {
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
