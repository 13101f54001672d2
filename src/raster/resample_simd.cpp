#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "raster/resample_simd.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>

#include "raster/load_premultiplied-inl.h"
#include "raster/resample.h"
#include "raster/resample_plan.h"

#include <vector>

HWY_BEFORE_NAMESPACE();
namespace glyptos::HWY_NAMESPACE {

namespace hn = hwy::HWY_NAMESPACE;

/// Weighted sum of rows, `count` values each, to premultiplied floats.
template <class T, bool kOpaque>
void SumRows(const T* const* rows, const float* weights, int taps, size_t count, float* out) {
    const hn::ScalableTag<float> tag;
    const size_t lanes = hn::Lanes(tag);
    for (size_t i = 0; i < count; i += lanes) {
        auto sum = hn::Zero(tag);
        for (int k = 0; k < taps; ++k)
            sum = hn::MulAdd(LoadPremultiplied<T, kOpaque>(tag, rows[k] + i), hn::Set(tag, weights[k]), sum);
        hn::StoreU(sum, tag, out + i);
    }
}

/// Interleaved float pixels on the scale of `full` to one row of a planar tile; colour is kept within alpha.
void StoreTileRow(const float* pixels, float full, int width, Tile& out, int y) {
    uint16_t *r = out.row(0, y), *g = out.row(1, y), *b = out.row(2, y), *a = out.row(3, y);
    const float scale = 65535.0f / full;
    for (int x = 0; x < width; ++x) {
        const float* p = pixels + 4 * size_t(x);
        const float alpha = std::min(std::max(p[3] * scale, 0.0f), 65535.0f);
        r[x] = nearestSample(std::min(std::max(p[0] * scale, 0.0f), alpha));
        g[x] = nearestSample(std::min(std::max(p[1] * scale, 0.0f), alpha));
        b[x] = nearestSample(std::min(std::max(p[2] * scale, 0.0f), alpha));
        a[x] = nearestSample(alpha);
    }
}

/// Upright or flipped pictures: rows first, then columns.
template <class T, bool kOpaque>
void Upright(const Picture& source, const AxisPlan& across, const AxisPlan& down, Tile& out) {
    const auto [low, high] = std::minmax_element(across.first.begin(), across.first.end());
    const int left = *low, columns = *high + across.taps - left;
    const int readFrom = std::clamp(left, 0, source.width - 1),
              readTo = std::clamp(left + columns, readFrom + 1, source.width);
    const bool inside = readFrom == left && readTo == left + columns;
    std::vector<float> summed(size_t(columns + 16) * 4),
        inner(inside ? 0 : size_t(readTo - readFrom + 16) * 4);
    std::vector<float> result(size_t(out.width) * 4);
    std::vector<const T*> rows(size_t(down.taps));
    for (int y = 0; y < out.height; ++y) {
        for (int k = 0; k < down.taps; ++k)
            rows[size_t(k)] = source.row<T>(std::clamp(down.first[size_t(y)] + k, 0, source.height - 1)) +
                              4 * size_t(readFrom);
        SumRows<T, kOpaque>(rows.data(), down.weights.data() + size_t(y) * size_t(down.taps), down.taps,
                            size_t(readTo - readFrom) * 4, inside ? summed.data() : inner.data());
        if (!inside) // edge pixels go on to both sides
            for (int x = left; x < left + columns; ++x)
                std::copy_n(inner.data() + 4 * size_t(std::clamp(x, readFrom, readTo - 1) - readFrom), 4,
                            summed.data() + 4 * size_t(x - left));
        const Pixel pixel;
        for (int x = 0; x < out.width; ++x) {
            const float* p = summed.data() + 4 * size_t(across.first[size_t(x)] - left);
            const float* w = across.weights.data() + size_t(x) * size_t(across.taps);
            auto sum = hn::Zero(pixel);
            for (int k = 0; k < across.taps; ++k)
                sum = hn::MulAdd(hn::LoadU(pixel, p + 4 * size_t(k)), hn::Set(pixel, w[k]), sum);
            hn::StoreU(sum, pixel, result.data() + 4 * size_t(x));
        }
        StoreTileRow(result.data(), sizeof(T) == 1 ? 255.0f : 65535.0f, out.width, out, y);
    }
}

/// The footprint of a result pixel on one axis of the source, from the partial derivatives along it.
float Widen(double p, double q) {
    return float(std::clamp(std::hypot(p, q), 1.0, kWidest));
}

/// Most taps of a footprint on one axis.
constexpr int kMostTaps = static_cast<int>(4 * kWidest) + 1;

/// Up to four pixels at once.
using Wide = hn::CappedTag<float, 16>;

/// Keys' cubic with a = -1/2 (R. Keys, "Cubic convolution interpolation for digital image processing", 1981).
HWY_INLINE hn::Vec<Wide> Cubic(hn::Vec<Wide> x) {
    const Wide tag;
    const auto t = hn::Abs(x);
    const auto near =
        hn::MulAdd(hn::MulAdd(hn::Set(tag, 1.5f), t, hn::Set(tag, -2.5f)), hn::Mul(t, t), hn::Set(tag, 1.0f));
    const auto far =
        hn::MulAdd(hn::MulAdd(hn::MulAdd(hn::Set(tag, -0.5f), t, hn::Set(tag, 2.5f)), t, hn::Set(tag, -4.0f)),
                   t, hn::Set(tag, 2.0f));
    return hn::IfThenElse(hn::Lt(t, hn::Set(tag, 1.0f)), near,
                          hn::IfThenElseZero(hn::Lt(t, hn::Set(tag, 2.0f)), far));
}

/// Taps at many places between two pixels, each summing to 1, to be read between: of footprints that are laid
/// for every pixel of a turned picture.
class TapTable {
  public:
    static constexpr int kMost = 16; ///< taps

