#include "scene/draw/span_shade.h"

#include "base/srgb_curve.h"

#include <cmath>

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "scene/draw/span_shade_simd.cpp"
#include <hwy/foreach_target.h> // IWYU pragma: keep

#include <hwy/highway.h>

#ifndef GLYPTOS_SHADE_TABLES
#define GLYPTOS_SHADE_TABLES
namespace glyptos {
namespace {

constexpr int kByteSteps = 4;    // entries a step of an sRGB byte
constexpr int kRootSteps = 1024; // entries of the root of linear light, along which sRGB is nearly even

/// The curves of sRGB as tables to gather from.
struct ShadeTables {
    float linear[255 * kByteSteps + 1];
    uint32_t encoded[kRootSteps + 1];
    ShadeTables() {
        for (int i = 0; i <= 255 * kByteSteps; ++i)
            linear[i] = float(decodedSrgb(double(i) / (255 * kByteSteps)));
        for (int i = 0; i <= kRootSteps; ++i) {
            const double root = double(i) / kRootSteps;
            encoded[i] = uint32_t(std::lround(encodedSrgb(root * root) * 255));
        }
    }
};

const ShadeTables& shadeTables() {
    static const ShadeTables tables;
    return tables;
}

} // namespace
} // namespace glyptos
#endif

