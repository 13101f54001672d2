// Decoded pictures and their half-size levels.
#pragma once

#include "raster/buffer.h"

#include <cstdint>
#include <functional>
#include <memory>
#include <variant>
#include <vector>

namespace glyptos {

/// Interleaved straight RGBA in the working space, 8 or 16 bits a channel, rows without gaps. Kernels
/// premultiply in float, so that nothing of a see-through pixel's colour is rounded away before it is
/// blended.
struct Picture {
    int width = 0, height = 0;
    bool opaque = false; ///< every alpha is full
    std::variant<Buffer<uint8_t>, Buffer<uint16_t>> pixels;

    template <class T>
    const T* row(int y) const {
        return std::get<Buffer<T>>(pixels).data() + size_t(y) * size_t(width) * 4;
    }
    template <class T>
    T* row(int y) {
        return std::get<Buffer<T>>(pixels).data() + size_t(y) * size_t(width) * 4;
    }
    bool is16() const { return pixels.index() == 1; }
    size_t bytes() const { return size_t(width) * size_t(height) * (is16() ? 8 : 4); }

    /// Uninitialised pixels of the given size.
    template <class T>
    static Picture create(int width, int height) {
        Picture p;
        p.width = width, p.height = height;
        p.pixels = Buffer<T>(size_t(width) * size_t(height) * 4);
        return p;
    }
};

/// A picture and its averages at 1/2, 1/4, … down to one pixel. Level k pixel (x, y) is the mean of the 2^k ×
/// 2^k block of level 0 that starts at (x·2^k, y·2^k), edge pixels repeated where the block runs over.
/// Colours count by their alpha; where nothing shows, the colour is kept as the plain mean.
class Pyramid {
  public:
    explicit Pyramid(Picture base);

    /// Level k, which must be there: firstLevel() ≤ k < levels().
    const Picture& level(int k) const { return *levels_[size_t(k)]; }
    int levels() const { return static_cast<int>(levels_.size()); }
    /// The finest level that is there; those below it were let go to save memory.
    int firstLevel() const { return first_; }
    /// Size of level 0, whether it is there or not.
    int width() const { return width_; }
    int height() const { return height_; }
    bool opaque() const { return levels_.back()->opaque; }
    size_t bytes() const;
    /// The same without the levels finer than `first`; the others are shared.
    Pyramid from(int first) const;
    /// The same with every level that is there replaced by what `map` makes of it: the same pixels elsewhere.
    Pyramid mapped(const std::function<Picture(const Picture&)>& map) const;

  private:
    std::vector<std::shared_ptr<const Picture>> levels_;
    int first_ = 0, width_ = 0, height_ = 0;
};

/// Alpha, 0…1, at a place in shares of width and height, averaged over about a 512th of the longer side.
double alphaAt(const Pyramid& pyramid, double x, double y);

using PyramidPtr = std::shared_ptr<const Pyramid>;

} // namespace glyptos
