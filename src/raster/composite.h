// Row kernels of the compositor: into float planes, blended there, and out again. The rules of README.md
// hold.
#pragma once

#include "raster/blend_modes.h"

#include <cstddef>
#include <cstdint>

namespace glyptos {

/// Four planes of one row: r, g, b premultiplied, and alpha, as floats 0…1.
struct RowPlanes {
    float* c[4] = {};
};

/// Blends `source` at `opacity` 0…1 over `backdrop`, in place, by the W3C formula of blend_modes.h.
/// Error against the formula in double: at most 4 ULP of 1.0 a channel.
void blendRow(BlendMode mode, RowPlanes backdrop, const RowPlanes& source, float opacity, size_t n);

/// The same with n interleaved straight RGBA pixels, 255 to 1.0, as the source.
void blendRow(BlendMode mode, RowPlanes backdrop, const uint8_t* straight, float opacity, size_t n);

/// n interleaved straight RGBA pixels to premultiplied planes, 255 or 65535 to 1.0. The planes need not be
/// aligned.
void unpackRow(const uint8_t* straight, RowPlanes out, size_t n);
void unpackRow(const uint16_t* straight, RowPlanes out, size_t n);
/// One 16-bit plane to floats.
void unpackPlane(const uint16_t* plane, float* out, size_t n);

/// Planes to premultiplied bytes in the order blue, green, red, alpha, rounded to nearest; writes exactly n
/// pixels.
void packBgra8(const RowPlanes& in, uint8_t* out, size_t n);
/// Planes to straight bytes in the order red, green, blue, alpha, rounded to nearest; colours of nothing are
/// 0.
void packStraightRgba8(const RowPlanes& in, uint8_t* out, size_t n);

} // namespace glyptos
