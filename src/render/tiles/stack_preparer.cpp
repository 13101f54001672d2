#include "render/tiles/stack_preparer.h"

#include "render/tiles/blend_bands.h"
#include "render/tiles/treated_tiles.h"

#include <algorithm>

namespace glyptos {
namespace {

class Preparer {
  public:
    Preparer(TileCache& tiles, Scratch& scratch)
        : tiles_(tiles)
        , scratch_(scratch) {}

    std::vector<PreparedLayer> stack(const std::vector<NamedLayer>& names) {
        std::vector<PreparedLayer> out;
        for (const NamedLayer& name : names) {
            PreparedLayer layer;
            if (!one(name, layer)) continue;
            out.push_back(std::move(layer));
            if (out.back().opaque) break;
        }
        std::reverse(out.begin(), out.end());
        return out;
    }

  private:
    /// False when the layer changes nothing in this tile.
    bool one(const NamedLayer& name, PreparedLayer& out) {
        const bool shown =
            std::visit([&](const auto& rows) { return draw(rows, name, out); }, name.rows) && mask(name, out);
        if (!shown) {
            if (infoOf(name.blend).keepsBackdrop) return false;
            out = {}; // nothing, which still takes the backdrop away
        }
        out.blend = name.blend;
        out.opacity = name.opacity;
        out.opaque = out.opaque && name.blend == BlendMode::Normal && name.opacity >= 1;
        return true;
    }

    // What a layer shows before its mask. False when that is nothing.
    static bool draw(const Nothing&, const NamedLayer&, PreparedLayer&) { return false; }
    static bool draw(const SolidRows& rows, const NamedLayer& name, PreparedLayer& out) {
        out.rows = rows;
        out.opaque = name.opaque;
        return true;
    }
    static bool draw(const PictureRows& rows, const NamedLayer& name, PreparedLayer& out) {
        out.rows = rows;
        out.opaque = name.opaque;
        return true;
    }
    bool draw(const TileRecipe& recipe, const NamedLayer&, PreparedLayer& out) {
        const TilePtr tile = tileOf(recipe);
        out.opaque = tile->opaque;
        out.rows = TileRows{tile, recipe.blended};
        return !tile->empty;
    }
    bool draw(const NamedGroup& group, const NamedLayer&, PreparedLayer& out) {
        GroupRows rows{group.kind == GroupKind::Clip ? clip(group) : stack(group.layers), group.kind};
        if (rows.layers.empty()) return false;
        if (group.kind == GroupKind::Clip && rows.layers.size() == 1) rows.kind = GroupKind::Isolated;
        out.opaque = rows.layers.front().opaque &&
                     std::none_of(rows.layers.begin(), rows.layers.end(),
                                  [](const PreparedLayer& l) { return cutsBackdrop(l.blend); });
        out.rows = std::move(rows);
        return true;
    }

    bool draw(const GradeRecipe& recipe, const NamedLayer&, PreparedLayer& out) {
        GradeRows rows;
        for (const GradeRecipe::Step& step : recipe.steps) {
            const Treatment& t = *step.treatment;
            GradeStep ready{recipe.ready.get().get(step.key, *t.kind, t.figures, recipe.place),
                            float(t.opacity), t.blend, step.mask ? tileOf(*step.mask) : nullptr};
            if (ready.grade->op && !(ready.mask && ready.mask->empty)) rows.steps.push_back(std::move(ready));
        }
        const bool changes = !rows.steps.empty();
        out.rows = std::move(rows);
        return changes;
    }

    /// The base and what shows inside it, back to front; none when the base shows nothing.
    std::vector<PreparedLayer> clip(const NamedGroup& group) {
        std::vector<PreparedLayer> out;
        for (auto name = group.layers.rbegin(); name != group.layers.rend(); ++name) {
            PreparedLayer layer;
            if (one(*name, layer))
                out.push_back(std::move(layer));
            else if (out.empty())
                break;
        }
        return out;
    }

    /// False when the mask hides all of the layer here.
    bool mask(const NamedLayer& name, PreparedLayer& out) {
        if (!name.mask) return true;
        const TilePtr tile = tileOf(*name.mask);
        if (tile->opaque) return true;
        out.mask = tile;
        out.opaque = false;
        return !tile->empty;
    }

    TilePtr tileOf(const TileRecipe& recipe) { return keptTile(recipe, tiles_, scratch_); }

    TileCache& tiles_;
    Scratch& scratch_;
};

} // namespace

std::vector<PreparedLayer> prepared(const std::vector<NamedLayer>& names, TileCache& tiles,
                                    Scratch& scratch) {
    return Preparer(tiles, scratch).stack(names);
}

} // namespace glyptos
