// Internal to render: shapes as pixels.
#pragma once

#include "raster/tile.h"
#include "raster/warp/mapping.h"
#include "release/shape.h"
#include "render/tiles/paint_tiles.h"

namespace glyptos {

/// The area inside a shape's outline in the pixels of `region`, 0…1 each; `toOutput` maps the shape's frame
/// to output pixels.
Buffer<float> shapeCoverage(const ShapeContent& shape, const Affine& toOutput, const IntRect& region);
/// The area of its stroke.
Buffer<float> strokeCoverage(const ShapeContent& shape, const Affine& toOutput, const IntRect& region);

/// The fill with the stroke over it.
Tile shapeTile(const ShapeContent& shape, const Affine& toOutput, const IntRect& region,
               const PatternPicture& fillPattern, const PatternPicture& strokePattern);

/// The same of colours alone through any mapping: its outlines are cut finer and mapped. `scale`: px for a
/// unit of its frame, about.
Tile warpedShapeTile(const ShapeContent& shape, const Mapping& toOutput, double scale, const IntRect& region);

} // namespace glyptos
