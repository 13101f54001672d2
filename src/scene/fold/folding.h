// A flat folded in space: which board hangs on which, and where each part of it is. Board is rigid; it turns
// about the inner side of a mountain fold and the printed side of a valley fold, farther out by the board
// that has been folded in between before.
#pragma once

#include "form/flat.h"
#include "raster/stroke.h"
#include "scene/space.h"

#include <vector>

namespace glyptos {

/// What prints on one side of a part of the board.
struct PrintedSide {
    size_t panel = 0; ///< of the flat
    Affine toPanel;   ///< from the board's place on the flat to the panel's own frame
};

/// A part of the board: a panel, a flap, or the leaf of a booklet.
struct Board {
    Outline outline;            ///< on the flat
    std::vector<Outline> holes; ///< on the flat
    std::optional<PrintedSide> face, back;
    std::vector<Polyline> rim = {}; ///< on the flat: where it is cut, with the board on one hand
};

/// Two parts of the board that meet along a fold; the one hangs on the other.
struct Hinge {
    std::optional<size_t> parent; ///< place among the boards; nothing: the spine of a booklet
    size_t child = 0;
    size_t fold = 0;   ///< place among the flat's folds; of a booklet's leaf its place among those
    Vec3 at, axis;     ///< of the unfolded board; it turns by positive degrees about the unit vector `axis`
    double angle = 90; ///< degrees when made up
};

/// How far each fold has come, by its place: 0 flat, 1 made up.
using FoldShares = std::vector<double>;

/// All that does not change while a piece is folded.
class Folding {
  public:
    /// Two boards that meet along a fold.
    struct Join {
        size_t fold, a, b;
    };

    /// `filling`, in units of the flat, is what lies in a pocket: the folds by half a turn that come last go
    /// round it.
    explicit Folding(const Flat& flat, double filling = 0);

    const std::vector<Board>& boards() const { return boards_; }
    const std::vector<Hinge>& hinges() const { return hinges_; } ///< parents before their children
    double thickness() const { return thickness_; }
    size_t folds() const { return orders_.size(); }
    /// How many steps it takes: folds of one order go together.
    int steps() const { return steps_; }

    /// With 0 all folds flat and 1 all made up, one step after the other, each starting and ending gently. A
    /// booklet is open at its last leaf with 0, in the middle with 0.5, and closed with 1.
    FoldShares sharesAt(double at) const;
    /// Where each board is: from (x, y) on the flat, with z the height over its printed side.
    std::vector<Pose> poses(const FoldShares& shares) const;

  private:
    void addBoards(const Flat& flat);
    void addLeaves(const Flat& flat);
    void findRims();
    void hang(const Flat& flat, const std::vector<Join>& tree, size_t root, std::vector<bool>& there);
    Hinge hinge(const Flat& flat, size_t fold, size_t parent, size_t child) const;

    std::vector<Board> boards_;
    std::vector<Pose> rests_; ///< of each board, before it turns
    std::vector<Hinge> hinges_;
    std::vector<int> orders_; ///< step of each fold, from 0
    int steps_ = 0;
    double thickness_ = 0, filling_ = 0;
};

} // namespace glyptos
