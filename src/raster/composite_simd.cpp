#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "raster/composite_simd.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>

#include "raster/composite.h"

#include <algorithm>
#include <cstring>
#include <type_traits>

HWY_BEFORE_NAMESPACE();
namespace glyptos::HWY_NAMESPACE {

namespace hn = hwy::HWY_NAMESPACE;
using FloatTag = hn::ScalableTag<float>;
using Vector = hn::Vec<FloatTag>;

/// Vector of floats with operators, so that a blend mode reads like its formula.
struct Lanes {
    Vector v;
    static HWY_INLINE Lanes of(float value) { return {hn::Set(FloatTag(), value)}; }
    HWY_INLINE Lanes operator+(Lanes o) const { return {hn::Add(v, o.v)}; }
    HWY_INLINE Lanes operator-(Lanes o) const { return {hn::Sub(v, o.v)}; }
    HWY_INLINE Lanes operator*(Lanes o) const { return {hn::Mul(v, o.v)}; }
    HWY_INLINE Lanes operator/(Lanes o) const { return {hn::Div(v, o.v)}; }
    HWY_INLINE auto operator<=(Lanes o) const { return hn::Le(v, o.v); }
};

template <class Mask>
HWY_INLINE Lanes choose(Mask mask, Lanes yes, Lanes no) {
    return {hn::IfThenElse(mask, yes.v, no.v)};
}
HWY_INLINE Lanes least(Lanes a, Lanes b) {
    return {hn::Min(a.v, b.v)};
}
HWY_INLINE Lanes most(Lanes a, Lanes b) {
    return {hn::Max(a.v, b.v)};
}
HWY_INLINE Lanes size(Lanes a) {
    return {hn::Abs(a.v)};
}
HWY_INLINE Lanes root(Lanes a) {
    return {hn::Sqrt(a.v)};
}

#include "raster/blend_formulas.inc"

/// A source in planes, at an opacity.
struct Planes {
    const RowPlanes& planes;
    Lanes opacity;
    HWY_INLINE void load(size_t i, Lanes (&S)[3], Lanes& as) const {
        const FloatTag tag;
        for (int c = 0; c < 3; ++c) S[c] = Lanes{hn::Load(tag, planes.c[c] + i)} * opacity;
        as = Lanes{hn::Load(tag, planes.c[3] + i)} * opacity;
    }
};

/// Straight bytes as they lie in a picture, at an opacity: read and premultiplied without a stop in memory.
struct Bytes {
    const uint8_t* rgba;
    Lanes perByte, perBoth; ///< opacity / 255, and that a second time by 255
    HWY_INLINE void load(size_t i, Lanes (&S)[3], Lanes& as) const {
        const FloatTag tag;
        const hn::RebindToSigned<FloatTag> ints;
        const hn::RebindToUnsigned<FloatTag> words;
        const hn::Repartition<uint8_t, decltype(words)> bytes;
        const auto pixel = hn::BitCast(words, hn::LoadU(bytes, rgba + 4 * i));
        const auto low = hn::Set(words, 0xffu);
        const auto value = [&](auto word) { return Lanes{hn::ConvertTo(tag, hn::BitCast(ints, word))}; };
        const Lanes alpha = value(hn::ShiftRight<24>(pixel)), share = alpha * perBoth;
        S[0] = value(hn::And(pixel, low)) * share;
        S[1] = value(hn::And(hn::ShiftRight<8>(pixel), low)) * share;
        S[2] = value(hn::And(hn::ShiftRight<16>(pixel), low)) * share;
        as = alpha * perByte;
    }
};

template <class Mode, class Source>
void BlendWith(RowPlanes d, const Source& source, size_t n) {
    const FloatTag tag;
    for (size_t i = 0; i < n; i += hn::Lanes(tag)) {
        Lanes S[3], as, out[4];
        source.load(i, S, as);
        const Lanes D[3] = {
            {hn::Load(tag, d.c[0] + i)}, {hn::Load(tag, d.c[1] + i)}, {hn::Load(tag, d.c[2] + i)}};
        const Lanes ab{hn::Load(tag, d.c[3] + i)};
        if constexpr (std::is_same_v<Mode, Normal>) {
            // M + S·(1 - ab) is S for Normal, which saves a third of the work of the commonest mode.
            const Lanes keepD = Lanes::of(1) - as;
            for (int c = 0; c < 3; ++c) out[c] = {hn::MulAdd(D[c].v, keepD.v, S[c].v)};
            out[3] = {hn::MulAdd(ab.v, keepD.v, as.v)};
        } else {
            Mode::composite(S, as, D, ab, out);
        }
        for (int c = 0; c < 4; ++c) hn::Store(out[c].v, tag, d.c[c] + i);
    }
}

template <class Source, size_t... I>
void BlendByIndex(size_t mode, RowPlanes d, const Source& source, size_t n, std::index_sequence<I...>) {
    (void)((mode == I && (BlendWith<std::tuple_element_t<I, BlendModes>>(d, source, n), true)) || ...);
}

void Blend(BlendMode mode, RowPlanes d, const RowPlanes& s, float opacity, size_t n) {
    BlendByIndex(static_cast<size_t>(mode), d, Planes{s, Lanes::of(opacity)}, n,
                 std::make_index_sequence<kBlendModeCount>());
}

void BlendBytes(BlendMode mode, RowPlanes d, const uint8_t* rgba, float opacity, size_t n) {
    constexpr float kFull = 255;
    const Bytes source{rgba, Lanes::of(opacity / kFull), Lanes::of(opacity / (kFull * kFull))};
    BlendByIndex(static_cast<size_t>(mode), d, source, n, std::make_index_sequence<kBlendModeCount>());
}

void Unpack8(const uint8_t* rgba, RowPlanes out, size_t n) {
    const FloatTag tag;
    const hn::RebindToSigned<FloatTag> ints;
    const hn::RebindToUnsigned<FloatTag> words;
    const hn::Repartition<uint8_t, decltype(words)> bytes;
    const auto scale = hn::Set(tag, 1.0f / 255.0f);
    const auto low = hn::Set(words, 0xffu);
    for (size_t i = 0; i < n; i += hn::Lanes(tag)) {
        const auto pixel = hn::BitCast(words, hn::LoadU(bytes, rgba + 4 * i));
        const auto toFloat = [&](auto word) {
            return hn::Mul(hn::ConvertTo(tag, hn::BitCast(ints, word)), scale);
        };
        const auto alpha = toFloat(hn::ShiftRight<24>(pixel));
        hn::StoreU(hn::Mul(toFloat(hn::And(pixel, low)), alpha), tag, out.c[0] + i);
        hn::StoreU(hn::Mul(toFloat(hn::And(hn::ShiftRight<8>(pixel), low)), alpha), tag, out.c[1] + i);
        hn::StoreU(hn::Mul(toFloat(hn::And(hn::ShiftRight<16>(pixel), low)), alpha), tag, out.c[2] + i);
        hn::StoreU(alpha, tag, out.c[3] + i);
    }
}

/// At most eight pixels at once: no more than the 64 bytes that may be read behind a row.
void Unpack16(const uint16_t* rgba, RowPlanes out, size_t n) {
    const hn::CappedTag<float, 8> tag;
    const hn::RebindToSigned<decltype(tag)> ints;
    const hn::Rebind<uint16_t, decltype(tag)> shorts;
    const auto scale = hn::Set(tag, 1.0f / 65535.0f);
    for (size_t i = 0; i < n; i += hn::Lanes(tag)) {
        hn::Vec<decltype(shorts)> r, g, b, a;
        hn::LoadInterleaved4(shorts, rgba + 4 * i, r, g, b, a);
        const auto toFloat = [&](auto word) {
            return hn::Mul(hn::ConvertTo(tag, hn::PromoteTo(ints, word)), scale);
        };
        const auto alpha = toFloat(a);
        hn::StoreU(hn::Mul(toFloat(r), alpha), tag, out.c[0] + i);
        hn::StoreU(hn::Mul(toFloat(g), alpha), tag, out.c[1] + i);
        hn::StoreU(hn::Mul(toFloat(b), alpha), tag, out.c[2] + i);
        hn::StoreU(alpha, tag, out.c[3] + i);
    }
}

void UnpackPlane16(const uint16_t* plane, float* out, size_t n) {
    const FloatTag tag;
    const hn::RebindToSigned<FloatTag> ints;
    const hn::Rebind<uint16_t, FloatTag> shorts;
    const auto scale = hn::Set(tag, 1.0f / 65535.0f);
    for (size_t i = 0; i < n; i += hn::Lanes(tag))
        hn::Store(hn::Mul(hn::ConvertTo(tag, hn::PromoteTo(ints, hn::LoadU(shorts, plane + i))), scale), tag,
                  out + i);
}

void Pack8(const RowPlanes& in, uint8_t* out, size_t n) {
    const FloatTag tag;
    const hn::RebindToSigned<FloatTag> ints;
    const hn::Repartition<uint8_t, decltype(ints)> bytes;
    const auto zero = hn::Zero(tag), top = hn::Set(tag, 255.0f);
    const size_t lanes = hn::Lanes(tag);
    alignas(64) uint8_t last[256];
    for (size_t i = 0; i < n; i += lanes) {
        const auto toByte = [&](const float* p) {
            return hn::NearestInt(hn::Min(hn::Max(hn::Mul(hn::Load(tag, p + i), top), zero), top));
        };
        const auto pixel =
            hn::Or(hn::Or(toByte(in.c[2]), hn::ShiftLeft<8>(toByte(in.c[1]))),
                   hn::Or(hn::ShiftLeft<16>(toByte(in.c[0])), hn::ShiftLeft<24>(toByte(in.c[3]))));
        if (i + lanes <= n) {
            hn::StoreU(hn::BitCast(bytes, pixel), bytes, out + 4 * i);
        } else {
            hn::StoreU(hn::BitCast(bytes, pixel), bytes, last);
            std::memcpy(out + 4 * i, last, 4 * (n - i));
        }
    }
}

/// Straight pixels of as many values of each plane as a vector has, as 32-bit words.
HWY_INLINE auto straight8(const float* r, const float* g, const float* b, const float* a) {
    const FloatTag tag;
    const hn::Rebind<int32_t, FloatTag> whole;
    const hn::Repartition<uint32_t, FloatTag> words;
    const Vector full = hn::Set(tag, 255.0f), half = hn::Set(tag, 0.5f), zero = hn::Zero(tag),
                 one = hn::Set(tag, 1.0f);
    const Vector alpha = hn::Min(hn::Max(hn::LoadU(tag, a), zero), one);
    const auto shown = hn::ConvertTo(whole, hn::Floor(hn::MulAdd(alpha, full, half)));
    const auto shows = hn::Gt(hn::ConvertTo(tag, shown), zero);
    const Vector perAlpha = hn::IfThenElseZero(shows, hn::Div(full, hn::IfThenElse(shows, alpha, one)));
    const auto channel = [&](const float* p) {
        const Vector v = hn::Min(hn::Max(hn::Mul(hn::LoadU(tag, p), perAlpha), zero), full);
        return hn::BitCast(words, hn::ConvertTo(whole, hn::Floor(hn::Add(v, half))));
    };
    return hn::Or(hn::Or(channel(r), hn::ShiftLeft<8>(channel(g))),
                  hn::Or(hn::ShiftLeft<16>(channel(b)), hn::ShiftLeft<24>(hn::BitCast(words, shown))));
}

void PackStraight8(const RowPlanes& in, uint8_t* out, size_t n) {
    const FloatTag tag;
    const hn::Repartition<uint32_t, FloatTag> words;
    const size_t lanes = hn::Lanes(tag);
    size_t i = 0;
    for (; i + lanes <= n; i += lanes)
        hn::StoreU(straight8(in.c[0] + i, in.c[1] + i, in.c[2] + i, in.c[3] + i), words,
                   reinterpret_cast<uint32_t*>(out + 4 * i));
    if (i == n) return;
    // The last ones, which nothing need lie behind.
    float rest[4][hn::MaxLanes(tag)] = {};
    uint32_t last[hn::MaxLanes(tag)];
    for (int c = 0; c < 4; ++c) std::copy_n(in.c[c] + i, n - i, rest[c]);
    hn::StoreU(straight8(rest[0], rest[1], rest[2], rest[3]), words, last);
    std::memcpy(out + 4 * i, last, 4 * (n - i));
}

} // namespace glyptos::HWY_NAMESPACE
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace glyptos {

HWY_EXPORT(Blend);
HWY_EXPORT(BlendBytes);
HWY_EXPORT(Unpack8);
HWY_EXPORT(Unpack16);
HWY_EXPORT(UnpackPlane16);
HWY_EXPORT(Pack8);
HWY_EXPORT(PackStraight8);

void blendRow(BlendMode mode, RowPlanes backdrop, const RowPlanes& source, float opacity, size_t n) {
    HWY_DYNAMIC_DISPATCH(Blend)(mode, backdrop, source, opacity, n);
}

void blendRow(BlendMode mode, RowPlanes backdrop, const uint8_t* straight, float opacity, size_t n) {
    HWY_DYNAMIC_DISPATCH(BlendBytes)(mode, backdrop, straight, opacity, n);
}

void unpackRow(const uint8_t* straight, RowPlanes out, size_t n) {
    HWY_DYNAMIC_DISPATCH(Unpack8)(straight, out, n);
}

void unpackRow(const uint16_t* straight, RowPlanes out, size_t n) {
    HWY_DYNAMIC_DISPATCH(Unpack16)(straight, out, n);
}

void unpackPlane(const uint16_t* plane, float* out, size_t n) {
    HWY_DYNAMIC_DISPATCH(UnpackPlane16)(plane, out, n);
}

void packBgra8(const RowPlanes& in, uint8_t* out, size_t n) {
    HWY_DYNAMIC_DISPATCH(Pack8)(in, out, n);
}

void packStraightRgba8(const RowPlanes& in, uint8_t* out, size_t n) {
    HWY_DYNAMIC_DISPATCH(PackStraight8)(in, out, n);
}

} // namespace glyptos
#endif
