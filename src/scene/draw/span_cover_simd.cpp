#include "scene/draw/span_cover.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "scene/draw/span_cover_simd.cpp"
#include <hwy/foreach_target.h> // IWYU pragma: keep

#include <hwy/highway.h>

HWY_BEFORE_NAMESPACE();
namespace glyptos::HWY_NAMESPACE {
namespace hn = hwy::HWY_NAMESPACE;

bool CoverSpan(const SpanPlanes& p, const SampleLanes& lanes, const float* HWY_RESTRICT nearest,
               SpanCover& out) {
    const hn::CappedTag<float, kSpanLanes> d;
    const hn::RebindToSigned<decltype(d)> whole;
    const auto zero = hn::Zero(d);
    bool any = false;
    for (size_t i = 0; i < size_t(kSpanLanes); i += hn::Lanes(d)) {
        const auto x = hn::Load(d, lanes.x + i), y = hn::Load(d, lanes.y + i);
        const auto plane = [&](int k) HWY_ATTR {
            return hn::MulAdd(hn::Set(d, p.alongX[k]), x,
                              hn::MulAdd(hn::Set(d, p.alongY[k]), y, hn::Set(d, p.from[k])));
        };
        const auto a = plane(0), b = plane(1), w = plane(2);
        const auto inside =
            hn::And(hn::And(hn::Ge(a, zero), hn::Ge(b, zero)), hn::And(hn::Le(a, w), hn::Le(b, w)));
        const auto on = hn::And(inside, hn::Gt(w, hn::LoadU(d, nearest + i)));
        hn::Store(w, d, out.nearness + i);
        hn::Store(hn::BitCast(whole, hn::VecFromMask(d, on)), whole, out.on + i);
        any = any || !hn::AllFalse(d, on);
    }
    return any;
}

} // namespace glyptos::HWY_NAMESPACE
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace glyptos {

HWY_EXPORT(CoverSpan);

bool coverSpan(const SpanPlanes& planes, const SampleLanes& lanes, const float* nearest, SpanCover& out) {
    return HWY_DYNAMIC_DISPATCH(CoverSpan)(planes, lanes, nearest, out);
}

} // namespace glyptos
#endif
