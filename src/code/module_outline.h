// Internal to code: squares of a code, and the outline round the dark ones.
#pragma once

#include "raster/path.h"

#include <vector>

namespace glyptos {

class ModuleGrid {
  public:
    ModuleGrid(int width, int height)
        : width_(width)
        , height_(height)
        , dark_(size_t(width) * size_t(height)) {}
    int width() const { return width_; }
    int height() const { return height_; }
    /// Light outside.
    bool at(int x, int y) const {
        return x >= 0 && y >= 0 && x < width_ && y < height_ && dark_[index(x, y)];
    }
    void set(int x, int y, bool dark) { dark_[index(x, y)] = dark; }

  private:
    size_t index(int x, int y) const { return size_t(y) * size_t(width_) + size_t(x); }
    int width_, height_;
    std::vector<char> dark_;
};

/// Contours with dark on their right hand, so that holes wind the other way; squares that meet at a corner
/// alone stay apart.
Path outlineOf(const ModuleGrid& modules, Vec2 corner);

} // namespace glyptos
