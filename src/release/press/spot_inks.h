// Inks besides the four of the press: special colours and varnishes, each with a plate of its own.
#pragma once

#include "release/release.h"

namespace glyptos {

/// The swatch in whose own ink all of the layer prints: the one it is given, else the one that the style of
/// its words is given, else the one that all of its colours follow, where it has nothing but colours (words;
/// fills and shapes of plain colour). Nothing for a layer that prints in press inks.
const Swatch* spotOf(const Layer& layer, const Release& release);

/// Those that layers of the piece's current take print in, hidden ones left out, in the order of the palette.
std::vector<Swatch> spotInksOf(const Release& release, const Piece& piece);

} // namespace glyptos
