#include "color/ink_table.h"

#include <cmath>
#include <tbb/parallel_for.h>
#include <vector>

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "color/ink_table_simd.cpp"
#include <hwy/foreach_target.h> // IWYU pragma: keep

#include <hwy/highway.h>

HWY_BEFORE_NAMESPACE();
namespace glyptos::HWY_NAMESPACE {
namespace hn = hwy::HWY_NAMESPACE;

using Inks = hn::FixedTag<float, 4>;

/// Where a byte lies on one side of the lattice.
struct Place {
    uint32_t step; ///< of the lattice
    float part;    ///< from there to the next
};

/// A colour's way through its cell: the points that it comes by, from the darkest to the lightest, and where
/// it turns.
struct Way {
    size_t first, second;
    float a, b, c; ///< parts, the largest first
};
HWY_INLINE Way wayOf(float r, float g, float b) {
    constexpr size_t kBlue = 4, kGreen = kBlue * InkTable::kSide, kRed = kGreen * InkTable::kSide;
    if (r >= g) {
        if (g >= b) return {kRed, kRed + kGreen, r, g, b};
        if (r >= b) return {kRed, kRed + kBlue, r, b, g};
        return {kBlue, kBlue + kRed, b, r, g};
    }
    if (b >= g) return {kBlue, kBlue + kGreen, b, g, r};
    if (b >= r) return {kGreen, kGreen + kBlue, g, b, r};
    return {kGreen, kGreen + kRed, g, r, b};
}

void ConvertByTable(const uint16_t* HWY_RESTRICT nodes, const uint8_t* HWY_RESTRICT rgb,
                    uint8_t* HWY_RESTRICT cmyk, size_t pixels) {
    constexpr size_t kSide = InkTable::kSide, kLast = 4 * (kSide * kSide + kSide + 1);
    static const auto places = [] {
        std::vector<Place> out(256);
        for (int v = 0; v < 256; ++v) {
            const double at = v * double(InkTable::kSide - 1) / 255;
            const auto step = uint32_t(std::min(at, double(InkTable::kSide - 2)));
            out[size_t(v)] = {step, float(at - step)};
        }
        return out;
    }();
    const Inks d;
    const hn::Rebind<int32_t, Inks> wide;
    const hn::Rebind<uint16_t, Inks> half;
    const hn::Rebind<uint8_t, Inks> bytes;
    for (size_t i = 0; i < pixels; ++i, rgb += 3, cmyk += 4) {
        const Place r = places[rgb[0]], g = places[rgb[1]], b = places[rgb[2]];
        const uint16_t* at = nodes + 4 * ((r.step * kSide + g.step) * kSide + b.step);
        const Way way = wayOf(r.part, g.part, b.part);
        const auto node = [&](size_t off) HWY_ATTR {
            return hn::ConvertTo(d, hn::PromoteTo(wide, hn::LoadU(half, at + off)));
        };
        auto inks = hn::Mul(node(0), hn::Set(d, 1 - way.a));
        inks = hn::MulAdd(node(way.first), hn::Set(d, way.a - way.b), inks);
        inks = hn::MulAdd(node(way.second), hn::Set(d, way.b - way.c), inks);
        inks = hn::Mul(hn::MulAdd(node(kLast), hn::Set(d, way.c), inks), hn::Set(d, 1.0F / 257));
        hn::StoreU(hn::DemoteTo(bytes, hn::NearestInt(inks)), bytes, cmyk);
    }
}

} // namespace glyptos::HWY_NAMESPACE
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace glyptos {

HWY_EXPORT(ConvertByTable);

InkTable::InkTable(const Exact& exact)
    : nodes_(size_t(kSide) * kSide * kSide * 4) {
    const auto level = [](size_t step) {
        return uint16_t(std::lround(double(step) * 65535.0 / (kSide - 1)));
    };
    constexpr size_t kPlane = size_t(kSide) * kSide;
    tbb::parallel_for(size_t(0), size_t(kSide), [&](size_t red) {
        std::vector<uint16_t> colours;
        colours.reserve(3 * kPlane);
        for (size_t green = 0; green < size_t(kSide); ++green)
            for (size_t blue = 0; blue < size_t(kSide); ++blue)
                colours.insert(colours.end(), {level(red), level(green), level(blue)});
        exact(colours.data(), nodes_.data() + 4 * kPlane * red, kPlane);
    });
}

void InkTable::convert(const uint8_t* rgb, uint8_t* cmyk, size_t pixels) const {
    HWY_DYNAMIC_DISPATCH(ConvertByTable)(nodes_.data(), rgb, cmyk, pixels);
}

} // namespace glyptos
#endif
