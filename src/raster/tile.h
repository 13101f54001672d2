// A small block of pixels, one 16-bit plane a channel: what a layer contributes to one part of the output.
#pragma once

#include "raster/buffer.h"

#include <cstdint>
#include <memory>

namespace glyptos {

/// The sample of a tile nearest to a value within 0…65535.
inline uint16_t nearestSample(float value) {
    constexpr float kHalf = 0.5f;
    return static_cast<uint16_t>(value + kHalf);
}

/// Premultiplied RGBA, or alpha alone, planar, 16 bits a channel. `stride` values from one row to the next.
struct Tile {
    int width = 0, height = 0, stride = 0;
    bool empty = true;   ///< every alpha is zero; the planes may be missing then
    bool opaque = false; ///< every alpha is full
    int channels = 4;    ///< or 1: alpha alone, as of a mask
    Buffer<uint16_t> planes;

    Tile() = default;
    Tile(int w, int h, int channelCount = 4)
        : width(w)
        , height(h)
        , stride(static_cast<int>(roundUpLanes(size_t(w))))
        , empty(false)
        , channels(channelCount)
        , planes(size_t(channelCount) * size_t(h) * roundUpLanes(size_t(w))) {}

    uint16_t* row(int channel, int y) {
        return planes.data() + (size_t(channel) * size_t(height) + size_t(y)) * size_t(stride);
    }
    const uint16_t* row(int channel, int y) const {
        return planes.data() + (size_t(channel) * size_t(height) + size_t(y)) * size_t(stride);
    }
    size_t bytes() const { return planes.size() * sizeof(uint16_t) + sizeof(Tile); }
    /// Sets `empty` and `opaque` from the alpha plane.
    void settle();
};

using TilePtr = std::shared_ptr<const Tile>;

} // namespace glyptos
