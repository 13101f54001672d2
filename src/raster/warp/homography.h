// A plane seen in perspective.
//
// The map of the unit square to four corners is that of P. Heckbert, "Fundamentals of Texture Mapping and
// Image Warping" (1989), section 2.2.3.
#pragma once

#include "base/geometry.h"

#include <array>

namespace glyptos {

/// x' = (a·x + b·y + c) / w,  y' = (d·x + e·y + f) / w,  w = g·x + h·y + i
class Homography {
  public:
    Homography() = default; ///< the identity
    explicit Homography(const Affine& map);
    /// From the unit square to corners given clockwise from left-top (or, mirrored, the other way round).
    /// Nothing when they are not the corners of a convex figure: they cross, lie on one line, or one lies
    /// inside the others.
    static std::optional<Homography> toCorners(const std::array<Vec2, 4>& corners);

    /// Nothing where the plane is at or behind the eye.
    std::optional<Vec2> map(Vec2 p) const;
    std::optional<Homography> inverse() const;
    /// `outer * inner` applies `inner` first.
    friend Homography operator*(const Homography& outer, const Homography& inner);
    const std::array<double, 9>& figures() const { return m_; } ///< row by row
    bool operator==(const Homography&) const = default;

  private:
    std::array<double, 9> m_{1, 0, 0, 0, 1, 0, 0, 0, 1};
};

} // namespace glyptos