HWY_BEFORE_NAMESPACE();
namespace glyptos::HWY_NAMESPACE {
namespace hn = hwy::HWY_NAMESPACE;

using D = hn::CappedTag<float, kSpanPixels>;
using DI = hn::RebindToSigned<D>;
using DU = hn::RebindToUnsigned<D>;
using V = hn::Vec<D>;

struct Colours {
    V b, g, r, a;
};

/// Weighted bytes of the pixels at those places.
HWY_INLINE void AddPixels(const uint32_t* HWY_RESTRICT pixels, hn::Vec<DI> index, V weight, Colours& sum) {
    const D d;
    const DI di;
    const DU du;
    const auto p = hn::GatherIndex(du, pixels, index);
    const auto low = hn::Set(du, 255U);
    const auto channel = [&](auto v) HWY_ATTR { return hn::ConvertTo(d, hn::BitCast(di, v)); };
    sum.b = hn::MulAdd(channel(hn::And(p, low)), weight, sum.b);
    sum.g = hn::MulAdd(channel(hn::And(hn::ShiftRight<8>(p), low)), weight, sum.g);
    sum.r = hn::MulAdd(channel(hn::And(hn::ShiftRight<16>(p), low)), weight, sum.r);
    sum.a = hn::MulAdd(channel(hn::ShiftRight<24>(p)), weight, sum.a);
}

/// One size of a picture, read between its pixels at shares of its sides.
HWY_INLINE void AddLevel(const SurfacePicture::Level& level, V shareX, V shareY, float weight, Colours& sum) {
    const D d;
    const DI di;
    const auto* pixels = reinterpret_cast<const uint32_t*>(level.bytes.data());
    const auto place = [&](V share, int size) HWY_ATTR {
        const auto at = hn::MulSub(share, hn::Set(d, float(size)), hn::Set(d, 0.5F));
        return hn::Min(hn::Max(at, hn::Zero(d)), hn::Set(d, float(size - 1)));
    };
    const auto x = place(shareX, level.width), y = place(shareY, level.height);
    const auto ix = hn::ConvertTo(di, x), iy = hn::ConvertTo(di, y);
    const auto fx = hn::Sub(x, hn::ConvertTo(d, ix)), fy = hn::Sub(y, hn::ConvertTo(d, iy));
    const auto one = hn::Set(di, 1);
    const auto right = hn::Min(hn::Add(ix, one), hn::Set(di, level.width - 1));
    const auto width = hn::Set(di, level.width);
    const auto row = hn::Mul(iy, width);
    const auto below = hn::Mul(hn::Min(hn::Add(iy, one), hn::Set(di, level.height - 1)), width);
    const auto whole = hn::Set(d, weight), lower = hn::Mul(fy, whole), upper = hn::Sub(whole, lower);
    const auto upperRight = hn::Mul(fx, upper), lowerRight = hn::Mul(fx, lower);
    AddPixels(pixels, hn::Add(row, ix), hn::Sub(upper, upperRight), sum);
    AddPixels(pixels, hn::Add(row, right), upperRight, sum);
    AddPixels(pixels, hn::Add(below, ix), hn::Sub(lower, lowerRight), sum);
    AddPixels(pixels, hn::Add(below, right), lowerRight, sum);
}

HWY_INLINE Colours PictureAt(const SpanLook& look, V s, V t) {
    const D d;
    const float* m = look.onPicture;
    const auto along = [&](const float* k) HWY_ATTR {
        return hn::MulAdd(s, hn::Set(d, k[0]), hn::MulAdd(t, hn::Set(d, k[1]), hn::Set(d, k[2])));
    };
    const auto x = along(m), y = along(m + 3);
    Colours sum{hn::Zero(d), hn::Zero(d), hn::Zero(d), hn::Zero(d)};
    const float share = 1.0F / float(look.reads);
    for (int i = 0; i < look.reads; ++i) {
        const float off = float(i) - float(look.reads - 1) / 2;
        const auto px = hn::Add(x, hn::Set(d, look.stepX * off));
        const auto py = hn::Add(y, hn::Set(d, look.stepY * off));
        AddLevel(*look.levels[0], px, py, (1 - look.between) * share, sum);
        if (look.between > 0) AddLevel(*look.levels[1], px, py, look.between * share, sum);
    }
    return sum;
}

/// 0…1 of the lamp's light that arrives, between cells of its map.
HWY_INLINE V LightAt(const SpanLook& look, V s, V t) {
    const D d;
    const DI di;
    const auto along = [&](int k) HWY_ATTR {
        return hn::MulAdd(s, hn::Set(d, look.placeAlongS[k]),
                          hn::MulAdd(t, hn::Set(d, look.placeAlongT[k]), hn::Set(d, look.place[k])));
    };
    const auto inside = [&](V v) HWY_ATTR {
        return hn::Min(hn::Max(hn::Sub(v, hn::Set(d, 0.5F)), hn::Zero(d)),
                       hn::Set(d, float(look.mapSide - 2)));
    };
    const auto x = inside(along(0)), y = inside(along(1)), z = along(2);
    const auto ix = hn::ConvertTo(di, x), iy = hn::ConvertTo(di, y);
    const auto fx = hn::Sub(x, hn::ConvertTo(d, ix)), fy = hn::Sub(y, hn::ConvertTo(d, iy));
    const auto cell = hn::Add(hn::Mul(iy, hn::Set(di, look.mapSide)), ix);
    const auto one = hn::Set(d, 1.0F);
    const auto lit = [&](int more) HWY_ATTR {
        const auto depth = hn::GatherIndex(d, look.depths, hn::Add(cell, hn::Set(di, more)));
        return hn::IfThenElseZero(hn::Ge(z, depth), one);
    };
    const auto mix = [&](V a, V b, V f) HWY_ATTR { return hn::MulAdd(hn::Sub(b, a), f, a); };
    return mix(mix(lit(0), lit(1), fx), mix(lit(look.mapSide), lit(look.mapSide + 1), fx), fy);
}

/// A channel of sRGB bytes under that light, as bytes.
HWY_INLINE hn::Vec<DU> Lit(const ShadeTables& tables, V bytes, V light) {
    const D d;
    const DI di;
    const DU du;
    const auto place = hn::NearestInt(
        hn::Mul(hn::Min(hn::Max(bytes, hn::Zero(d)), hn::Set(d, 255.0F)), hn::Set(d, float(kByteSteps))));
    const auto value = hn::Mul(hn::GatherIndex(d, tables.linear, place), light);
    const auto root = hn::Sqrt(hn::Min(value, hn::Set(d, 1.0F)));
    const auto step = hn::NearestInt(hn::Mul(root, hn::Set(d, float(kRootSteps))));
    return hn::GatherIndex(du, tables.encoded, hn::BitCast(di, step));
}

void ShadeSpan(const SpanLook& look, SpanColours& out) {
    const D d;
    const DU du;
    const ShadeTables& tables = shadeTables();
    const auto zero = hn::Zero(d), one = hn::Set(d, 1.0F);
    for (size_t i = 0; i < size_t(kSpanPixels); i += hn::Lanes(d)) {
        const auto step = hn::Iota(d, float(i));
        const auto share = [&](float from, float along) HWY_ATTR {
            return hn::Min(hn::Max(hn::MulAdd(step, hn::Set(d, along), hn::Set(d, from)), zero), one);
        };
        const auto s = share(look.s, look.alongS), t = share(look.t, look.alongT);
        Colours colour{hn::Set(d, look.colour[0]), hn::Set(d, look.colour[1]), hn::Set(d, look.colour[2]),
                       hn::Set(d, 255.0F)};
        if (look.levels[0]) colour = PictureAt(look, s, t);
        auto light = hn::Set(d, look.everywhere);
        if (look.lamp > 0) light = hn::MulAdd(hn::Set(d, look.lamp), LightAt(look, s, t), light);
        const auto b = Lit(tables, colour.b, light), g = Lit(tables, colour.g, light),
                   r = Lit(tables, colour.r, light);
        const auto whole =
            hn::Or(hn::Or(b, hn::ShiftLeft<8>(g)), hn::Or(hn::ShiftLeft<16>(r), hn::Set(du, 0xff000000U)));
        hn::Store(whole, du, out.pixel + i);
        hn::Store(colour.a, d, out.there + i);
    }
}

/// Calls `act` with the places of a few samples of a span, those of their pixels, and where it is covered.
template <class Act>
HWY_INLINE void EachCovered(const SpanCover& covered, const SpanColours& colours, Act act) {
    const D d;
    const DI di;
    for (size_t k = 0; k < size_t(kPixelSamples); ++k)
        for (size_t p = 0; p < size_t(kSpanPixels); p += hn::Lanes(d)) {
            const size_t i = k * kSpanPixels + p;
            const auto there = hn::Gt(hn::Load(d, colours.there + p), hn::Set(d, kThere[k]));
            const auto on = hn::Ne(hn::Load(di, covered.on + i), hn::Zero(di));
            act(i, p, hn::And(there, hn::RebindMask(d, on)));
        }
}

void PutSpan(const SpanCover& covered, const SpanColours& colours, float* HWY_RESTRICT nearness,
             uint32_t* HWY_RESTRICT samples) {
    const D d;
    const DU du;
    EachCovered(covered, colours, [&](size_t i, size_t p, auto on) HWY_ATTR {
        hn::StoreU(hn::IfThenElse(on, hn::Load(d, covered.nearness + i), hn::LoadU(d, nearness + i)), d,
                   nearness + i);
        hn::StoreU(hn::IfThenElse(hn::RebindMask(du, on), hn::Load(du, colours.pixel + p),
                                  hn::LoadU(du, samples + i)),
                   du, samples + i);
    });
}

/// Two channels at once: no sum of theirs is over 16 bits.
constexpr uint32_t kPair = 0x00ff00ff;

void TintSpan(const SpanCover& covered, const SpanColours& colours, uint32_t share,
              uint32_t* HWY_RESTRICT samples) {
    const DU du;
    const auto pair = hn::Set(du, kPair), own = hn::Set(du, share), rest = hn::Set(du, 256 - share);
    EachCovered(covered, colours, [&](size_t i, size_t p, auto on) HWY_ATTR {
        const auto was = hn::LoadU(du, samples + i), colour = hn::Load(du, colours.pixel + p);
        const auto mixed = [&](auto over, auto under) HWY_ATTR {
            return hn::Add(hn::Mul(hn::And(over, pair), own), hn::Mul(hn::And(under, pair), rest));
        };
        const auto br = hn::And(hn::ShiftRight<8>(mixed(colour, was)), pair);
        const auto ga = hn::AndNot(pair, mixed(hn::ShiftRight<8>(colour), hn::ShiftRight<8>(was)));
        hn::StoreU(hn::IfThenElse(hn::RebindMask(du, on), hn::Or(br, ga), was), du, samples + i);
    });
}

void MeansOfSpans(const uint32_t* HWY_RESTRICT samples, size_t spans, uint32_t* HWY_RESTRICT pixels) {
    static_assert(kPixelSamples == 4);
    const DU du;
    const auto pair = hn::Set(du, kPair), half = hn::Set(du, 0x00020002U);
    for (size_t s = 0; s < spans; ++s, samples += kSpanLanes, pixels += kSpanPixels)
        for (size_t p = 0; p < size_t(kSpanPixels); p += hn::Lanes(du)) {
            auto br = half, ga = half;
            for (size_t k = 0; k < size_t(kPixelSamples); ++k) {
                const auto c = hn::LoadU(du, samples + k * kSpanPixels + p);
                br = hn::Add(br, hn::And(c, pair));
                ga = hn::Add(ga, hn::And(hn::ShiftRight<8>(c), pair));
            }
            br = hn::And(hn::ShiftRight<2>(br), pair);
            ga = hn::ShiftLeft<8>(hn::And(hn::ShiftRight<2>(ga), pair));
            hn::StoreU(hn::Or(br, ga), du, pixels + p);
        }
}

} // namespace glyptos::HWY_NAMESPACE
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace glyptos {

HWY_EXPORT(ShadeSpan);
HWY_EXPORT(PutSpan);
HWY_EXPORT(TintSpan);
HWY_EXPORT(MeansOfSpans);

void putSpan(const SpanCover& covered, const SpanColours& colours, float* nearness, uint32_t* samples) {
    HWY_DYNAMIC_DISPATCH(PutSpan)(covered, colours, nearness, samples);
}

void tintSpan(const SpanCover& covered, const SpanColours& colours, uint32_t share, uint32_t* samples) {
    HWY_DYNAMIC_DISPATCH(TintSpan)(covered, colours, share, samples);
}

void meansOfSpans(const uint32_t* samples, size_t spans, uint32_t* pixels) {
    HWY_DYNAMIC_DISPATCH(MeansOfSpans)(samples, spans, pixels);
}

void shadeSpan(const SpanLook& look, SpanColours& out) {
    HWY_DYNAMIC_DISPATCH(ShadeSpan)(look, out);
}

} // namespace glyptos
#endif