    TapTable(float widen, int count)
        : reach_(2 * widen) {
        const Wide tag;
        const auto narrow = hn::Set(tag, 1 / widen);
        rows_.resize(size_t(kPlaces + 2) * kMost);
        for (int i = 0; i < kPlaces + 2; ++i) {
            float* row = rows_.data() + size_t(i) * kMost;
            const auto start = hn::Set(tag, float(i) / kPlaces - reach_);
            for (int k = 0; k < kMost; k += static_cast<int>(hn::Lanes(tag)))
                hn::StoreU(Cubic(hn::Mul(hn::Add(hn::Iota(tag, float(k)), start), narrow)), tag, row + k);
            float sum = 0;
            for (int k = 0; k < count; ++k) sum += row[k];
            for (int k = 0; k < kMost; ++k) row[k] = k < count ? row[k] / sum : 0;
        }
    }

    /// For a result pixel at `at`; the first tap.
    HWY_INLINE int lay(double at, float* weights) const {
        const Wide tag;
        const double from = at - reach_ - 0.5, first = std::ceil(from);
        const float place = float(first - from) * kPlaces;
        const int below = static_cast<int>(place);
        const float* row = rows_.data() + size_t(below) * kMost;
        const auto part = hn::Set(tag, place - float(below));
        for (size_t k = 0; k < size_t(kMost); k += hn::Lanes(tag)) {
            const auto low = hn::LoadU(tag, row + k);
            hn::StoreU(hn::MulAdd(hn::Sub(hn::LoadU(tag, row + kMost + k), low), part, low), tag,
                       weights + k);
        }
        return static_cast<int>(first);
    }

  private:
    static constexpr int kPlaces = 512;
    float reach_;
    std::vector<float> rows_;
};

/// The taps of one result pixel on one axis.
struct Taps {
    int first = 0;
    float weights[kMostTaps + 16]; ///< past the last tap 0 or of no use
    float sum = 0;

