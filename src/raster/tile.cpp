#include "raster/tile.h"

namespace glyptos {

void Tile::settle() {
    uint16_t all = 0xffff, any = 0;
    for (int y = 0; y < height; ++y) {
        const uint16_t* alpha = row(channels - 1, y);
        for (int x = 0; x < width; ++x) all &= alpha[x], any |= alpha[x];
    }
    opaque = all == 0xffff;
    empty = any == 0;
}

} // namespace glyptos
