#include "release/edits/area_edits.h"

#include "release/edits/edit_steps.h"

#include <algorithm>

namespace glyptos {
namespace {

const PaintedMask* maskOf(const Layer& layer) {
    return layer.as<FillContent>() && layer.mask ? std::get_if<PaintedMask>(&layer.mask->form) : nullptr;
}

/// A group of fills in painted areas of that pixel, and of nothing else.
bool isColours(const Layer& layer, double pixel) {
    const auto* group = layer.as<GroupContent>();
    return group && !group->layers.empty() &&
           std::all_of(group->layers.begin(), group->layers.end(), [&](const LayerPtr& l) {
               const PaintedMask* mask = maskOf(*l);
               return mask && !mask->shows && l->mask->placement.scaleX == pixel && !l->warp;
           });
}

/// The values with the area added, or taken away.
PixelTilesPtr changed(const PixelTiles& values, const PixelTiles& area, bool add) {
    PixelTiles out = values;
    out.change(area.bounds(), [&](const PixelPart& part) {
        std::vector<uint8_t> row(size_t(part.area.w));
        for (int y = part.area.y; y < part.area.bottom(); ++y) {
            area.readRow(part.area.x, y, row.size(), row.data());
            uint8_t* to = part.row(y);
            for (size_t i = 0; i < row.size(); ++i)
                // Of the same rim nothing is left; the rim of a neighbour stays.
                to[i] = add               ? std::max(to[i], row[i])
                        : to[i] <= row[i] ? uint8_t(0)
                                          : std::min(to[i], uint8_t(255 - row[i]));
        }
    });
    return std::make_shared<const PixelTiles>(std::move(out));
}

LayerPtr withMask(const Layer& layer, PixelTilesPtr tiles) {
    Layer out = layer;
    Mask mask = *layer.mask;
    mask.form = PaintedMask{std::move(tiles), false};
    out.mask = std::make_shared<const Mask>(std::move(mask));
    return std::make_shared<const Layer>(std::move(out));
}

Layer fillOf(const Paint& paint, const PixelTiles& area, double pixel, size_t number) {
    Layer out;
    out.name = "Colour " + std::to_string(number);
    out.content = FillContent{paint};
    Mask mask;
    mask.form = PaintedMask{std::make_shared<const PixelTiles>(area), false};
    mask.placement.scaleX = mask.placement.scaleY = pixel;
    out.mask = std::make_shared<const Mask>(std::move(mask));
    return out;
}

} // namespace

ReleasePtr withAreaFilled(const ReleasePtr& release, const PanelRef& panel, const std::string& lines,
                          const PixelTiles& area, double pixel, const Paint& paint) {
    size_t at = 0;
    const Stack* list = listOf(stackOf(*release, panel), lines, at);
    if (!list || area.empty()) return release;
    const LayerPtr below = at + 1 < list->size() ? (*list)[at + 1] : nullptr;
    if (!below || !isColours(*below, pixel)) {
        const std::string name = (*list)[at]->name;
        Layer group;
        group.name = "Colours of " + name;
        group.content = GroupContent{{std::make_shared<const Layer>(fillOf(paint, area, pixel, 1))}, false};
        const Made made = withLayer(release, panel, std::move(group), lines);
        return withOrder(made.release, panel, {made.id}, Nearer::OneBack);
    }
    const auto& colours = below->as<GroupContent>()->layers;
    Stack next;
    bool isThere = false;
    for (const LayerPtr& layer : colours) {
        const bool isSame = layer->as<FillContent>()->paint == paint;
        isThere = isThere || isSame;
        const PixelTilesPtr tiles = changed(*maskOf(*layer)->tiles, area, isSame);
        if (!tiles->empty()) next.push_back(withMask(*layer, tiles));
    }
    ReleasePtr out = withChangedLayer(release, panel, below->id,
                                      [&](Layer& l) { std::get<GroupContent>(l.content).layers = next; });
    if (isThere) return out;
    Layer made = fillOf(paint, area, pixel, colours.size() + 1);
    if (!next.empty()) return withLayer(out, panel, std::move(made), next.front()->id).release;
    // The only one left nothing: it becomes this one.
    made.id = colours.front()->id;
    return withChangedLayer(release, panel, below->id, [&](Layer& l) {
        std::get<GroupContent>(l.content).layers = {std::make_shared<const Layer>(std::move(made))};
    });
}

} // namespace glyptos
