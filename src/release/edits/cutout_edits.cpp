#include "release/edits/cutout_edits.h"

#include "release/edits/edit_steps.h"
#include "release/placing.h"
#include "release/walks.h"

#include <algorithm>

namespace glyptos {
namespace {

/// From the corner of a picture on, one unit a pixel.
Placement cornerOf(const Placement& placement, const Source& source) {
    Placement out = placement;
    out.position = placementMap(placement).map({-source.width / 2.0, -source.height / 2.0});
    return out;
}

Mask maskOf(const PaintedMask& painted, const Placement& corner) {
    Mask out;
    out.form = painted;
    out.placement = corner;
    return out;
}

/// The group that a layer is in, or none, and where in it.
std::pair<std::string, size_t> placeIn(const Stack& stack, const std::string& layer) {
    size_t at = 0;
    const Stack* list = listOf(stack, layer, at);
    const LayerPtr group = firstLayer(stack, [&](const Layer& l) {
        const auto* inside = l.as<GroupContent>();
        return inside && &inside->layers == list;
    });
    return {group ? group->id : std::string(), at};
}

} // namespace

LayerPtr edgeColoursOf(const Stack& stack, std::string_view layer) {
    for (size_t i = 0; i < stack.size(); ++i) {
        if (stack[i]->id == layer)
            return i > 0 && stack[i - 1]->clipped && stack[i - 1]->as<PaintedContent>() ? stack[i - 1]
                                                                                        : nullptr;
        if (const auto* group = stack[i]->as<GroupContent>())
            if (LayerPtr found = edgeColoursOf(group->layers, layer)) return found;
    }
    return nullptr;
}

std::string wholeFigureOf(const Stack& stack, const std::string& layer) {
    if (!edgeColoursOf(stack, layer)) return layer;
    const LayerPtr group = firstLayer(stack, [&](const Layer& one) {
        const auto* content = one.as<GroupContent>();
        return content && std::any_of(content->layers.begin(), content->layers.end(),
                                      [&](const LayerPtr& child) { return child->id == layer; });
    });
    return group ? group->id : layer;
}

namespace {

SourcePtr sourceOf(const Layer& layer, const Release& release) {
    const auto* content = layer.as<PictureContent>();
    return content ? release.source(content->source) : nullptr;
}

} // namespace

bool isCutOut(const Layer& layer, const Release& release) {
    const SourcePtr source = sourceOf(layer, release);
    const auto* painted = layer.mask ? std::get_if<PaintedMask>(&layer.mask->form) : nullptr;
    return source && painted && layer.mask->placement == cornerOf(layer.placement, *source);
}

ReleasePtr withEdgeColours(const ReleasePtr& release, const PanelRef& panel, const std::string& layer,
                           const PixelTilesPtr& edges) {
    const Stack& stack = stackOf(*release, panel);
    const LayerPtr meant = findLayer(stack, layer);
    const SourcePtr source = meant ? sourceOf(*meant, *release) : nullptr;
    if (!source) return release;
    const LayerPtr old = edgeColoursOf(stack, layer);
    if (!edges) return old ? withoutLayer(release, panel, old->id) : release;
    const auto set = [&](Layer& l) {
        l.content = PaintedContent{edges, nullptr};
        l.placement = cornerOf(meant->placement, *source);
    };
    if (old) return withChangedLayer(release, panel, old->id, set);
    Layer clean;
    clean.name = "Edge colours of " + meant->name;
    clean.clipped = true;
    set(clean);
    const Made made = withLayer(release, panel, std::move(clean), layer);
    const auto grouped = withGrouped(made.release, panel, {made.id, layer});
    if (!grouped) return made.release;
    return withChangedLayer(grouped->release, panel, grouped->id,
                            [&](Layer& l) { l.name = meant->name + ", cut out"; });
}

Made withCutOut(const ReleasePtr& release, const PanelRef& panel, const std::string& layer,
                const PixelTilesPtr& alpha, const PixelTilesPtr& edges,
                const std::shared_ptr<const CutoutHints>& hints) {
    const LayerPtr meant = findLayer(stackOf(*release, panel), layer);
    const SourcePtr source = meant ? sourceOf(*meant, *release) : nullptr;
    if (!source) return {release, {}};
    const ReleasePtr masked = withChangedLayer(release, panel, layer, [&](Layer& l) {
        l.mask =
            std::make_shared<const Mask>(maskOf({alpha, false, hints}, cornerOf(meant->placement, *source)));
    });
    return {withEdgeColours(masked, panel, layer, edges), layer};
}

ReleasePtr withWordsBehind(const ReleasePtr& release, const PanelRef& panel, const std::string& words,
                           const std::string& picture) {
    const Stack& stack = stackOf(*release, panel);
    const auto [list, at] = placeIn(stack, wholeFigureOf(stack, picture));
    return withMovedLayer(release, panel, words, list, at + 1);
}

Made withWordsInside(const ReleasePtr& release, const PanelRef& panel, const std::string& words,
                     const std::string& picture, const PixelTilesPtr& alpha, const PixelTilesPtr& edges) {
    const Stack& stack = stackOf(*release, panel);
    const LayerPtr ground = findLayer(stack, picture);
    if (!ground || !ground->as<PictureContent>() || !findLayer(stack, words)) return {release, {}};
    const auto [list, at] = placeIn(stack, picture);
    const ReleasePtr between = withMovedLayer(release, panel, words, list, at);
    Layer figure = *ground;
    figure.id.clear();
    const Made made = withLayer(between, panel, std::move(figure), words);
    return withCutOut(made.release, panel, made.id, alpha, edges);
}

} // namespace glyptos
