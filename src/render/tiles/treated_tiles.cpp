#include "render/tiles/treated_tiles.h"

#include "render/tiles/blend_bands.h"
#include "render/tiles/kept_composites.h"
#include "render/tiles/key_hash.h"
#include "render/tiles/layer_recipes.h"
#include "treat/filters.h"

#include <algorithm>
#include <cmath>

namespace glyptos {
namespace {

/// A tile that stands for all the layers: the one they are made of, when it needs nothing done to it.
TilePtr inputTile(std::vector<NamedLayer> names, const IntRect& cell, const TreatedSource& source,
                  Scratch& scratch) {
    if (names.empty()) return nullptr;
    if (names.size() == 1) {
        const NamedLayer& one = names.front();
        const auto* recipe = std::get_if<TileRecipe>(&one.rows);
        if (recipe && !recipe->blended && !one.mask && one.opacity >= 1 && one.blend == BlendMode::Normal)
            return keptTile(*recipe, source.tiles, scratch);
    }
    const TileKey key = KeyHash(kTreatedInput).add(nameOf(names, cell, source.linear)).key();
    return keptTile(
        {key, [&](Scratch& s) { return compositeTile(names, cell, source.tiles, s, TileSpace::Encoded); }},
        source.tiles, scratch);
}

void copyInto(const Tile& tile, const IntRect& cell, Planes& out) {
    constexpr float kSample = 1 / 65535.0f;
    const IntRect part = cell.intersected(out.area);
    for (int c = 0; c < 4; ++c)
        for (int y = part.y; y < part.bottom(); ++y) {
            const uint16_t* from = tile.row(c, y - cell.y) + (part.x - cell.x);
            float* to = out.row(c, y) + (part.x - out.area.x);
            for (int x = 0; x < part.w; ++x) to[x] = float(from[x]) * kSample;
        }
}

int latticeStart(int v) {
    return v - ((v % kTileSize) + kTileSize) % kTileSize;
}

/// Pixels of a level that the panel surely covers.
IntRect insideOf(const Rect& panel, const Affine& map) {
    const Rect there = map.mapBounds(panel);
    constexpr double kSlack = 1e-6;
    const int l = int(std::ceil(there.x - kSlack)), t = int(std::ceil(there.y - kSlack));
    return {l, t, int(std::floor(there.right() + kSlack)) - l, int(std::floor(there.bottom() + kSlack)) - t};
}

/// The layer at one level over an area; what lies beyond the panel goes on as at its edge.
Planes gathered(const TreatedSource& source, const Naming& name, int level, const IntRect& area,
                Scratch& scratch) {
    const Place place = source.place.coarser(level);
    Planes out(area);
    out.clear();
    for (int y = latticeStart(area.y); y < area.bottom(); y += kTileSize)
        for (int x = latticeStart(area.x); x < area.right(); x += kTileSize) {
            const IntRect cell{x, y, kTileSize, kTileSize};
            const TilePtr tile = inputTile(name(place.toOutput, cell), cell, source, scratch);
            if (tile && !tile->empty) copyInto(*tile, cell, out);
        }
    goOnBeyond(insideOf(place.panel, place.toOutput), out);
    return out;
}

RowPlanes rowOf(Planes& planes, int y) {
    RowPlanes out;
    for (int c = 0; c < 4; ++c) out.c[c] = planes.row(c, y);
    return out;
}

/// As much of the treated picture as opacity, blend and mask say, over the one before.
void mix(const Treatment& treatment, Planes below, const Tile* mask, const IntRect& region, Planes& treated) {
    const auto n = size_t(region.w);
    Buffer<float> share(roundUpLanes(n));
    std::fill_n(share.data(), n, 1.0f);
    for (int y = region.y; y < region.bottom(); ++y) {
        if (mask) unpackPlane(mask->row(0, y - region.y), share.data(), n);
        const RowPlanes over = rowOf(treated, y), under = rowOf(below, y);
        const auto opacity = float(treatment.opacity);
        if (treatment.blend == BlendMode::Normal) {
            for (int c = 0; c < 4; ++c)
                for (size_t x = 0; x < n; ++x)
                    over.c[c][x] = under.c[c][x] + (over.c[c][x] - under.c[c][x]) * share[x] * opacity;
            continue;
        }
        for (float* plane : over.c)
            for (size_t x = 0; x < n; ++x) plane[x] *= share[x];
        blendRow(treatment.blend, under, over, opacity, n);
        for (int c = 0; c < 4; ++c) std::copy_n(under.c[c], n, over.c[c]);
    }
}

Tile packed(const Planes& planes) {
    const IntRect& region = planes.area;
    Tile out(region.w, region.h);
    for (int y = region.y; y < region.bottom(); ++y) {
        const float* alpha = planes.row(3, y);
        for (int c = 0; c < 4; ++c) {
            const float* from = planes.row(c, y);
            uint16_t* to = out.row(c, y - region.y);
            for (int x = 0; x < region.w; ++x) {
                const float most = std::clamp(alpha[x], 0.0f, 1.0f);
                to[x] = nearestSample(std::clamp(from[x], 0.0f, most) * 65535);
            }
        }
    }
    out.settle();
    return out;
}

} // namespace

TilePtr keptTile(const TileRecipe& recipe, TileCache& tiles, Scratch& scratch) {
    TilePtr tile = tiles.find(recipe.key);
    if (!tile) {
        tile = std::make_shared<const Tile>(recipe.make(scratch));
        tiles.insert(recipe.key, tile);
    }
    return tile;
}

Tile treatedTile(const Treatment& treatment, const TreatedSource& source,
                 const std::optional<TileRecipe>& mask, const IntRect& region, Scratch& scratch) {
    const TreatmentKind& kind = *treatment.kind;
    std::vector<Planes> inputs;
    for (const Need& need : kind.needs(treatment.figures, source.place)) {
        const IntRect there = atLevel(region, need.level);
        inputs.push_back(gathered(
            source, source.name, need.level,
            {there.x - need.reach, there.y - need.reach, there.w + 2 * need.reach, there.h + 2 * need.reach},
            scratch));
    }
    const TilePtr share = mask ? keptTile(*mask, source.tiles, scratch) : nullptr;
    const bool whole = treatment.opacity >= 1 && treatment.blend == BlendMode::Normal && !share;
    Planes out(region);
    if (inputs.empty()) return packed(gathered(source, source.name, 0, region, scratch));
    std::vector<Planes> pictures;
    for (const Naming& name : source.pictures)
        pictures.push_back(name ? gathered(source, name, 0, region, scratch) : Planes());
    kind.draw({treatment.figures, source.place, inputs, pictures}, out);
    if (!whole) mix(treatment, gathered(source, source.name, 0, region, scratch), share.get(), region, out);
    return packed(out);
}

} // namespace glyptos
