#include "release/edits/light_edits.h"

namespace glyptos {

Result<Made> withOneMaskMore(const ReleasePtr& release, const PanelRef& panel, const std::string& layer,
                             Mask mask) {
    const LayerPtr one = findLayer(stackOf(*release, panel), layer);
    if (!one) return Made{release, {}};
    Made out{release, layer};
    if (one->mask) {
        auto grouped = withGrouped(release, panel, {layer});
        if (!grouped) return grouped;
        out = *grouped;
    }
    out.release = withChangedLayer(out.release, panel, out.id,
                                   [&](Layer& l) { l.mask = std::make_shared<const Mask>(std::move(mask)); });
    return out;
}

Result<Made> withFadedEdges(const ReleasePtr& release, const PanelRef& panel, const std::string& layer,
                            const Rect& area, double width) {
    ShapeContent inside;
    inside.width = std::max(area.w - width, 1e-3), inside.height = std::max(area.h - width, 1e-3);
    Mask mask;
    mask.form = inside;
    mask.placement.position = area.centre();
    mask.feather = width;
    mask.linked = false;
    return withOneMaskMore(release, panel, layer, std::move(mask));
}

Layer darkCorners(const Rect& area, const Ink& dark) {
    constexpr double kClear = 0.45; // of the way to the corner
    Gradient run;
    run.kind = GradientKind::Radial;
    run.from = area.centre(), run.to = {area.right(), area.bottom()};
    Ink none = dark;
    none.a = 0;
    run.stops = {{0, none}, {kClear, none}, {1, dark}};
    Layer out;
    out.name = "Dark corners";
    out.content = FillContent{run};
    out.blend = BlendMode::Multiply;
    out.opacity = 0.8;
    return out;
}

Made withGlow(const ReleasePtr& release, const PanelRef& panel, const std::string& layer,
              const PixelTilesPtr& cover, double pixel, double width, const Ink& light) {
    const LayerPtr one = findLayer(stackOf(*release, panel), layer);
    if (!one || cover->empty()) return {release, {}};
    Layer glow;
    glow.name = "Glow of " + one->name;
    glow.content = FillContent{light};
    glow.blend = BlendMode::Screen;
    Mask mask;
    mask.form = PaintedMask{cover, false};
    mask.placement.scaleX = mask.placement.scaleY = pixel;
    mask.feather = width;
    glow.mask = std::make_shared<const Mask>(std::move(mask));
    const Made made = withLayer(release, panel, std::move(glow), layer);
    return {withOrder(made.release, panel, {made.id}, Nearer::OneBack), made.id};
}

} // namespace glyptos
