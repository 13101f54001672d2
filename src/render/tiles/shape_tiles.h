// Internal to render: shapes as pixels.
#pragma once

#include "raster/tile.h"
#include "raster/warp/mapping.h"
#include "release/shape.h"
#include "render/tiles/brush_cache.h"
#include "render/tiles/paint_tiles.h"

namespace glyptos {

/// The area inside a shape's outline in the pixels of `region`, 0…1 each; `toOutput` maps the shape's frame
/// to output pixels.
Buffer<float> shapeCoverage(const ShapeContent& shape, const Affine& toOutput, const IntRect& region);
/// The area of its stroke.
Buffer<float> strokeCoverage(const ShapeContent& shape, const Affine& toOutput, const IntRect& region);

/// What a shape is drawn with, besides itself.
struct ShapeParts {
    PatternPicture fill, stroke;
    std::shared_ptr<const KeptDabs> dabs; ///< of a brushed line
    std::vector<StampLook> stamps;
};

/// The fill with the stroke over it.
Tile shapeTile(const ShapeContent& shape, const Affine& toOutput, const IntRect& region,
               const ShapeParts& parts);

/// The same of colours alone through any mapping: its outlines are cut finer and mapped. `scale`: px for a
/// unit of its frame, about.
Tile warpedShapeTile(const ShapeContent& shape, const Mapping& toOutput, double scale, const IntRect& region);

} // namespace glyptos
