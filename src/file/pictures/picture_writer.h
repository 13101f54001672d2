// Pictures out: JPEG and PNG with their profile and resolution.
#pragma once

#include "base/error.h"
#include "base/units.h"
#include "raster/picture.h"

#include <cstdint>
#include <span>
#include <vector>

namespace glyptos {

/// Baseline JPEG of sRGB pixels, 3 bytes each, rows without gaps; quality 1…100. From 90 up colour is kept at
/// full resolution, below that at half. The sRGB profile is embedded.
[[nodiscard]] Result<std::vector<uint8_t>> encodeJpeg(std::span<const uint8_t> rgb, int width, int height,
                                                      int quality, Ppi resolution);

/// PNG of sRGB pixels: straight RGBA bytes, rows without gaps; without alpha when all is opaque.
[[nodiscard]] Result<std::vector<uint8_t>> encodePng(std::span<const uint8_t> straight, int width, int height,
                                                     Ppi resolution);

/// The same of a picture in its own depth.
[[nodiscard]] Result<std::vector<uint8_t>> encodePng(const Picture& picture, Ppi resolution);

/// PNG of one 8-bit value a pixel, rows without gaps: a mask, which has no colours and so no profile.
[[nodiscard]] Result<std::vector<uint8_t>> encodeGreyPng(std::span<const uint8_t> values, int width,
                                                         int height);

} // namespace glyptos
