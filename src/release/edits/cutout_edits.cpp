#include "release/edits/cutout_edits.h"

#include "release/placing.h"

#include <algorithm>

namespace glyptos {
namespace {

/// From the corner of a picture on, one unit a pixel.
Placement cornerOf(const Placement& placement, const Source& source) {
    Placement out = placement;
    out.position = placementMap(placement).map({-source.width / 2.0, -source.height / 2.0});
    return out;
}

Mask maskOf(const PixelTilesPtr& alpha, const Placement& corner) {
    Mask out;
    out.form = PaintedMask{alpha, false};
    out.placement = corner;
    return out;
}

/// The layer of edge colours directly in front of a cut-out, when there is one.
LayerPtr edgesOf(const Stack& list, std::string_view layer) {
    for (size_t i = 0; i < list.size(); ++i) {
        if (list[i]->id == layer)
            return i > 0 && list[i - 1]->clipped && list[i - 1]->as<PaintedContent>() ? list[i - 1] : nullptr;
        if (const auto* group = list[i]->as<GroupContent>())
            if (LayerPtr found = edgesOf(group->layers, layer)) return found;
    }
    return nullptr;
}

} // namespace

Made withCutOut(const ReleasePtr& release, const PanelRef& panel, const std::string& layer,
                const PixelTilesPtr& alpha, const PixelTilesPtr& edges) {
    const LayerPtr meant = findLayer(stackOf(*release, panel), layer);
    const auto* content = meant ? meant->as<PictureContent>() : nullptr;
    const SourcePtr source = content ? release->source(content->source) : nullptr;
    if (!source) return {release, {}};
    const Placement corner = cornerOf(meant->placement, *source);
    ReleasePtr next = withChangedLayer(release, panel, layer, [&](Layer& l) {
        l.mask = std::make_shared<const Mask>(maskOf(alpha, corner));
    });
    const LayerPtr old = edgesOf(stackOf(*next, panel), layer);
    if (old) {
        if (!edges) return {withoutLayer(next, panel, old->id), layer};
        return {withChangedLayer(next, panel, old->id,
                                 [&](Layer& l) {
                                     l.content = PaintedContent{edges, nullptr};
                                     l.placement = corner;
                                 }),
                layer};
    }
    if (!edges) return {next, layer};
    Layer clean;
    clean.name = "Edge colours of " + meant->name;
    clean.content = PaintedContent{edges, nullptr};
    clean.placement = corner;
    clean.clipped = true;
    const Made made = withLayer(next, panel, std::move(clean), layer);
    const auto grouped = withGrouped(made.release, panel, {made.id, layer});
    if (!grouped) return {made.release, layer};
    next = withChangedLayer(grouped->release, panel, grouped->id,
                            [&](Layer& l) { l.name = meant->name + ", cut out"; });
    return {next, layer};
}

} // namespace glyptos
