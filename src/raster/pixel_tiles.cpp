#include "raster/pixel_tiles.h"

#include <algorithm>
#include <cstring>
#include <xxhash.h>

namespace glyptos {
namespace {

/// The tile that holds a pixel, along one axis.
int placeOf(int pixel) {
    return pixel >= 0 ? pixel / kPixelTileSide : -((-pixel + kPixelTileSide - 1) / kPixelTileSide);
}

PixelHash hashOf(const void* bytes, size_t count) {
    const XXH128_hash_t hash = XXH3_128bits(bytes, count);
    return {hash.low64, hash.high64};
}

bool isZero(const Buffer<uint8_t>& bytes) {
    return std::all_of(bytes.data(), bytes.data() + bytes.size(), [](uint8_t v) { return v == 0; });
}

} // namespace

IntRect PixelTiles::bounds() const {
    Rect all;
    for (const auto& [place, tile] : tiles_) all = all.united(place.area().toRect());
    return pixelsAround(all);
}

PixelTilePtr PixelTiles::tile(TilePlace place) const {
    const auto found = tiles_.find(place);
    return found == tiles_.end() ? nullptr : found->second;
}

void PixelTiles::readRow(int x, int y, size_t n, uint8_t* out) const {
    const size_t pixel = format_.pixelBytes();
    for (const int end = x + int(n); x < end;) {
        const TilePlace place{placeOf(x), placeOf(y)};
        const IntRect area = place.area();
        const size_t part = size_t(std::min(end, area.right()) - x);
        if (const PixelTilePtr tile = this->tile(place))
            std::memcpy(
                out, tile->bytes.data() + (size_t(y - area.y) * kPixelTileSide + size_t(x - area.x)) * pixel,
                part * pixel);
        else
            std::memset(out, 0, part * pixel);
        out += part * pixel;
        x += int(part);
    }
}

void PixelTiles::change(const IntRect& area, const std::function<void(const PixelPart&)>& write) {
    if (area.empty()) return;
    const size_t pixel = format_.pixelBytes(), size = size_t(kPixelTileSide) * kPixelTileSide * pixel;
    for (int row = placeOf(area.y); row <= placeOf(area.bottom() - 1); ++row)
        for (int column = placeOf(area.x); column <= placeOf(area.right() - 1); ++column) {
            const TilePlace place{column, row};
            const PixelTilePtr before = tile(place);
            auto next = std::make_shared<PixelTile>();
            next->bytes = Buffer<uint8_t>(size);
            before ? std::memcpy(next->bytes.data(), before->bytes.data(), size)
                   : std::memset(next->bytes.data(), 0, size);
            const IntRect whole = place.area(), part = whole.intersected(area);
            write({part,
                   next->bytes.data() +
                       (size_t(part.y - whole.y) * kPixelTileSide + size_t(part.x - whole.x)) * pixel,
                   kPixelTileSide * pixel});
            next->hash = hashOf(next->bytes.data(), size);
            if (before && before->hash == next->hash) continue;
            if (isZero(next->bytes))
                tiles_.erase(place);
            else
                tiles_[place] = std::move(next);
        }
}

PixelHash PixelTiles::hash() const {
    std::vector<uint64_t> all{uint64_t(format_.channels), uint64_t(format_.bytesPerSample)};
    for (const auto& [place, tile] : tiles_)
        all.insert(all.end(), {uint64_t(uint32_t(place.column)), uint64_t(uint32_t(place.row)), tile->hash[0],
                               tile->hash[1]});
    return hashOf(all.data(), all.size() * sizeof(uint64_t));
}

size_t PixelTiles::bytes() const {
    size_t sum = 0;
    for (const auto& [place, tile] : tiles_) sum += tile->bytes.size();
    return sum;
}

std::vector<IntRect> changedTiles(const PixelTiles& before, const PixelTiles& after) {
    std::vector<IntRect> out;
    const auto differs = [](const PixelTilePtr& a, const PixelTilePtr& b) {
        return a != b && (!a || !b || a->hash != b->hash);
    };
    for (const auto& [place, tile] : after.tiles())
        if (differs(tile, before.tile(place))) out.push_back(place.area());
    for (const auto& [place, tile] : before.tiles())
        if (!after.tile(place)) out.push_back(place.area());
    return out;
}

} // namespace glyptos
