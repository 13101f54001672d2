#include "file/release_json/warp_codec.h"

#include "file/release_json/painted_codec.h"

#include <cstring>

namespace glyptos {
namespace {

constexpr std::array<const char*, 3> kPulledIn{"edge", "mirror", "nothing"};
constexpr double kFarthest = 1e6; ///< of anything in a frame; shares of a box lie nearer

Json pointJson(Vec2 p) {
    return Json::list({p.x, p.y});
}

Vec2 readPoint(const Entry& entry) {
    std::array<double, 2> at{};
    entry.numbers(at);
    if (std::abs(at[0]) > kFarthest || std::abs(at[1]) > kFarthest) entry.wrong("lies too far away");
    return {at[0], at[1]};
}

Json toJson(const BendGrid& grid) {
    Json points = Json::list(), slopes = Json::list();
    for (size_t i = 0; i < grid.nodes.size(); ++i) {
        const BendNode& node = grid.nodes[i];
        points.push_back(pointJson(node.at));
        if (!node.across && !node.down) continue;
        Json dragged{{"node", int(i)}};
        if (node.across) dragged["across"] = pointJson(*node.across);
        if (node.down) dragged["down"] = pointJson(*node.down);
        slopes.push_back(std::move(dragged));
    }
    return {{"columns", grid.columns},
            {"rows", grid.rows},
            {"points", std::move(points)},
            {"slopes", std::move(slopes)}};
}

BendGrid readGrid(const Entry& entry) {
    BendGrid out{entry.whole("columns", 1, kMostBendCells), entry.whole("rows", 1, kMostBendCells), {}};
    entry.each("points", [&](const Entry& point) { out.nodes.push_back({readPoint(point), {}, {}}); });
    if (out.nodes.size() != size_t(out.columns + 1) * size_t(out.rows + 1))
        entry.wrong("has not as many points as its columns and rows need");
    entry.each("slopes", [&](const Entry& one) {
        BendNode& node = out.nodes[size_t(one.whole("node", 0, int(out.nodes.size()) - 1))];
        if (one.has("across")) node.across = readPoint(one.at("across"));
        if (one.has("down")) node.down = readPoint(one.at("down"));
    });
    return out;
}

Json toJson(const KneadField& field) {
    return {{"across", field.across},
            {"strength", field.strength},
            {"pulledIn", kPulledIn[size_t(field.pulledIn)]},
            {"tiles", toJson(*field.shifts)}};
}

/// What a damaged or hostile file could make a renderer read far away.
bool isNear(const PixelTiles& shifts) {
    for (const auto& [place, tile] : shifts.tiles()) {
        const auto levels = tile->pixels();
        const uint8_t* bytes = levels->front().data();
        for (size_t i = 0; i + sizeof(float) <= levels->front().size(); i += sizeof(float)) {
            float v = 0;
            std::memcpy(&v, bytes + i, sizeof v);
            if (!(std::abs(v) <= float(2 * kFinestKnead))) return false;
        }
    }
    return true;
}

KneadField readKnead(const Entry& entry, const TileSource& tiles) {
    KneadField out;
    out.across = entry.whole("across", 1, kFinestKnead);
    out.strength = entry.between("strength", 0, 1.5);
    out.pulledIn = entry.oneOf<PulledIn>("pulledIn", kPulledIn);
    const Entry listed = entry.at("tiles");
    out.shifts = readTiles(listed, kShiftPixels, tiles);
    if (!isNear(*out.shifts)) listed.wrong("move something too far");
    return out;
}

} // namespace

Json toJson(const Warp& warp) {
    Json out = Json::object();
    if (!warp.box.empty()) out["box"] = Json::list({warp.box.x, warp.box.y, warp.box.w, warp.box.h});
    if (warp.corners) {
        Json corners = Json::list();
        for (const Vec2& c : *warp.corners) corners.push_back(pointJson(c));
        out["corners"] = std::move(corners);
    }
    if (warp.bend) out["grid"] = toJson(warp.bend->grid());
    if (warp.knead) out["knead"] = toJson(*warp.knead);
    return out;
}

std::shared_ptr<const Warp> readWarp(const Entry& entry, const TileSource& tiles) {
    Warp out;
    if (entry.has("box")) {
        const auto box = entry.numbers<4>("box");
        out.box = {box[0], box[1], box[2], box[3]};
        if (out.box.empty() || std::abs(out.box.x) > kFarthest || std::abs(out.box.y) > kFarthest ||
            out.box.w > kFarthest || out.box.h > kFarthest)
            entry.wrong("warps a box that is empty or too large");
    }
    if (entry.has("corners")) {
        const Entry corners = entry.at("corners");
        out.corners.emplace();
        for (size_t i = 0; i < 4; ++i) (*out.corners)[i] = readPoint(corners.item(i, 4));
        if (!Homography::toCorners(*out.corners)) corners.wrong("make no plane");
    }
    if (entry.has("grid")) out.bend = std::make_shared<const BendSurface>(readGrid(entry.at("grid")));
    if (entry.has("knead"))
        out.knead = std::make_shared<const KneadField>(readKnead(entry.at("knead"), tiles));
    return out.empty() ? nullptr : std::make_shared<const Warp>(std::move(out));
}

} // namespace glyptos
