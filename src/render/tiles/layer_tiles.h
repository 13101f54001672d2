// Internal to render: what one layer contributes to one tile, before its blend and opacity.
#pragma once

#include "raster/picture.h"
#include "raster/tile.h"
#include "release/release.h"

namespace glyptos {

/// Pixels of `picture`, which shows all of a source of sourceWidth × sourceHeight, placed by `sourceToOutput`
/// and cut to `shown` (source pixels), its edges covered to the exact share.
Tile pictureTile(const Pyramid& picture, int sourceWidth, int sourceHeight, const Affine& sourceToOutput,
                 const Rect& shown, const IntRect& region);

/// The outline, mapped by `toOutput`, filled with one colour.
Tile textTile(const Path& outline, const Affine& toOutput, const Rgba& colour, const IntRect& region);

/// The area of `area`, mapped by `toOutput`, as a mask of one channel.
Tile edgeTile(const Rect& area, const Affine& toOutput, const IntRect& region);

/// Whether `area`, mapped by `toOutput`, covers all of `region`.
bool coversAll(const Affine& toOutput, const Rect& area, const IntRect& region);

} // namespace glyptos
