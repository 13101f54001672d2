#include "file/release_json/painted_codec.h"

#include <array>
#include <cstdio>

namespace glyptos {
namespace {
constexpr int kFarthest = 4096; ///< tiles from the first: over a million pixels
} // namespace

std::string tileName(const PixelHash& hash) {
    std::array<char, 33> out{};
    std::snprintf(out.data(), out.size(), "%016llx%016llx", static_cast<unsigned long long>(hash[1]),
                  static_cast<unsigned long long>(hash[0]));
    return out.data();
}

Json toJson(const PixelTiles& tiles) {
    Json out = Json::list();
    for (const auto& [place, tile] : tiles.tiles())
        out.push_back(Json::list({place.column, place.row, tileName(tile->hash)}));
    return out;
}

PixelTilesPtr readTiles(const Entry& entry, const PixelFormat& format, const TileSource& source) {
    auto out = std::make_shared<PixelTiles>(format);
    entry.each([&](const Entry& one) {
        const TilePlace place{one.item(0, 3).whole(-kFarthest, kFarthest),
                              one.item(1, 3).whole(-kFarthest, kFarthest)};
        auto tile = source(one.item(2, 3).text(), format);
        if (!tile) throw Wrong{tile.error().fault, one.path() + ": " + tile.error().message};
        if (out->tile(place)) one.wrong("is a second tile of one place");
        out->put(place, std::move(*tile));
    });
    return out;
}

} // namespace glyptos
