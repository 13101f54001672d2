#include "release/edits/brush_edits.h"

namespace glyptos {

bool isPaintLayer(const Layer& layer) {
    const auto* painted = layer.as<PaintedContent>();
    return painted && !painted->holes;
}

Layer newPaintLayer(double pixel) {
    Layer out;
    out.name = "Paint";
    out.content = PaintedContent{std::make_shared<const PixelTiles>(kPaintPixels), nullptr};
    out.placement.scaleX = out.placement.scaleY = pixel;
    return out;
}

Made withPaintLayer(const ReleasePtr& release, const PanelRef& panel, const std::string& layer,
                    double pixel) {
    const LayerPtr there = findLayer(stackOf(*release, panel), layer);
    if (there && isPaintLayer(*there)) return {release, there->id};
    return withLayer(release, panel, newPaintLayer(pixel), layer);
}

Way wayOf(std::vector<Contour> onPanel) {
    ShapeContent shape;
    shape.kind = ShapeKind::Free;
    shape.contours = std::move(onPanel);
    Vec2 middle;
    shape = reframed(std::move(shape), middle);
    Way out{std::move(shape.contours), {}};
    out.placement.position = middle;
    return out;
}

Made withBrushedLine(const ReleasePtr& release, const PanelRef& panel, const std::string& above,
                     const std::string& name, const Way& way, double width, const Ink& ink,
                     const BrushedLine& brushed) {
    ShapeContent shape;
    shape.kind = ShapeKind::Free;
    shape.contours = way.contours;
    const Rect box = outlineOf(shape).bounds();
    shape.width = box.w, shape.height = box.h;
    shape.fill.reset();
    shape.stroke.emplace();
    shape.stroke->width = width;
    shape.stroke->paint = ink;
    shape.stroke->brushed = brushed;
    Layer made;
    made.name = name;
    made.blend = brushed.brush.blend;
    made.placement = way.placement;
    made.content = std::move(shape);
    return withLayer(release, panel, std::move(made), above);
}

} // namespace glyptos
