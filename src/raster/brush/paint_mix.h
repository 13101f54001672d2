// A stroke laid into painted pixels.
#pragma once

#include "raster/brush/dab_layer.h"

namespace glyptos {

/// What a mask is painted with: `value`, as far as is covered, times `opacity`, 0…1, and times `keep`, one
/// value a pixel of the area that is painted, when there is any.
struct MaskPaint {
    uint8_t value = 0;
    double opacity = 1;
    const float* keep = nullptr;
};

/// What a layer is painted with; the colour is straight, sRGB-encoded, and not asked for when dabs have their
/// own.
struct LayerPaint {
    std::array<float, 3> colour{};
    double opacity = 1; ///< 0…1
    PaintWay way = PaintWay::Over;
    BlendMode blend = BlendMode::Normal;
    const float* keep = nullptr; ///< as of a mask
};

/// Pixels in `area` of a mask or a layer (straight RGBA of 8 or 16 bits): those of `before`, painted as far
/// as the stroke covers them. A pixel that it does not cover keeps its bytes.
void mixDabs(PixelTiles& mask, const PixelTiles& before, const DabLayer& stroke, const MaskPaint& paint,
             const IntRect& area);
void mixDabs(PixelTiles& layer, const PixelTiles& before, const DabLayer& stroke, const LayerPaint& paint,
             const IntRect& area);
/// A mask where a run covers: wholly at `from` and before it, evenly less on the way to `to`, and beyond
/// that nothing. Pixels of the mask; the two are not the same.
void mixRun(PixelTiles& mask, const PixelTiles& before, Vec2 from, Vec2 to, const MaskPaint& paint,
            const IntRect& area);

} // namespace glyptos