    HWY_INLINE void lay(double at, float widen, int count) {
        const Wide tag;
        first = static_cast<int>(std::ceil(at - 2 * widen - 0.5));
        const auto start = hn::Set(tag, float(first + 0.5 - at)), narrow = hn::Set(tag, 1 / widen);
        const int lanes = static_cast<int>(hn::Lanes(tag));
        for (int k = 0; k < count; k += lanes)
            hn::StoreU(Cubic(hn::Mul(hn::Add(hn::Iota(tag, float(k)), start), narrow)), tag, weights + k);
        sum = 0;
        for (int k = 0; k < count; ++k) sum += weights[k];
    }
    HWY_INLINE void lay(double at, const TapTable& table) {
        first = table.lay(at, weights);
        sum = 1;
    }
};

/// Sums of taps, several pixels of a row at once.
template <class T, bool kOpaque>
class TapSums {
  public:
    TapSums(const Picture& source, int tapsX, int tapsY)
        : source_(source)
        , tapsX_(tapsX)
        , tapsY_(tapsY)
        , runs_((tapsX + pixelsAtOnce() - 1) / pixelsAtOnce()) {}

    hn::Vec<Pixel> at(const Taps& x, const Taps& y) {
        return x.first >= 0 && x.first + runs_ * pixelsAtOnce() <= source_.width ? inside(x, y)
                                                                                 : atEdge(x, y);
    }

  private:
    static int pixelsAtOnce() { return static_cast<int>(hn::Lanes(Wide()) / 4); }
    const T* row(int y) const { return source_.row<T>(std::clamp(y, 0, source_.height - 1)); }

    /// All pixels that are read lie in the picture's rows; those past the last tap count nothing.
    HWY_INLINE hn::Vec<Pixel> inside(const Taps& x, const Taps& y) {
        const Wide wide;
        const Pixel pixel;
        const size_t lanes = hn::Lanes(wide);
        for (int k = 0; k < tapsX_; ++k)
            hn::StoreU(hn::Set(pixel, x.weights[k]), pixel, spread_ + ptrdiff_t(4) * k);
        auto total = hn::Zero(wide);
        for (int j = 0; j < tapsY_; ++j) {
            const T* from = row(y.first + j) + 4 * size_t(x.first);
            auto sum = hn::Zero(wide);
            for (size_t r = 0; r < size_t(runs_); ++r)
                sum = hn::MulAdd(LoadPremultiplied<T, kOpaque>(wide, from + lanes * r),
                                 hn::LoadU(wide, spread_ + lanes * r), sum);
            total = hn::MulAdd(sum, hn::Set(wide, y.weights[j]), total);
        }
        float parts[16];
        hn::StoreU(total, wide, parts);
        auto all = hn::LoadU(pixel, parts);
        for (size_t i = 4; i < lanes; i += 4) all = hn::Add(all, hn::LoadU(pixel, parts + i));
        return all;
    }

    /// Edge pixels go on to all sides.
    hn::Vec<Pixel> atEdge(const Taps& x, const Taps& y) const {
        const Pixel pixel;
        auto total = hn::Zero(pixel);
        for (int j = 0; j < tapsY_; ++j) {
            const T* from = row(y.first + j);
            auto sum = hn::Zero(pixel);
            for (int k = 0; k < tapsX_; ++k)
                sum = hn::MulAdd(LoadPremultiplied<T, kOpaque>(
                                     pixel, from + 4 * size_t(std::clamp(x.first + k, 0, source_.width - 1))),
                                 hn::Set(pixel, x.weights[k]), sum);
            total = hn::MulAdd(sum, hn::Set(pixel, y.weights[j]), total);
        }
        return total;
    }

