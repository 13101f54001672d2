#include "render/kept_composites.h"

#include "render/key_hash.h"
#include "render/stack_preparer.h"

#include <algorithm>
#include <cmath>

namespace glyptos {
namespace {

enum Kind : int { kComposite = 100 };

using Layers = std::vector<PreparedLayer>;

Tile compositeTile(const Layers& layers, const IntRect& region, Scratch& scratch) {
    Tile tile(region.w, region.h);
    for (int y = region.y; y < region.bottom(); y += kBandRows) {
        const int rows = std::min(kBandRows, region.bottom() - y);
        blendBand(layers, y, rows, region, scratch, 0);
        for (int r = 0; r < rows; ++r)
            for (int c = 0; c < 4; ++c) {
                const float* from = scratch.band(0).row(r).c[c];
                uint16_t* to = tile.row(c, y + r - region.y);
                for (int x = 0; x < region.w; ++x)
                    to[x] = nearestSample(std::clamp(from[x], 0.0f, 1.0f) * 65535);
            }
    }
    tile.settle();
    return tile;
}

/// One layer that looks like all of `layers` over nothing.
PreparedLayer merged(const Layers& layers, const IntRect& region, TileCache& tiles, Scratch& scratch) {
    KeyHash hash(kComposite);
    hash.add(scratch.linear).add(region);
    for (const PreparedLayer& layer : layers) hash.add(layer.key).add(layer.blend).add(layer.opacity);
    PreparedLayer out;
    out.key = hash.key();
    const TilePtr tile = keptTile(tiles, out.key, [&] { return compositeTile(layers, region, scratch); });
    out.opaque = tile->opaque;
    out.rows = TileRows{tile, true};
    return out;
}

/// Only Normal layers can be put together without what lies below them; what passes through meets it.
bool standsAlone(const PreparedLayer& layer) {
    const auto* group = std::get_if<GroupRows>(&layer.rows);
    return layer.blend == BlendMode::Normal && !(group && group->kind == GroupKind::Passing);
}

} // namespace

void keepComposites(Layers& layers, const IntRect& region, TileCache& tiles, Scratch& scratch) {
    const auto hand =
        std::find_if(layers.begin(), layers.end(), [](const PreparedLayer& l) { return l.inHand; });
    if (hand == layers.end()) return;
    Layers below(std::make_move_iterator(layers.begin()), std::make_move_iterator(hand));
    Layers above(std::make_move_iterator(hand + 1), std::make_move_iterator(layers.end()));
    Layers out;
    const auto put = [&](Layers& part, bool together) {
        if (part.size() > 1 && together)
            out.push_back(merged(part, region, tiles, scratch));
        else
            std::move(part.begin(), part.end(), std::back_inserter(out));
    };
    put(below, true);
    out.push_back(std::move(*hand));
    put(above, std::all_of(above.begin(), above.end(), standsAlone));
    layers = std::move(out);
}

} // namespace glyptos
