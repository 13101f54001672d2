// Where the pixels that are treated lie on the piece.
#pragma once

#include "base/geometry.h"
#include "treat/values.h"

#include <cmath>

namespace glyptos {

/// Boxes round what a layer shows, in its own frame.
struct LineBoxes {
    Affine toPiece;
    std::vector<Rect> boxes;
    /// All of them on the piece.
    Rect bounds() const {
        Rect all;
        for (const Rect& box : boxes) all = all.united(toPiece.mapBounds(box));
        return all;
    }
};

struct Place {
    Affine toOutput;       ///< from units of the piece to output px
    Rect panel;            ///< units: the panel with its bleed
    double unitsPerMm = 1; ///< or of px pieces, their px in a mm at 300 ppi
    LineBoxes lines{};     ///< of the layer, for kinds that read them

    double pxPerUnit() const { return std::sqrt(std::abs(toOutput.determinant())); }
    double px(double units) const { return units * pxPerUnit(); }
    /// A way of the piece, by its direction (degrees clockwise, 0 to the right) and length in units, in
    /// output px.
    Vec2 way(double degrees, double units) const {
        return toOutput.mapVector(Affine::rotation(degrees).mapVector({units, 0}));
    }
    /// A point that is placed, or else at its share of the panel; units.
    Vec2 at(const Figure& figure, const std::optional<Vec2>& placed) const {
        if (placed) return *placed;
        return {panel.x + double(figure.colour.r) * panel.w, panel.y + double(figure.colour.g) * panel.h};
    }
    /// The same place where the output is 2^level times as coarse.
    Place coarser(int level) const {
        Place out = *this;
        const double k = std::ldexp(1.0, -level);
        out.toOutput = Affine::scaling(k, k) * toOutput;
        return out;
    }
};

} // namespace glyptos
