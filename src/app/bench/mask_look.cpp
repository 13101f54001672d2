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

/// Squares of two greys, 24 to the longer side.
Stack checker(const Rect& area) {
    constexpr double kSquares = 24;
    const double side = std::max(area.w, area.h) / kSquares;
    ShapeContent squares;
    squares.kind = ShapeKind::Free;
    squares.fill = Ink{0.62f, 0.62f, 0.62f, 1};
    for (int row = 0; row * side < area.h; ++row)
        for (int column = row % 2; column * side < area.w; column += 2) {
            const double x = area.x + column * side, y = area.y + row * side;
            Contour square;
            square.closed = true;
            for (const Vec2 p : {Vec2{x, y}, {x + side, y}, {x + side, y + side}, {x, y + side}})
                square.nodes.push_back({p, {}, {}});
            squares.contours.push_back(std::move(square));
        }
    Layer layer;
    layer.id = "mask-squares";
    Vec2 moved;
    layer.content = reframed(std::move(squares), moved);
    layer.placement.position = moved;
    return {std::make_shared<const Layer>(std::move(layer)),
            fill("mask-dark", {0.38f, 0.38f, 0.38f, 1}, nullptr)};
}

Stack groundOf(MaskLook look, const Rect& area) {
    switch (look) {
    case MaskLook::OnBlack:
        return {fill("mask-ground", {0, 0, 0, 1}, nullptr)};
    case MaskLook::OnWhite:
        return {fill("mask-ground", {1, 1, 1, 1}, nullptr)};
    case MaskLook::OnColour:
        return {fill("mask-ground", fromQt(theme().fault), nullptr)};
    default:
        return checker(area);
    }
}

/// What stands in a stack for a layer: it or the group that it is in, with what is clipped into that; and all
/// behind it when that is wanted.
Stack standingFor(const Stack& stack, const Layer& layer, bool below) {
    for (size_t i = 0; i < stack.size(); ++i) {
        if (!findLayer({stack[i]}, layer.id)) continue;
        size_t first = i;
        while (first > 0 && stack[first - 1]->clipped) --first;
        const size_t end = below ? stack.size() : clipBase(stack, i) + 1;
        return {stack.begin() + ptrdiff_t(first), stack.begin() + ptrdiff_t(end)};
    }
    return {};
}

} // namespace

Scene withMaskShown(Scene scene, const Layer& layer, MaskLook look) {
    if (look == MaskLook::Art || !layer.mask) return scene;
    if (look >= MaskLook::OnBlack) {
        for (PanelView& view : scene.panels) {
            const bool below = look == MaskLook::OnBelow;
            Stack shown = standingFor(view.stack, layer, below);
            if (!below) {
                const Stack ground = groundOf(look, view.area);
                shown.insert(shown.end(), ground.begin(), ground.end());
            }
            view.stack = std::move(shown);
        }
        return scene;
    }
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
