// Whether two parts of releases hold the same, whichever nodes they are made of. Nodes that are shared are
// not looked into.
#pragma once

#include "release/release.h"

namespace glyptos {

bool sameLayer(const Layer& a, const Layer& b);
bool sameStack(const Stack& a, const Stack& b);
bool samePiece(const Piece& a, const Piece& b);
/// All but the number of the next id.
bool sameRelease(const Release& a, const Release& b);

} // namespace glyptos
