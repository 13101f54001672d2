#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "raster/brush/dab_rows_simd.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>

#include "raster/brush/dab_rows.h"

#include <algorithm>
#include <cmath>

HWY_BEFORE_NAMESPACE();
namespace glyptos::HWY_NAMESPACE {

namespace hn = hwy::HWY_NAMESPACE;
using Tag = hn::ScalableTag<float>;
using V = hn::Vec<Tag>;

/// Less or equal n values at the end of a row.
HWY_INLINE void put(V v, float* out, size_t left) {
    const Tag tag;
    if (left >= hn::Lanes(tag)) return hn::StoreU(v, tag, out);
    hn::BlendedStore(v, hn::FirstN(tag, left), tag, out);
}

HWY_INLINE V smooth(V t) {
    const Tag tag;
    t = hn::Min(hn::Max(t, hn::Zero(tag)), hn::Set(tag, 1.0f));
    return hn::Mul(hn::Mul(t, t), hn::NegMulAdd(hn::Set(tag, 2.0f), t, hn::Set(tag, 3.0f)));
}

/// t of a circle: (r + ½ - d) / w.
template <bool kDrawn>
HWY_INLINE void circle(const TipArea& tip, const TipRow& row, float* out, size_t n) {
    const Tag tag;
    const float width = std::min((1 - tip.hardness) * tip.radius + 1, tip.radius + 0.5f);
    const V scale = hn::Set(tag, -tip.radius / width), rim = hn::Set(tag, (tip.radius + 0.5f) / width);
    const float squared = std::max(tip.wayU * tip.wayU + tip.wayV * tip.wayV, 1e-20f);
    const V wu = hn::Set(tag, tip.wayU), wv = hn::Set(tag, tip.wayV), inverse = hn::Set(tag, 1 / squared);
    for (size_t i = 0; i < n; i += hn::Lanes(tag)) {
        const V k = hn::Iota(tag, float(i));
        V u = hn::MulAdd(k, hn::Set(tag, row.du), hn::Set(tag, row.u));
        V v = hn::MulAdd(k, hn::Set(tag, row.dv), hn::Set(tag, row.v));
        if (kDrawn) {
            V along = hn::Mul(hn::MulAdd(u, wu, hn::Mul(v, wv)), inverse);
            along = hn::Min(hn::Max(along, hn::Zero(tag)), hn::Set(tag, 1.0f));
            u = hn::NegMulAdd(along, wu, u), v = hn::NegMulAdd(along, wv, v);
        }
        const V away = hn::Sqrt(hn::MulAdd(u, u, hn::Mul(v, v)));
        put(smooth(hn::MulAdd(away, scale, rim)), out + i, n - i);
    }
}

/// t of an ellipse or a superellipse: ((1 - d) + g/2) / ((1 - hardness) + g), where d is 1 on the rim and g
/// what d changes by in a px.
template <bool kFlat>
HWY_INLINE void ellipse(const TipArea& tip, const TipRow& row, float* out, size_t n) {
    const Tag tag;
    const V half = hn::Set(tag, 0.5f), one = hn::Set(tag, 1.0f), tiny = hn::Set(tag, 1e-12f);
    const V soft = hn::Set(tag, 1 - tip.hardness);
    for (size_t i = 0; i < n; i += hn::Lanes(tag)) {
        const V k = hn::Iota(tag, float(i));
        V u = hn::MulAdd(k, hn::Set(tag, row.du), hn::Set(tag, row.u));
        V v = hn::MulAdd(k, hn::Set(tag, row.dv), hn::Set(tag, row.v));
        const V wu = hn::Set(tag, tip.wayU), wv = hn::Set(tag, tip.wayV);
        V along =
            hn::Div(hn::MulAdd(u, wu, hn::Mul(v, wv)), hn::Max(hn::MulAdd(wu, wu, hn::Mul(wv, wv)), tiny));
        along = hn::Min(hn::Max(along, hn::Zero(tag)), one);
        u = hn::NegMulAdd(along, wu, u), v = hn::NegMulAdd(along, wv, v);
        V away, gu, gv; // d, and its gradient in the tip's frame
        if (kFlat) {
            const V u2 = hn::Mul(u, u), v2 = hn::Mul(v, v);
            const V fourth = hn::MulAdd(u2, u2, hn::Mul(v2, v2));
            away = hn::Sqrt(hn::Sqrt(fourth));
            const V cube = hn::Max(hn::Mul(hn::Mul(away, away), away), tiny);
            gu = hn::Div(hn::Mul(u2, u), cube), gv = hn::Div(hn::Mul(v2, v), cube);
        } else {
            away = hn::Sqrt(hn::MulAdd(u, u, hn::Mul(v, v)));
            const V safe = hn::Max(away, tiny);
            gu = hn::Div(u, safe), gv = hn::Div(v, safe);
        }
        const V gx = hn::MulAdd(gu, hn::Set(tag, tip.ux), hn::Mul(gv, hn::Set(tag, tip.vx)));
        const V gy = hn::MulAdd(gu, hn::Set(tag, tip.uy), hn::Mul(gv, hn::Set(tag, tip.vy)));
        const V g = hn::Max(hn::Sqrt(hn::MulAdd(gx, gx, hn::Mul(gy, gy))), hn::Set(tag, 1e-9f));
        const V width = hn::Min(hn::Add(soft, g), hn::MulAdd(half, g, one));
        put(smooth(hn::Div(hn::MulAdd(half, g, hn::Sub(one, away)), width)), out + i, n - i);
    }
}

void CoverRow(const TipArea& tip, const TipRow& row, float* out, size_t n) {
    if (!tip.round) return tip.flat ? ellipse<true>(tip, row, out, n) : ellipse<false>(tip, row, out, n);
    tip.wayU != 0 || tip.wayV != 0 ? circle<true>(tip, row, out, n) : circle<false>(tip, row, out, n);
}

void AddCover(float* cover, const float* tip, float flow, size_t n) {
    const Tag tag;
    for (size_t i = 0; i < n; i += hn::Lanes(tag)) {
        const size_t left = n - i;
        const auto load = [&](const float* from) {
            return left >= hn::Lanes(tag) ? hn::LoadU(tag, from)
                                          : hn::MaskedLoad(hn::FirstN(tag, left), tag, from);
        };
        const V now = load(cover + i), more = hn::Max(hn::Sub(load(tip + i), now), hn::Zero(tag));
        put(hn::MulAdd(more, hn::Set(tag, flow), now), cover + i, left);
    }
}

} // namespace glyptos::HWY_NAMESPACE
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace glyptos {

HWY_EXPORT(CoverRow);
HWY_EXPORT(AddCover);

void coverRow(const TipArea& tip, const TipRow& row, float* out, size_t n) {
    HWY_DYNAMIC_DISPATCH(CoverRow)(tip, row, out, n);
}
void addCover(float* cover, const float* tip, float flow, size_t n) {
    HWY_DYNAMIC_DISPATCH(AddCover)(cover, tip, flow, n);
}

} // namespace glyptos
#endif
