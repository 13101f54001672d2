// One stroke as it goes on: from the moves of a pointer to what is covered.
#pragma once

#include "raster/brush/dab_layer.h"
#include "raster/brush/dab_walk.h"

namespace glyptos {

class PaintedStroke {
  public:
    /// Px of what is painted on, nothing outside `within`. Every dab appears once for each of `copies`
    /// (symmetry.h).
    PaintedStroke(const Brush& brush, TipLook look, const IntRect& within, double steadyLength = 0,
                  std::vector<Affine> copies = {Affine{}});

    // The pixels that may have changed.
    IntRect moveTo(const PenSample& sample);
    IntRect lineTo(Vec2 at) { return moveTo(PenSample{at}); }
    IntRect dwell(double seconds);
    IntRect finish();

    const DabLayer& cover() const { return layer_; }
    /// Where the tip is, which may lag behind the pointer.
    std::optional<Vec2> tip() const { return walk_.tip(); }

  private:
    IntRect draw();
    Dabs appearances(std::span<const Dab> dabs) const;

    DabWalk walk_;
    DabLayer layer_;
    IntRect within_;
    std::vector<Affine> copies_;
    Dabs drawn_; ///< of the walk, as they were drawn
};

/// One 8-bit value a pixel, of the stroke of a round brush through those points, mapped by `toPixels`, as
/// `area` is, within which it stays. The brush is in pixels.
PixelTiles strokeCover(const std::vector<Vec2>& points, const Brush& brush, const Affine& toPixels,
                       const Rect& area);

} // namespace glyptos
