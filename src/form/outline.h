// Outlines of panels, cut-outs and zones: rectangles, round corners, discs, rings, anything.
#pragma once

#include "base/geometry.h"
#include "raster/path.h"

#include <span>

namespace glyptos {

/// A closed outline in the unit of its form.
struct Outline {
    enum class Kind : unsigned char { Rectangle, Disc, Free };
    Kind kind = Kind::Rectangle;
    Rect box;           ///< round all of it
    double corners = 0; ///< of a rectangle: radius of its corners
    double inner = 0;   ///< of a disc: diameter of its middle that is left out; 0: none
    Path free;          ///< of Kind::Free

    /// All of its box.
    bool isPlain() const { return kind == Kind::Rectangle && corners <= 0; }
    Path path() const;
    /// Grown on all sides, or shrunk; round corners and discs stay round, corners of a free outline stay
    /// corners. Empty box when nothing is left.
    Outline grown(double by) const;
    /// Through quarter turns, mirrors and shifts.
    Outline mapped(const Affine& map) const;
    bool contains(Vec2 p) const;
};
inline constexpr const char* kOutlineKindIds[] = {"rectangle", "disc", "outline"};

/// What is left of `outline` without `holes`, which may lie in each other and across its edge. Curves become
/// lines within 0.001 units.
Path without(const Outline& outline, std::span<const Outline> holes);

} // namespace glyptos
