#include "render/tiles/key_hash.h"

#include "raster/warp/remap.h"

namespace glyptos {
namespace {

void add(KeyHash& hash, const BendGrid& grid) {
    hash.add(grid.columns).add(grid.rows);
    for (const BendNode& node : grid.nodes) hash.add(node.at).add(node.across).add(node.down);
}

/// The nodes of the field within an area of the frame, with those that the cubic reads round it.
IntRect nodesIn(const KneadStage& stage, const Rect& area) {
    const double k = 1 / stage.step();
    return pixelsAround(
        Rect{(area.x - stage.box.x) * k, (area.y - stage.box.y) * k, area.w * k, area.h * k}.grown(3));
}

/// What shifts anything within `wanted`, and where: a tile of them is a large part of a picture.
void add(KeyHash& hash, const PixelTiles& shifts, const IntRect& wanted) {
    const IntRect area = wanted.intersected(shifts.bounds());
    if (area.empty()) return;
    std::vector<uint64_t> row(size_t(area.w)); // a node each
    const auto isShifted = [](uint64_t node) { return node != 0; };
    for (int y = area.y; y < area.bottom(); ++y) {
        shifts.readRow(area.x, y, row.size(), reinterpret_cast<uint8_t*>(row.data()));
        const auto first = std::find_if(row.begin(), row.end(), isShifted);
        if (first == row.end()) continue;
        const auto last = std::find_if(row.rbegin(), row.rend(), isShifted).base();
        hash.add(y).add(area.x + int(first - row.begin())).addRow({first, last});
    }
}

} // namespace

void addMapping(KeyHash& hash, const Mapping& mapping, const IntRect& region) {
    if (const auto affine = mapping.affine()) {
        hash.add(*affine);
        return;
    }
    const auto& stages = mapping.stages();
    // With what the blocks of a tile reach beyond it.
    const std::vector<Rect> reaches = reachesOf(mapping, region.toRect().grown(2 * kRemapBlock));
    hash.add(stages.size());
    for (size_t i = 0; i < stages.size(); ++i) {
        hash.add(stages[i].index());
        if (const auto* a = std::get_if<Affine>(&stages[i])) hash.add(*a);
        if (const auto* h = std::get_if<Homography>(&stages[i]))
            for (const double v : h->figures()) hash.add(v);
        if (const auto* b = std::get_if<BendStage>(&stages[i])) {
            hash.add(b->box);
            add(hash, b->surface->grid());
        }
        if (const auto* k = std::get_if<KneadStage>(&stages[i])) {
            hash.add(k->box).add(k->field->across).add(k->field->strength).add(k->field->pulledIn);
            const size_t reach = stages.size() - 1 - i;
            if (reach < reaches.size()) add(hash, *k->field->shifts, nodesIn(*k, reaches[reach]));
        }
    }
}

} // namespace glyptos
