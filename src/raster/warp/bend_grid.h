// A grid of points and the smooth surface through them.
//
// Between the points the surface is a bicubic spline in Hermite form (C. de Boor, "A Practical Guide to
// Splines", 1978, chapters IV and XVII): twice continuously differentiable, with not-a-knot ends, so that a
// grid laid evenly over the plane is the plane, and points of a smooth bend give back the bend. A slope that
// was dragged stands in for that of the spline at its point; there the surface is still without a kink.
#pragma once

#include "base/geometry.h"

#include <array>

#include <vector>

namespace glyptos {

/// Way of the surface at a point, for one cell to the right and one cell down.
struct BendNode {
    Vec2 at;
    std::optional<Vec2> across, down; ///< dragged; else as the spline has it
    bool operator==(const BendNode&) const = default;
};

/// Lengths in shares of the box that is bent: an even grid goes from (0, 0) to (1, 1).
struct BendGrid {
    int columns = 1, rows = 1;   ///< cells, at most kMostBendCells each
    std::vector<BendNode> nodes; ///< row by row, (columns + 1) · (rows + 1)
    const BendNode& node(int column, int row) const {
        return nodes[size_t(row) * size_t(columns + 1) + size_t(column)];
    }
    BendNode& node(int column, int row) { return nodes[size_t(row) * size_t(columns + 1) + size_t(column)]; }
    bool operator==(const BendGrid&) const = default;
};

inline constexpr int kMostBendCells = 64;

BendGrid evenGrid(int columns, int rows);

/// What a BendGrid bends; safe to use from several threads.
class BendSurface {
  public:
    explicit BendSurface(BendGrid grid);
    const BendGrid& grid() const { return grid_; }

    struct Place {
        Vec2 at, across, down; ///< the surface, and its derivatives by u and by v
    };
    /// At (u, v), 0…1 across and down; a little beyond, the surface goes on as it ends.
    Place at(Vec2 uv) const;
    /// What (u, v) shows at a point; where the surface is folded over itself, the part that comes last, row
    /// by row. `near`: where a neighbour was found, to begin from. Nothing where it does not reach, though a
    /// margin round it, kMargin of a side, counts still.
    std::optional<Vec2> back(Vec2 p, const std::optional<Vec2>& near = {}) const;
    /// Of all of it with its margin.
    const Rect& bounds() const { return bounds_; }
    /// The (u, v) that show within `area`, somewhat too large; empty when none does.
    Rect reach(const Rect& area) const;
    /// Whether any part of it lies turned over.
    bool isFolded() const { return folded_; }
    /// Slopes at a node, those of the spline or the dragged ones, for one cell.
    BendNode slopesAt(int column, int row) const;

    static constexpr double kMargin = 1.0 / 32;

  private:
    struct Corner {
        Vec2 at, across, down, twist;
    };
    struct Facet { ///< a quarter of a thousandth of the surface or so, nearly flat
        std::array<Vec2, 4> corners;
        Vec2 uv; ///< of its left-top
    };
    std::optional<Vec2> solved(Vec2 p, Vec2 uv) const;
    void findSlopes();
    void makeFacets();
    size_t bin(double x, double y) const;

    BendGrid grid_;
    std::vector<Corner> corners_; ///< of cells, as nodes lie
    std::vector<Facet> facets_;
    std::vector<std::vector<int>> bins_; ///< facets by where they lie in the bounds
    Rect bounds_;
    Vec2 facet_; ///< u and v of one
    bool folded_ = false;
};

/// More columns or rows in the same surface: at the places of an even grid of as many.
BendGrid withCells(const BendGrid& grid, int columns, int rows);

/// Ready bends as starting shapes.
enum class ReadyBend : unsigned char { Arc, Wave, Bulge, Flag, FishEye };
/// `amount` -1…1; 0 is an even grid. `aspect`: height of the box by its width.
BendGrid readyBend(ReadyBend kind, double amount, double aspect, int columns, int rows);

} // namespace glyptos
