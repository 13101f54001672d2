// Internal to render: prepared layers blended in bands that stay in the first-level cache.
#pragma once

#include "raster/composite.h"
#include "render/tiles/prepared.h"

#include <memory>

namespace glyptos {

inline constexpr int kTileSize = 256;
/// Rows blended together before moving on: 256 × 4 pixels of four float planes are 16 KiB, over which the
/// whole stack passes.
inline constexpr int kBandRows = 4;

/// Four planes of kBandRows × kTileSize floats.
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

/// Output rows y … y+rows, at most kBandRows, of a region at most kTileSize wide.
struct BandRows {
    const IntRect& region;
    int y, rows;
};

/// Blends `layers`, back to front, over nothing, into scratch.band(depth).
void blendBand(const std::vector<PreparedLayer>& layers, const BandRows& at, Scratch& scratch, size_t depth);

} // namespace glyptos
