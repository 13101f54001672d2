#include "render/wall_layout.h"

#include "release/edits/edits.h"
#include "release/placing.h"
#include "release/wall.h"

#include <algorithm>

namespace glyptos {
namespace {

constexpr double kMargin = 60;

Rect boundsOf(const Layer& layer, const Release& release, ParagraphCache& paragraphs) {
    return frameOf(layer, release, release.wall->flat->panels.front().withBleed(), paragraphs).bounds();
}

} // namespace

std::vector<Rect> pinnedAreas(const Release& release, ParagraphCache& paragraphs) {
    std::vector<Rect> out;
    for (const LayerPtr& layer : stackOf(release, wallPanel()))
        if (layer->on) out.push_back(boundsOf(*layer, release, paragraphs));
    return out;
}

Rect wallArea(const Release& release, ParagraphCache& paragraphs) {
    Rect all;
    for (const Rect& r : pinnedAreas(release, paragraphs)) all = all.united(r);
    return all.empty() ? all : all.grown(kMargin);
}

ReleasePtr withRows(const ReleasePtr& release, const std::vector<std::string>& layers, double gap,
                    ParagraphCache& paragraphs) {
    std::vector<LayerPtr> moving;
    const Stack& stack = stackOf(*release, wallPanel());
    for (size_t i = stack.size(); i-- > 0;) {
        const bool asked =
            layers.empty() || std::find(layers.begin(), layers.end(), stack[i]->id) != layers.end();
        if (asked && stack[i]->on && !stack[i]->locked) moving.push_back(stack[i]);
    }
    std::vector<Rect> areas;
    areas.reserve(moving.size());
    for (const LayerPtr& layer : moving) areas.push_back(boundsOf(*layer, *release, paragraphs));
    const std::vector<Vec2> ways = inRows(areas, gap);
    ReleasePtr next = release;
    for (size_t i = 0; i < moving.size(); ++i)
        if (!(ways[i] == Vec2{}))
            next = withChangedLayer(next, wallPanel(), moving[i]->id,
                                    [&](Layer& l) { l = moved(std::move(l), ways[i]); });
    return next;
}

Made withPinned(const ReleasePtr& release, Layer layer, ParagraphCache& paragraphs) {
    const Rect bounds = boundsOf(layer, *release, paragraphs);
    const Vec2 place = freePlace(pinnedAreas(*release, paragraphs), bounds.w, bounds.h);
    return withLayer(release, wallPanel(), moved(std::move(layer), place - bounds.centre()));
}

} // namespace glyptos
