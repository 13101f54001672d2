// A stroke as it is painted: what its dabs cover, in tiles that are made where they touch.
#pragma once

#include "raster/brush/dab_drawing.h"
#include "raster/pixel_tiles.h"

#include <map>

namespace glyptos {

class DabLayer {
  public:
    explicit DabLayer(TipLook look)
        : look_(std::move(look)) {}

    const TipLook& look() const { return look_; }
    /// Draws dabs over those that are there, nothing of them outside `within`; the pixels that may have
    /// changed.
    IntRect draw(std::span<const Dab> dabs, const IntRect& within);
    /// Draws anew what the tiles of an area hold: `all` dabs of the stroke.
    IntRect redraw(const IntRect& area, std::span<const Dab> all, const IntRect& within);
    /// Copies n values of a row: cover, and for a coloured look red, green, blue, premultiplied; the others
    /// stay. False when nothing is covered there.
    bool readRow(int x, int y, size_t n, float* const (&out)[4]) const;

  private:
    DabPlanes planesAt(TilePlace place);

    TipLook look_;
    std::map<TilePlace, Buffer<float>> tiles_;
};

} // namespace glyptos