    const Picture& source_;
    int tapsX_, tapsY_, runs_;
    float spread_[4 * (kMostTaps + 4)] = {}; ///< each weight once for every sample of a pixel
};

struct Whole {
    int x, y;
};

/// `lay(at, x, y)` lays the taps of a result pixel whose centre is at a place of the source.
template <class T, bool kOpaque, class Lay>
HWY_INLINE void SumTurned(const Picture& source, const Affine& toSource, Whole from, Whole taps, Lay lay,
                          Tile& out) {
    std::vector<float> result(size_t(out.width) * 4);
    TapSums<T, kOpaque> sums(source, taps.x, taps.y);
    Taps across, down;
    const Pixel pixel;
    for (int y = 0; y < out.height; ++y) {
        for (int x = 0; x < out.width; ++x) {
            const Vec2 at = toSource.map({from.x + x + 0.5, from.y + y + 0.5});
            lay({std::clamp(at.x, -16.0, source.width + 16.0), std::clamp(at.y, -16.0, source.height + 16.0)},
                across, down);
            hn::StoreU(hn::Mul(sums.at(across, down), hn::Set(pixel, 1.0f / (across.sum * down.sum))), pixel,
                       result.data() + 4 * size_t(x));
        }
        StoreTileRow(result.data(), sizeof(T) == 1 ? 255.0f : 65535.0f, out.width, out, y);
    }
}

/// Any other map: the kernel is laid over the source round each result pixel's centre.
template <class T, bool kOpaque>
void Turned(const Picture& source, const Affine& toSource, int x0, int y0, Tile& out) {
    const float widenX = Widen(toSource.a, toSource.c), widenY = Widen(toSource.b, toSource.d);
    const int tapsX = static_cast<int>(std::ceil(4 * widenX)) + 1;
    const int tapsY = static_cast<int>(std::ceil(4 * widenY)) + 1;
    if (std::max(tapsX, tapsY) <= TapTable::kMost) {
        const TapTable across(widenX, tapsX), down(widenY, tapsY);
        return SumTurned<T, kOpaque>(
            source, toSource, {x0, y0}, {tapsX, tapsY},
            [&](Vec2 at, Taps& x, Taps& y) HWY_ATTR { x.lay(at.x, across), y.lay(at.y, down); }, out);
    }
    SumTurned<T, kOpaque>(
        source, toSource, {x0, y0}, {tapsX, tapsY},
        [&](Vec2 at, Taps& x, Taps& y) HWY_ATTR { x.lay(at.x, widenX, tapsX), y.lay(at.y, widenY, tapsY); },
        out);
}

template <class T, bool kOpaque>
void ResampleAs(const Picture& source, const Affine& toSource, int x, int y, Tile& out) {
    if (toSource.b == 0 && toSource.c == 0)
        return Upright<T, kOpaque>(source, AxisPlan(toSource.a, toSource.e, x, out.width),
                                   AxisPlan(toSource.d, toSource.f, y, out.height), out);
    Turned<T, kOpaque>(source, toSource, x, y, out);
}

template <class T>
void Resample(const Picture& source, const Affine& toSource, int x, int y, Tile& out) {
    source.opaque ? ResampleAs<T, true>(source, toSource, x, y, out)
                  : ResampleAs<T, false>(source, toSource, x, y, out);
}

void Resample8(const Picture& source, const Affine& toSource, int x, int y, Tile& out) {
    Resample<uint8_t>(source, toSource, x, y, out);
}
void Resample16(const Picture& source, const Affine& toSource, int x, int y, Tile& out) {
    Resample<uint16_t>(source, toSource, x, y, out);
}

} // namespace glyptos::HWY_NAMESPACE
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace glyptos {

HWY_EXPORT(Resample8);
HWY_EXPORT(Resample16);

int levelFor(double scale, int levels) {
    int level = 0;
    while (level + 1 < levels && scale <= 0.5) scale *= 2, ++level;
    return level;
}

int levelFor(double scale, const Pyramid& pyramid) {
    return std::max(levelFor(scale, pyramid.levels()), pyramid.firstLevel());
}

void resampleTile(const Pyramid& source, const Affine& sourceToResult, int x, int y, Tile& out) {
    const double scale = std::max(sourceToResult.scaleX(), sourceToResult.scaleY());
    const int level = levelFor(scale, source);
    const double block = std::ldexp(1.0, level);
    const auto toSource = (sourceToResult * Affine::scaling(block, block)).inverse();
    if (!toSource) return;
    const Picture& picture = source.level(level);
    if (picture.is16())
        HWY_DYNAMIC_DISPATCH(Resample16)(picture, *toSource, x, y, out);
    else
        HWY_DYNAMIC_DISPATCH(Resample8)(picture, *toSource, x, y, out);
}

} // namespace glyptos
#endif
