// Press inks of sRGB colours, read off a lattice of colours whose inks are known.
#pragma once

#include "raster/buffer.h"

#include <cstdint>
#include <functional>

namespace glyptos {

/// Between the lattice's points inks are those of the tetrahedron that a colour lies in (J. Kasson, W.
/// Plouffe, S. Nin, "A tetrahedral interpolation technique for color space conversion", 1993). With 65 points
/// a side what is seen of the inks is within half a CIEDE2000 of what the profile itself gives.
class InkTable {
  public:
    /// `exact` turns `count` sRGB colours of 16 bits a sample into four inks of 16 bits, 65535 = full
    /// ink. Called from several threads.
    using Exact = std::function<void(const uint16_t* rgb, uint16_t* cmyk, size_t count)>;
    explicit InkTable(const Exact& exact);

    /// `rgb`: pixels × 3 bytes; `cmyk`: pixels × 4 bytes, 255 = full ink.
    void convert(const uint8_t* rgb, uint8_t* cmyk, size_t pixels) const;

    static constexpr int kSide = 65;

  private:
    Buffer<uint16_t> nodes_; ///< red by green by blue, four inks each, 65535 = full ink
};

} // namespace glyptos
