// What stands before the packed pixels of a tile in a journal.
#pragma once

#include "raster/pixel_tile.h"

namespace glyptos {

struct TileRecord {
    uint64_t hash[2] = {};
    int32_t used[4] = {};
    float farthest = 0;
    uint8_t channels = 0, bytesPerSample = 0, spare[2] = {};
};
static_assert(sizeof(TileRecord) == 40);

} // namespace glyptos
