#include "raster/pixel_tiles.h"

#include "raster/mean.h"

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

/// The pixels of a tile that are not all zero.
IntRect usedOf(const Buffer<uint8_t>& bytes, size_t pixel) {
    const size_t row = kPixelTileSide * pixel;
    int left = kPixelTileSide, right = 0, top = kPixelTileSide, bottom = 0;
    for (int y = 0; y < kPixelTileSide; ++y) {
        const uint8_t *first = bytes.data() + size_t(y) * row, *last = first + row;
        const auto isUsed = [](uint8_t v) { return v != 0; };
        const uint8_t* from = std::find_if(first, last, isUsed);
        if (from == last) continue;
        const uint8_t* to =
            std::find_if(std::reverse_iterator(last), std::reverse_iterator(from), isUsed).base();
        left = std::min(left, int(size_t(from - first) / pixel));
        right = std::max(right, int((size_t(to - first) + pixel - 1) / pixel));
        top = std::min(top, y), bottom = y + 1;
    }
    return right > left ? IntRect{left, top, right - left, bottom - top} : IntRect{};
}

template <class T>
void halve(const Buffer<uint8_t>& from, int side, int channels, Buffer<uint8_t>& to) {
    const auto* in = reinterpret_cast<const T*>(from.data());
    auto* out = reinterpret_cast<T*>(to.data());
    const ptrdiff_t pixel = channels, row = side * pixel;
    for (int y = 0; y < side / 2; ++y)
        for (int x = 0; x < side / 2; ++x, out += pixel) {
            const T* at = in + ptrdiff_t(2) * y * row + ptrdiff_t(2) * x * pixel;
            if (channels == 4)
                meanOf<T>({at, at + 4, at + row, at + row + 4}, out);
            else
                *out = static_cast<T>((uint32_t(at[0]) + at[1] + at[row] + at[row + 1] + 2) / 4);
        }
}

} // namespace

PixelTilePtr pixelTile(const PixelFormat& format, Buffer<uint8_t> bytes) {
    auto out = std::make_shared<PixelTile>();
    out->hash = hashOf(bytes.data(), bytes.size());
    out->used = usedOf(bytes, format.pixelBytes());
    out->levels[0] = std::move(bytes);
    if (format.bytesPerSample == 4) {
        const auto* values = reinterpret_cast<const float*>(out->levels[0].data());
        for (size_t i = 0; i < out->levels[0].size() / sizeof(float); ++i)
            out->farthest = std::max(out->farthest, std::abs(values[i]));
        return out;
    }
    for (size_t k = 1; k < out->levels.size(); ++k) {
        const int side = kPixelTileSide >> (k - 1);
        out->levels[k] = Buffer<uint8_t>(size_t(side / 2) * size_t(side / 2) * format.pixelBytes());
        (format.bytesPerSample == 2 ? halve<uint16_t> : halve<uint8_t>)(out->levels[k - 1], side,
                                                                        format.channels, out->levels[k]);
    }
    return out;
}

IntRect PixelTiles::bounds() const {
    Rect all;
    for (const auto& [place, tile] : tiles_) {
        const IntRect area = place.area();
        const IntRect used{area.x + tile->used.x, area.y + tile->used.y, tile->used.w, tile->used.h};
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
                        tile->levels[size_t(level)].data() +
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
    for (int row = placeOf(area.y); row <= placeOf(area.bottom() - 1); ++row)
        for (int column = placeOf(area.x); column <= placeOf(area.right() - 1); ++column)
            made.emplace_back(TilePlace{column, row}, nullptr);
    tbb::parallel_for(size_t(0), made.size(), [&](size_t i) {
        auto& [place, next] = made[i];
        const PixelTilePtr before = tile(place);
        Buffer<uint8_t> bytes(size);
        before ? std::memcpy(bytes.data(), before->levels[0].data(), size)
               : std::memset(bytes.data(), 0, size);
        const IntRect whole = place.area(), part = whole.intersected(area);
        write({part,
               bytes.data() + (size_t(part.y - whole.y) * kPixelTileSide + size_t(part.x - whole.x)) * pixel,
               kPixelTileSide * pixel});
        if (!before || std::memcmp(before->levels[0].data(), bytes.data(), size) != 0)
            next = pixelTile(format_, std::move(bytes));
    });
    for (auto& [place, next] : made)
        if (next) put(place, std::move(next));
}

void PixelTiles::put(TilePlace place, PixelTilePtr tile) {
    if (tile->used.empty())
        tiles_.erase(place);
    else
        tiles_[place] = std::move(tile);
}

PixelHash PixelTiles::hash(const IntRect& area) const {
    std::vector<uint64_t> all{uint64_t(format_.channels), uint64_t(format_.bytesPerSample)};
    for (const auto& [place, tile] : tiles_)
        if (!place.area().intersected(area).empty())
            all.insert(all.end(), {uint64_t(uint32_t(place.column)), uint64_t(uint32_t(place.row)),
                                   tile->hash[0], tile->hash[1]});
    return hashOf(all.data(), all.size() * sizeof(uint64_t));
}

PixelHash PixelTiles::hash() const {
    return hash(bounds());
}

bool PixelTiles::operator==(const PixelTiles& other) const {
    const auto same = [](const auto& a, const auto& b) {
        return a.first == b.first && (a.second == b.second || a.second->hash == b.second->hash);
    };
    return format_ == other.format_ &&
           std::equal(tiles_.begin(), tiles_.end(), other.tiles_.begin(), other.tiles_.end(), same);
}

size_t PixelTiles::bytes() const {
    size_t sum = 0;
    for (const auto& [place, tile] : tiles_)
        for (const Buffer<uint8_t>& level : tile->levels) sum += level.size();
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
