#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "raster/halve_simd.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>

#include "raster/halve.h"
#include "raster/mean.h"

HWY_BEFORE_NAMESPACE();
namespace glyptos::HWY_NAMESPACE {

namespace hn = hwy::HWY_NAMESPACE;
using Floats = hn::ScalableTag<float>;
using Whole = hn::Rebind<int32_t, Floats>;
using V = hn::Vec<Floats>;

/// Red, green, blue and alpha of every other pixel of a row, and of those between.
HWY_INLINE void load(const uint8_t* row, V (&left)[4], V (&right)[4]) {
    const Floats f;
    const Whole w;
    // Two pixels of four bytes are eight bytes: as pairs of 32-bit words.
    const hn::Repartition<uint32_t, Floats> words;
    hn::Vec<decltype(words)> even, odd;
    hn::LoadInterleaved2(words, reinterpret_cast<const uint32_t*>(row), even, odd);
    const auto mask = hn::Set(words, 255u);
    const auto channel = [&](auto v) { return hn::ConvertTo(f, hn::BitCast(w, hn::And(v, mask))); };
    left[0] = channel(even), right[0] = channel(odd);
    left[1] = channel(hn::ShiftRight<8>(even)), right[1] = channel(hn::ShiftRight<8>(odd));
    left[2] = channel(hn::ShiftRight<16>(even)), right[2] = channel(hn::ShiftRight<16>(odd));
    left[3] = channel(hn::ShiftRight<24>(even)), right[3] = channel(hn::ShiftRight<24>(odd));
}

void HalveRow(const uint8_t* upper, const uint8_t* lower, uint8_t* out, size_t n) {
    const Floats f;
    const Whole w;
    const hn::Repartition<uint32_t, Floats> words;
    const size_t lanes = hn::Lanes(f);
    const V half = hn::Set(f, 0.5f), quarter = hn::Set(f, 0.25f), zero = hn::Zero(f), one = hn::Set(f, 1.0f);
    size_t i = 0;
    for (; i + lanes <= n; i += lanes) {
        V ul[4], ur[4], ll[4], lr[4];
        load(upper + 8 * i, ul, ur);
        load(lower + 8 * i, ll, lr);
        const V alpha = hn::Add(hn::Add(ul[3], ur[3]), hn::Add(ll[3], lr[3]));
        const auto shows = hn::Gt(alpha, zero);
        // Whole numbers below 2^18 throughout, so that every sum and every exact quotient is one.
        const V rounding = hn::Floor(hn::Mul(alpha, half)), by = hn::IfThenElse(shows, alpha, one);
        auto all = hn::ShiftLeft<24>(hn::BitCast(
            words, hn::ConvertTo(w, hn::Floor(hn::Mul(hn::Add(alpha, hn::Set(f, 2.0f)), quarter)))));
        for (int c = 0; c < 3; ++c) {
            const V weighted = hn::MulAdd(
                ul[c], ul[3], hn::MulAdd(ur[c], ur[3], hn::MulAdd(ll[c], ll[3], hn::Mul(lr[c], lr[3]))));
            const V plain = hn::Add(hn::Add(ul[c], ur[c]), hn::Add(ll[c], lr[c]));
            const V mean = hn::IfThenElse(shows, hn::Div(hn::Add(weighted, rounding), by),
                                          hn::Mul(hn::Add(plain, hn::Set(f, 2.0f)), quarter));
            const auto bits = hn::BitCast(words, hn::ConvertTo(w, hn::Floor(mean)));
            all = hn::Or(all, c == 0 ? bits : c == 1 ? hn::ShiftLeft<8>(bits) : hn::ShiftLeft<16>(bits));
        }
        hn::StoreU(all, words, reinterpret_cast<uint32_t*>(out + 4 * i));
    }
    for (; i < n; ++i)
        meanOf<uint8_t>({upper + 8 * i, upper + 8 * i + 4, lower + 8 * i, lower + 8 * i + 4}, out + 4 * i);
}

} // namespace glyptos::HWY_NAMESPACE
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace glyptos {

HWY_EXPORT(HalveRow);

void halveRow(const uint8_t* upper, const uint8_t* lower, uint8_t* out, size_t n) {
    HWY_DYNAMIC_DISPATCH(HalveRow)(upper, lower, out, n);
}

} // namespace glyptos
#endif
