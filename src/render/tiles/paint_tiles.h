// Internal to render: gradients, clouds, paper and patterns as pixels.
#pragma once

#include "raster/picture.h"
#include "raster/tile.h"
#include "release/paint.h"

namespace glyptos {

/// The picture of a pattern: it shows all of a source of width × height pixels. Empty for other paints, or
/// when the picture cannot be had; a pattern is then nothing.
struct PatternPicture {
    PyramidPtr picture;
    int width = 0, height = 0;
};

/// The paint in the pixels of `region`; `toOutput` maps the paint's own units to output pixels. Edges inside
/// a gradient are averaged over each pixel, and noise finer than a pixel fades out, so a small result equals
/// a large one made smaller.
Tile paintTile(const Paint& paint, const Affine& toOutput, const IntRect& region,
               const PatternPicture& pattern = {});

} // namespace glyptos
