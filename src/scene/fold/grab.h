// Boards taken hold of where they are seen.
#pragma once

#include "scene/draw/facet.h"
#include "scene/fold/folding.h"

namespace glyptos {

/// A place on a board.
struct Grab {
    size_t board = 0;
    Vec2 onFlat;
};

/// The nearest board at a point, px from the middle of the picture; nothing where none is, or through a hole.
std::optional<Grab> boardAt(const Folding& folding, const FoldShares& shares, const Eye& eye, Vec2 at);

/// How far the fold that a board hangs by must have come for the grabbed place to be seen nearest to a point;
/// nothing when it hangs by none. Of two ways that are as near, the one nearer to how it is now.
struct FoldTowards {
    size_t fold = 0;
    double share = 0;
};
std::optional<FoldTowards> foldTowards(const Folding& folding, const FoldShares& shares, const Grab& grab,
                                       const Eye& eye, Vec2 at);

} // namespace glyptos
