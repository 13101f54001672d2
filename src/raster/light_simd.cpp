#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "raster/light_simd.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>

#include <hwy/contrib/math/math-inl.h>

#include "raster/light.h"

HWY_BEFORE_NAMESPACE();
namespace glyptos::HWY_NAMESPACE {

namespace hn = hwy::HWY_NAMESPACE;
using FloatTag = hn::ScalableTag<float>;
using Vector = hn::Vec<FloatTag>;

HWY_INLINE Vector Power(Vector base, float exponent) {
    const FloatTag tag;
    // Below the straight part of both curves, where the result is not used, a logarithm must still be finite.
    const auto safe = hn::Max(base, hn::Set(tag, 1e-6f));
    return hn::Exp(tag, hn::Mul(hn::Log(tag, safe), hn::Set(tag, exponent)));
}

HWY_INLINE Vector Decode(Vector v) {
    const FloatTag tag;
    const auto bent = Power(hn::Mul(hn::Add(v, hn::Set(tag, 0.055f)), hn::Set(tag, 1 / 1.055f)), 2.4f);
    return hn::IfThenElse(hn::Le(v, hn::Set(tag, 0.04045f)), hn::Mul(v, hn::Set(tag, 1 / 12.92f)), bent);
}

HWY_INLINE Vector Encode(Vector v) {
    const FloatTag tag;
    const auto bent = hn::MulSub(Power(v, 1 / 2.4f), hn::Set(tag, 1.055f), hn::Set(tag, 0.055f));
    return hn::IfThenElse(hn::Le(v, hn::Set(tag, 0.0031308f)), hn::Mul(v, hn::Set(tag, 12.92f)), bent);
}

template <class Curve>
HWY_INLINE void Bend(const RowPlanes& row, size_t n, Curve curve) {
    const FloatTag tag;
    const auto zero = hn::Zero(tag), one = hn::Set(tag, 1.0f);
    for (size_t i = 0; i < n; i += hn::Lanes(tag)) {
        const auto alpha = hn::Load(tag, row.c[3] + i);
        const auto inverse = hn::IfThenElseZero(hn::Gt(alpha, zero), hn::Div(one, alpha));
        for (int c = 0; c < 3; ++c) {
            const auto straight = hn::Mul(hn::Load(tag, row.c[c] + i), inverse);
            hn::Store(hn::Mul(curve(hn::Min(hn::Max(straight, zero), one)), alpha), tag, row.c[c] + i);
        }
    }
}

void ToLinear(const RowPlanes& row, size_t n) {
    Bend(row, n, [](Vector v) HWY_ATTR { return Decode(v); });
}

void ToEncoded(const RowPlanes& row, size_t n) {
    Bend(row, n, [](Vector v) HWY_ATTR { return Encode(v); });
}

} // namespace glyptos::HWY_NAMESPACE
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace glyptos {

HWY_EXPORT(ToLinear);
HWY_EXPORT(ToEncoded);

void toLinearRow(const RowPlanes& row, size_t n) {
    HWY_DYNAMIC_DISPATCH(ToLinear)(row, n);
}

void toEncodedRow(const RowPlanes& row, size_t n) {
    HWY_DYNAMIC_DISPATCH(ToEncoded)(row, n);
}

} // namespace glyptos
#endif
