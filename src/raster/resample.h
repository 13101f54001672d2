// Pictures at other sizes and angles.
//
// Filter: the cubic of R. Keys, "Cubic convolution interpolation for digital image processing" (1981), a =
// -1/2: exact on whole pixels, sharp when enlarging. When reducing, the nearest level of the pyramid that is
// not smaller than the result is read and the kernel is widened by what remains, so nothing finer than the
// result's pixels gets through.
#pragma once

#include "base/geometry.h"
#include "raster/picture.h"
#include "raster/tile.h"

namespace glyptos {

/// The level of a pyramid to read when one level-0 pixel becomes `scale` result pixels: the smallest level
/// whose pixels are still at most one result pixel wide. 0 for scale > 1/2.
int levelFor(double scale, int levels);

/// The level that resampleTile reads of that pyramid: the one above, or the finest that is there.
int levelFor(double scale, const Pyramid& pyramid);

/// Fills `out`, premultiplied, with the part of `source` at the result pixels [x, x+out.width) × [y,
/// y+out.height). `sourceToResult` maps level-0 pixel coordinates to result pixels and must be invertible.
/// Outside the picture its edge pixels go on; the caller cuts the edge.
void resampleTile(const Pyramid& source, const Affine& sourceToResult, int x, int y, Tile& out);

} // namespace glyptos
