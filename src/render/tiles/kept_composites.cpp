#include "render/tiles/kept_composites.h"

#include "raster/light.h"
#include "render/tiles/blend_bands.h"
#include "render/tiles/stack_preparer.h"

#include <algorithm>
#include <cmath>

namespace glyptos {
namespace {

using Names = std::vector<NamedLayer>;

/// One layer that looks like all of `names` over nothing.
NamedLayer merged(Names names, const IntRect& region, bool linear, TileCache& tiles) {
    NamedLayer out;
    out.key = nameOf(names, region, linear);
    out.rows = TileRecipe{out.key,
                          [names = std::move(names), region, &tiles](Scratch& scratch) {
                              return compositeTile(names, region, tiles, scratch, TileSpace::Blended);
                          },
                          true};
    return out;
}

/// Only Normal layers can be put together without what lies below them; what passes through meets it, and a
/// grade recolours it.
bool standsAlone(const NamedLayer& layer) {
    const auto* group = std::get_if<NamedGroup>(&layer.rows);
    if (std::holds_alternative<GradeRecipe>(layer.rows)) return false;
    return layer.blend == BlendMode::Normal && !(group && group->kind == GroupKind::Passing);
}

} // namespace

Tile compositeTile(const std::vector<NamedLayer>& names, const IntRect& region, TileCache& tiles,
                   Scratch& scratch, TileSpace space) {
    const auto layers = prepared(names, tiles, scratch);
    Tile tile(region.w, region.h);
    const int most = bandRows(region.w);
    for (int y = region.y; y < region.bottom(); y += most) {
        const int rows = std::min(most, region.bottom() - y);
        blendBand(layers, {region, y, rows}, scratch, 0);
        for (int r = 0; r < rows; ++r) {
            if (space == TileSpace::Encoded && scratch.linear)
                toEncodedRow(scratch.band(0).row(r), size_t(region.w));
            for (int c = 0; c < 4; ++c) {
                const float* from = scratch.band(0).row(r).c[c];
                uint16_t* to = tile.row(c, y + r - region.y);
                for (int x = 0; x < region.w; ++x)
                    to[x] = nearestSample(std::clamp(from[x], 0.0f, 1.0f) * 65535);
            }
        }
    }
    tile.settle();
    return tile;
}

void keepComposites(Names& layers, const IntRect& region, bool linear, TileCache& tiles) {
    const auto hand =
        std::find_if(layers.begin(), layers.end(), [](const NamedLayer& l) { return l.inHand; });
    if (hand == layers.end()) return;
    Names above(std::make_move_iterator(layers.begin()), std::make_move_iterator(hand));
    Names below(std::make_move_iterator(hand + 1), std::make_move_iterator(layers.end()));
    Names out;
    const auto put = [&](Names& part, bool together) {
        if (part.size() > 1 && together)
            out.push_back(merged(std::move(part), region, linear, tiles));
        else
            std::move(part.begin(), part.end(), std::back_inserter(out));
    };
    put(above, std::all_of(above.begin(), above.end(), standsAlone));
    out.push_back(std::move(*hand));
    put(below, true);
    layers = std::move(out);
}

} // namespace glyptos
