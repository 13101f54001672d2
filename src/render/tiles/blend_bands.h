// Internal to render: prepared layers blended in bands that stay in the first-level cache.
#pragma once

#include "raster/composite.h"
#include "render/tiles/prepared.h"

#include <memory>

namespace glyptos {

inline constexpr int kTileSize = 256;
/// Parts of what is rendered once and not kept are wider and as much lower: memory gives rows faster in
/// longer pieces.
inline constexpr int kWideTile = 1024, kLowTile = 64;
/// Rows blended together before moving on: of a tile four, of a wide one one. Four float planes of those 1024
/// pixels are 16 KiB, over which the whole stack passes.
constexpr int bandRows(int width) {
    return width <= kTileSize ? 4 : 1;
}

/// Four planes of 1024 floats, in rows kTileSize apart; a wide row takes all of them.
class Band {
  public:
    Band();
    RowPlanes row(int y);
    void clear();
    void copy(const Band& other);

  private:
    Buffer<float> values_;
};

/// Scratch memory of one thread.
struct Scratch {
    Scratch();
    bool linear = false; ///< blend in linear light
    Buffer<float> source, share;
    std::vector<std::unique_ptr<Band>> bands; ///< one for each depth of groups
    RowPlanes sourceRow();
    Band& band(size_t depth);
};

/// Output rows y … y+rows, at most bandRows(), of a region at most kWideTile wide.
struct BandRows {
    const IntRect& region;
    int y, rows;
};

/// Blends `layers`, back to front, over nothing, into scratch.band(depth).
void blendBand(const std::vector<PreparedLayer>& layers, const BandRows& at, Scratch& scratch, size_t depth);

} // namespace glyptos
