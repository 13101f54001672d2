// Bytes packed by DEFLATE, on all cores.
#pragma once

#include "raster/buffer.h"

#include <atomic>
#include <cstdint>
#include <span>
#include <vector>

namespace glyptos {

/// A zlib stream (RFC 1950) of the bytes. Parts of it are packed apart from each other, each of which looks
/// back at nothing before it. Stops early once `*cancel` is true; what is there then is of no use.
Buffer<uint8_t> deflated(std::span<const uint8_t> bytes, const std::atomic<bool>* cancel = nullptr);

/// The same stream in pieces that follow one another, for whoever writes it out and needs it in no one place.
std::vector<Buffer<uint8_t>> deflatedParts(std::span<const uint8_t> bytes,
                                           const std::atomic<bool>* cancel = nullptr);

} // namespace glyptos
