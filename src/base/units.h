// Lengths and resolutions that carry their unit in the type. All values are exact doubles; they are rounded
// to whole pixels once, by snapEdge().
#pragma once

#include <cmath>
#include <compare>

namespace glyptos {

inline constexpr double kMmPerInch = 25.4; // ISO 80000-3, the international inch
inline constexpr double kPtPerInch = 72.0; // ISO 32000-1, default user space of PDF

template <class Tag>
struct Quantity {
    double value = 0;
    constexpr auto operator<=>(const Quantity&) const = default;
    constexpr Quantity operator+(Quantity o) const { return {value + o.value}; }
    constexpr Quantity operator-(Quantity o) const { return {value - o.value}; }
    constexpr Quantity operator*(double k) const { return {value * k}; }
};

using Mm = Quantity<struct MmTag>;   ///< millimetres
using Pt = Quantity<struct PtTag>;   ///< PostScript points, 1/72 inch
using Ppi = Quantity<struct PpiTag>; ///< pixels per inch

constexpr Pt toPt(Mm length) {
    return {length.value / kMmPerInch * kPtPerInch};
}
constexpr Mm toMm(Pt length) {
    return {length.value / kPtPerInch * kMmPerInch};
}
/// Pixels in one millimetre.
constexpr double pxPerMm(Ppi resolution) {
    return resolution.value / kMmPerInch;
}

/// The unit in which a form measures, and so the unit of every position on its panels.
enum class Unit { Mm, Px };

/// The pixel line nearest to an edge at `position` px. Two areas that share an edge get the same line, so art
/// on both sides of a fold meets without a seam.
inline int snapEdge(double position) {
    return static_cast<int>(std::floor(position + 0.5));
}

} // namespace glyptos
