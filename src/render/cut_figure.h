// A figure as what its layers are made of.
#pragma once

#include "base/error.h"
#include "raster/picture.h"
#include "raster/pixel_tiles.h"
#include "vision/cutout/cutout.h"

namespace glyptos {

struct CutFigure {
    PixelTilesPtr alpha; ///< one value a pixel of the picture
    PixelTilesPtr edges; ///< RGBA: the figure's own colours where it is half covered; nothing elsewhere
};

/// Fails as figureAlpha() does.
[[nodiscard]] Result<CutFigure> cutFigure(const Pyramid& picture, const CutoutHints& hints,
                                          const CutoutOptions& options);
/// The same with the alpha known.
CutFigure cutFigure(const Pyramid& picture, const AlphaMap& alpha);

} // namespace glyptos
