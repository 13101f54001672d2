// Internal to kernels, compiled once for each instruction set: samples of a straight picture, premultiplied.
#if defined(GLYPTOS_LOAD_PREMULTIPLIED_INL_H) == defined(HWY_TARGET_TOGGLE)
#ifdef GLYPTOS_LOAD_PREMULTIPLIED_INL_H
#undef GLYPTOS_LOAD_PREMULTIPLIED_INL_H
#else
#define GLYPTOS_LOAD_PREMULTIPLIED_INL_H
#endif

#include <hwy/highway.h>

HWY_BEFORE_NAMESPACE();
namespace glyptos::HWY_NAMESPACE {

namespace hn = hwy::HWY_NAMESPACE;
using Pixel = hn::FixedTag<float, 4>;

/// Samples of T as floats of the same scale, whole pixels of four: colour times alpha, alpha as it is. What
/// is opaque needs no multiplication.
template <class T, bool kOpaque, class Tag>
HWY_INLINE hn::Vec<Tag> LoadPremultiplied(Tag tag, const T* p) {
    const hn::Rebind<T, Tag> narrow;
    const hn::RebindToSigned<Tag> ints;
    const auto straight = hn::ConvertTo(tag, hn::PromoteTo(ints, hn::LoadU(narrow, p)));
    if constexpr (kOpaque) return straight;
    const auto ownLane = hn::And(hn::Iota(ints, 0), hn::Set(ints, 3));
    const auto isAlpha = hn::RebindMask(tag, hn::Eq(ownLane, hn::Set(ints, 3)));
    const auto share = hn::Mul(hn::Broadcast<3>(straight), hn::Set(tag, 1.0f / float(T(~T(0)))));
    return hn::IfThenElse(isAlpha, straight, hn::Mul(straight, share));
}

} // namespace glyptos::HWY_NAMESPACE
HWY_AFTER_NAMESPACE();

#endif
