#include "release/edits/mend_edits.h"

#include "release/edits/edit_steps.h"

#include <algorithm>

namespace glyptos {
namespace {

Placement inPixels(double pixel) {
    Placement out;
    out.scaleX = out.scaleY = pixel;
    return out;
}

bool mends(const Layer& layer, double pixel) {
    const auto* painted = layer.as<PaintedContent>();
    return painted && painted->holes && layer.placement == inPixels(pixel);
}

} // namespace

LayerPtr menderOf(const Stack& stack, std::string_view layer, double pixel) {
    size_t at = 0;
    const Stack* list = listOf(stack, layer, at);
    if (!list) return nullptr;
    if (mends(*(*list)[at], pixel)) return (*list)[at];
    return at > 0 && mends(*(*list)[at - 1], pixel) ? (*list)[at - 1] : nullptr;
}

Made withMender(const ReleasePtr& release, const PanelRef& panel, const std::string& layer, double pixel) {
    const Stack& stack = stackOf(*release, panel);
    if (const LayerPtr there = menderOf(stack, layer, pixel)) return {release, there->id};
    const LayerPtr meant = findLayer(stack, layer);
    Layer made;
    made.name = meant ? "Mend of " + meant->name : "Mend";
    made.content = PaintedContent{std::make_shared<const PixelTiles>(kPaintPixels),
                                  std::make_shared<const PixelTiles>(kMaskPixels)};
    made.placement = inPixels(pixel);
    return withLayer(release, panel, std::move(made), layer);
}

Stack stackBelow(const Stack& stack, std::string_view layer) {
    size_t at = 0;
    const Stack* list = listOf(stack, layer, at);
    return list ? Stack(list->begin() + ptrdiff_t(at) + 1, list->end()) : stack;
}

} // namespace glyptos
