#include "app/bench/mask_look.h"

#include "app/widgets/colours.h"
#include "app/widgets/theme.h"

namespace glyptos {
namespace {

LayerPtr fill(const char* id, const Rgba& colour, const std::shared_ptr<const Mask>& mask) {
    Layer layer;
    layer.id = id;
    layer.content = FillContent{colour};
    layer.mask = mask;
    return std::make_shared<const Layer>(std::move(layer));
}

} // namespace

Scene withMaskShown(Scene scene, const Layer& layer, MaskLook look) {
    if (look == MaskLook::Art || !layer.mask) return scene;
    auto mask = std::make_shared<Mask>(*layer.mask);
    mask->on = true;
    if (look == MaskLook::Tint) mask->inverted = !mask->inverted;
    for (PanelView& view : scene.panels) {
        if (look == MaskLook::Alone) {
            view.stack = {fill("mask-light", {1, 1, 1, 1}, mask), fill("mask-dark", {0, 0, 0, 1}, nullptr)};
        } else {
            Rgba tint = fromQt(theme().fault);
            tint.a = 0.6f;
            view.stack.insert(view.stack.begin(), fill("mask-tint", tint, mask));
        }
    }
    return scene;
}

} // namespace glyptos
