#include "raster/pixel_tiles.h"

#include <algorithm>
#include <cmath>
#include <cstring>
#include <iterator>
#include <tbb/parallel_for.h>
#include <xxhash.h>

namespace glyptos {
namespace {

/// The tile that holds a pixel, along one axis.
int placeOf(int pixel, int side = kPixelTileSide) {
    return pixel >= 0 ? pixel / side : -((-pixel + side - 1) / side);
}

PixelHash hashOf(const void* bytes, size_t count) {
    const XXH128_hash_t hash = XXH3_128bits(bytes, count);
    return {hash.low64, hash.high64};
}

} // namespace

TilePlace placeAt(int x, int y) {
    return {placeOf(x), placeOf(y)};
}

std::vector<TilePlace> placesIn(const IntRect& area) {
    std::vector<TilePlace> out;
    if (area.empty()) return out;
    for (int row = placeOf(area.y); row <= placeOf(area.bottom() - 1); ++row)
        for (int column = placeOf(area.x); column <= placeOf(area.right() - 1); ++column)
            out.push_back({column, row});
    return out;
}

IntRect PixelTiles::bounds() const {
    Rect all;
    for (const auto& [place, tile] : tiles_) {
        const IntRect area = place.area();
        const IntRect used{area.x + tile->used().x, area.y + tile->used().y, tile->used().w, tile->used().h};
        all = all.united(used.toRect());
    }
    return pixelsAround(all);
}

PixelTilePtr PixelTiles::tile(TilePlace place) const {
    const auto found = tiles_.find(place);
    return found == tiles_.end() ? nullptr : found->second;
}

void PixelTiles::readRow(int x, int y, size_t n, uint8_t* out, int level) const {
    const size_t pixel = format_.pixelBytes();
    const int side = kPixelTileSide >> level;
    for (const int end = x + int(n); x < end;) {
        const TilePlace place{placeOf(x, side), placeOf(y, side)};
        const int left = place.column * side, top = place.row * side;
        const size_t part = size_t(std::min(end, left + side) - x);
        if (const PixelTilePtr tile = this->tile(place))
            std::memcpy(out,
                        (*tile->pixels())[size_t(level)].data() +
                            (size_t(y - top) * size_t(side) + size_t(x - left)) * pixel,
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
    std::vector<std::pair<TilePlace, PixelTilePtr>> made;
    for (const TilePlace& place : placesIn(area)) made.emplace_back(place, nullptr);
    tbb::parallel_for(size_t(0), made.size(), [&](size_t i) {
        auto& [place, next] = made[i];
        const PixelTilePtr before = tile(place);
        Buffer<uint8_t> bytes(size);
        const auto there = before ? before->pixels() : nullptr;
        there ? std::memcpy(bytes.data(), (*there)[0].data(), size) : std::memset(bytes.data(), 0, size);
        const IntRect whole = place.area(), part = whole.intersected(area);
        write({part,
               bytes.data() + (size_t(part.y - whole.y) * kPixelTileSide + size_t(part.x - whole.x)) * pixel,
               kPixelTileSide * pixel});
        if (!there || std::memcmp((*there)[0].data(), bytes.data(), size) != 0)
            next = pixelTile(format_, std::move(bytes));
    });
    for (auto& [place, next] : made)
        if (next) put(place, std::move(next));
}

void PixelTiles::put(TilePlace place, PixelTilePtr tile) {
    if (tile->used().empty())
        tiles_.erase(place);
    else
        tiles_[place] = std::move(tile);
}

PixelHash PixelTiles::hash(const IntRect& area) const {
    std::vector<uint64_t> all{uint64_t(format_.channels), uint64_t(format_.bytesPerSample)};
    for (const auto& [place, tile] : tiles_)
        if (!place.area().intersected(area).empty())
            all.insert(all.end(), {uint64_t(uint32_t(place.column)), uint64_t(uint32_t(place.row)),
                                   tile->hash()[0], tile->hash()[1]});
    return hashOf(all.data(), all.size() * sizeof(uint64_t));
}

PixelHash PixelTiles::hash() const {
    return hash(bounds());
}

bool PixelTiles::operator==(const PixelTiles& other) const {
    const auto same = [](const auto& a, const auto& b) {
        return a.first == b.first && (a.second == b.second || a.second->hash() == b.second->hash());
    };
    return format_ == other.format_ &&
           std::equal(tiles_.begin(), tiles_.end(), other.tiles_.begin(), other.tiles_.end(), same);
}

size_t PixelTiles::bytes() const {
    size_t sum = 0;
    for (const auto& [place, tile] : tiles_) sum += tile->bytes();
    return sum;
}

std::vector<IntRect> changedTiles(const PixelTiles& before, const PixelTiles& after) {
    std::vector<IntRect> out;
    const auto differs = [](const PixelTilePtr& a, const PixelTilePtr& b) {
        return a != b && (!a || !b || a->hash() != b->hash());
    };
    for (const auto& [place, tile] : after.tiles())
        if (differs(tile, before.tile(place))) out.push_back(place.area());
    for (const auto& [place, tile] : before.tiles())
        if (!after.tile(place)) out.push_back(place.area());
    return out;
}

} // namespace glyptos
