// A folded piece as facets to draw: both sides of its boards, their edges, and the bends of its folds.
#pragma once

#include "scene/draw/facet.h"
#include "scene/fold/board_pictures.h"

namespace glyptos {

/// The pictures must outlive what is returned.
std::vector<Facet> foldedFacets(const Flat& flat, const Folding& folding, const FoldShares& shares,
                                const BoardPictures& pictures);

/// An eye that sees all of a piece that is folded so far, turned by `turn`, in a picture of that size; with
/// more than 1 it is nearer. How large the piece is seen does not change with the turn.
Eye eyeFor(const Folding& folding, const FoldShares& shares, const Pose& turn, double nearness, int width,
           int height);
/// An eye that sees all that lies in a box, as large as it can be seen from there.
Eye eyeFitting(const Bounds3& bounds, const Pose& turn, double nearness, int width, int height);

} // namespace glyptos
