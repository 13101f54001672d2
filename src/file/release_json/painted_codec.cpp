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
        out.push_back(Json::list({place.column, place.row, tileName(tile->hash())}));
    return out;
}

Json toJson(const CutoutHints& hints) {
    Json strokes = Json::list();
    for (const HintStroke& s : hints.strokes) {
        Json points = Json::list();
        for (const Vec2& p : s.points) points.push_back(Json::list({p.x, p.y}));
        strokes.push_back({{"figure", s.figure}, {"radius", s.radius}, {"points", std::move(points)}});
    }
    Json out{{"strokes", std::move(strokes)}};
    if (!hints.box.empty()) out["box"] = Json::list({hints.box.x, hints.box.y, hints.box.w, hints.box.h});
    return out;
}

CutoutHints readHints(const Entry& entry) {
    constexpr double kLargest = 1e6; // px: no picture is larger
    CutoutHints out;
    if (entry.has("box")) {
        std::array<double, 4> box{};
        entry.at("box").numbers(box);
        out.box = {box[0], box[1], box[2], box[3]};
    }
    entry.at("strokes").each([&](const Entry& one) {
        HintStroke stroke;
        stroke.figure = one.flag("figure");
        stroke.radius = one.between("radius", 0, kLargest);
        one.each("points", [&](const Entry& point) {
            std::array<double, 2> at{};
            point.numbers(at);
            stroke.points.push_back({at[0], at[1]});
        });
        out.strokes.push_back(std::move(stroke));
    });
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
