// Pictures on surfaces: every half size down to one pixel, so that they are read as large as they are seen.
#pragma once

#include "raster/buffer.h"

#include <cstdint>
#include <vector>

namespace glyptos {

/// sRGB bytes B, G, R and how much of the surface is there, 255 for all of it. The colours go on where it is
/// not, so that its edge is as its middle is.
class SurfacePicture {
  public:
    struct Level {
        int width = 0, height = 0;
        Buffer<uint8_t> bytes; ///< 4 · width · height
    };

    SurfacePicture(Buffer<uint8_t> bytes, int width, int height);
    const std::vector<Level>& levels() const { return levels_; } ///< largest first
    int width() const { return levels_[0].width; }
    int height() const { return levels_[0].height; }
    /// Whether all of the surface is there.
    bool isWhole() const { return whole_; }

  private:
    std::vector<Level> levels_;
    bool whole_ = true;
};

} // namespace glyptos
