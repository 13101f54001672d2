// Pixels that are painted: a sparse lattice of tiles that are shared until they are written. A copy costs no
// pixels, a stroke costs the tiles it touches, and each tile has a name by what is in it.
#pragma once

#include "raster/pixel_tile.h"

#include <functional>
#include <map>
#include <memory>
#include <vector>

namespace glyptos {

/// Column and row of a tile in the lattice; its first pixel is that times kPixelTileSide.
struct TilePlace {
    int column = 0, row = 0;
    bool operator==(const TilePlace&) const = default;
    bool operator<(const TilePlace& o) const { return row != o.row ? row < o.row : column < o.column; }
    IntRect area() const {
        return {column * kPixelTileSide, row * kPixelTileSide, kPixelTileSide, kPixelTileSide};
    }
};

/// The tiles that an area touches, row by row.
std::vector<TilePlace> placesIn(const IntRect& area);
/// The tile that holds a pixel.
TilePlace placeAt(int x, int y);

/// A part of one tile that may be written.
struct PixelPart {
    IntRect area;    ///< pixels of the whole
    uint8_t* first;  ///< its first pixel
    size_t rowBytes; ///< from one row to the next
    uint8_t* row(int y) const { return first + size_t(y - area.y) * rowBytes; }
};

/// Without bounds; where there is no tile every byte is zero. A value: what is written in one copy does not
/// show in another.
class PixelTiles {
  public:
    explicit PixelTiles(PixelFormat format)
        : format_(format) {}

    const PixelFormat& format() const { return format_; }
    bool empty() const { return tiles_.empty(); }
    /// The smallest rectangle round all pixels that are not zero.
    IntRect bounds() const;
    /// Nothing where every byte is zero.
    PixelTilePtr tile(TilePlace place) const;
    const std::map<TilePlace, PixelTilePtr>& tiles() const { return tiles_; }

    /// Copies n pixels of a row, from (x, y) on; of a level, in its own pixels.
    void readRow(int x, int y, size_t n, uint8_t* out, int level = 0) const;
    /// Puts a tile of the same format, as a file holds it.
    void put(TilePlace place, PixelTilePtr tile);
    /// Calls write(part) for every tile that the area touches, with what is there, from several threads at a
    /// time. Tiles that are all zero
    /// afterwards are given up; those whose pixels are as before are the same tiles still.
    void change(const IntRect& area, const std::function<void(const PixelPart& part)>& write);

    /// A hash of everything: of the same tiles at the same places it is the same.
    PixelHash hash() const;
    /// The same of the tiles that the area touches.
    PixelHash hash(const IntRect& area) const;
    bool operator==(const PixelTiles& other) const;
    /// Memory of all tiles, shared or not.
    size_t bytes() const;

  private:
    PixelFormat format_;
    std::map<TilePlace, PixelTilePtr> tiles_;
};

using PixelTilesPtr = std::shared_ptr<const PixelTiles>;

/// The areas in which two states of the same pixels differ, a tile each; tiles that are shared are not looked
/// into.
std::vector<IntRect> changedTiles(const PixelTiles& before, const PixelTiles& after);

} // namespace glyptos
