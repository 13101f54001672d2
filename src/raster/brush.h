// A round brush: how far a stroke covers each pixel.
#pragma once

#include "raster/pixel_tiles.h"

#include <map>

namespace glyptos {

struct RoundTip {
    double diameter = 40; ///< px, more than 0
    double hardness =
        0.8;         ///< 0…1: the share of the radius that is covered wholly; from there it falls smoothly
    double flow = 1; ///< 0…1: the share of what is missing to the tip's own cover that each dab adds

    /// How much of a pixel is covered at a distance from the middle, px.
    double coverAt(double distance) const;
};

/// One stroke, dab by dab. Pixels are covered 0…65535 and never less than before.
class BrushStroke {
  public:
    explicit BrushStroke(const RoundTip& tip)
        : tip_(tip) {}

    /// On to a point, px, from the last one; dabs lie a 25th of the diameter apart, and at least half a
    /// pixel. Returns what is covered anew; empty when the next dab is not reached yet.
    IntRect moveTo(Vec2 at);
    /// Copies n values of a row.
    void readRow(int x, int y, size_t n, uint16_t* out) const;

  private:
    /// A dab, or all of them from one point to another.
    IntRect cover(Vec2 from, Vec2 to);

    RoundTip tip_;
    std::optional<Vec2> last_; ///< dab
    std::map<TilePlace, Buffer<uint16_t>> tiles_;
};

/// What a mask is painted with: `value`, as far as is covered, times `opacity`, 0…1, and times `keep`, one
/// value a pixel of the area that is painted, when there is any.
struct MaskPaint {
    uint8_t value = 0;
    double opacity = 1;
    const float* keep = nullptr;
};

/// Pixels in `area` of a mask: those of `before`, painted as far as the stroke covers them.
void mixStroke(PixelTiles& mask, const PixelTiles& before, const BrushStroke& stroke, const MaskPaint& paint,
               const IntRect& area);
/// The same where a run covers: wholly at `from` and before it, evenly less on the way to `to`, and beyond
/// that nothing. Pixels of the mask; the two are not the same.
void mixRun(PixelTiles& mask, const PixelTiles& before, Vec2 from, Vec2 to, const MaskPaint& paint,
            const IntRect& area);

} // namespace glyptos
