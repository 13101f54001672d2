// Internal to render: what one layer contributes to one tile, before its blend and opacity.
#pragma once

#include "raster/path.h"
#include "raster/picture.h"
#include "raster/tile.h"
#include "release/release.h"
#include "render/inked_words.h"

namespace glyptos {

/// A picture on the output. `pixels` show all of a source of width × height px, perhaps with fewer px.
struct PlacedPicture {
    const Pyramid& pixels;
    int width, height;
    Affine sourceToOutput;
    Rect shown; ///< source px; the rest is cut away
};

/// What of it falls on `region`, its edges covered to the exact share. Empty when nothing does.
Tile pictureTile(const PlacedPicture& picture, const IntRect& region);

/// Outlines, mapped by `toOutput`, each filled with its colour over those before it. Empty when none of them
/// falls on `region`.
Tile textTile(const std::vector<InkedOutline>& inked, const Affine& toOutput, const IntRect& region);

/// The area within an outline on the output, as a mask of one channel.
Tile edgeTile(const Path& edge, const IntRect& region);

/// Whether `area`, mapped by `toOutput`, covers all of `region`.
bool coversAll(const Affine& toOutput, const Rect& area, const IntRect& region);

} // namespace glyptos
