#include "render/selected_layers.h"

#include "vision/select/alpha_edges.h"

#include <algorithm>

namespace glyptos {
namespace {

Rect areaOf(const Selected& what) {
    const PiecePtr piece = what.release->piece(what.panel.piece);
    const Panel* panel = piece ? piece->flat->panel(what.panel.panel) : nullptr;
    return panel ? panel->withBleed() : Rect{};
}

/// Where a layer shows: everywhere when it has no mask.
std::optional<Selection> shownOf(const Selected& what, const Layer& layer) {
    const double pixel = what.selection.pixel;
    if (!layer.mask) return inverted(std::nullopt, pixel, areaOf(what));
    return selectionOf(*layer.mask, pixel, areaOf(what), *what.release, what.pictures);
}

/// A mask of what is left, which may be nothing; linked and switched as the one before it.
std::shared_ptr<const Mask> maskInPlaceOf(const std::shared_ptr<const Mask>& before,
                                          const std::optional<Selection>& shown, double pixel) {
    Mask out = maskOf(shown.value_or(Selection{std::make_shared<const PixelTiles>(kMaskPixels), pixel}));
    if (before) out.linked = before->linked;
    return std::make_shared<const Mask>(std::move(out));
}

ReleasePtr withShown(const Selected& what, const std::string& layer, Combine how) {
    const LayerPtr meant = findLayer(stackOf(*what.release, what.panel), layer);
    if (!meant) return what.release;
    const auto mask = maskInPlaceOf(meant->mask, combined(shownOf(what, *meant), what.selection, how),
                                    what.selection.pixel);
    return withChangedLayer(what.release, what.panel, layer, [&](Layer& l) { l.mask = mask; });
}

} // namespace

ReleasePtr withMaskOf(const Selected& what, const std::string& layer, bool inside) {
    return withShown(what, layer, inside ? Combine::Intersect : Combine::TakeAway);
}

ReleasePtr withMaskMeeting(const Selected& what, const std::string& layer, Combine how) {
    return withShown(what, layer, how);
}

Made withPart(const Selected& what, const std::string& layer, bool cut) {
    Selected now = what;
    const LayerPtr meant = findLayer(stackOf(*now.release, now.panel), layer);
    if (!meant) return {now.release, {}};
    Made made = withDuplicate(now.release, now.panel, layer);
    if (made.id.empty()) return made;
    now.release = made.release;
    now.release = withMaskOf(now, made.id, true);
    if (cut) now.release = withMaskOf(now, layer, false);
    now.release = withChangedLayer(now.release, now.panel, made.id,
                                   [&](Layer& l) { l.name = "Part of " + meant->name; });
    return {now.release, made.id};
}

Made withFillOf(const Selected& what, const std::string& above, const Ink& ink) {
    Layer fill;
    fill.name = "Fill";
    fill.content = FillContent{ink};
    fill.mask = std::make_shared<const Mask>(maskOf(what.selection));
    return withLayer(what.release, what.panel, std::move(fill), above);
}

ReleasePtr withShapeMaskOf(const Selected& what, const std::string& layer) {
    const double pixel = what.selection.pixel;
    const IntRect area = what.selection.tiles->bounds();
    ShapeContent shape;
    shape.kind = ShapeKind::Free;
    constexpr double kSlack = 0.6; // px that the outline may be off
    for (const auto& line : outlinesOf(valuesOf(*what.selection.tiles, area), kSlack)) {
        if (line.size() < 3) continue;
        Contour contour;
        contour.closed = true;
        for (const Vec2& p : line)
            contour.nodes.push_back({{(area.x + p.x) * pixel, (area.y + p.y) * pixel}, {}, {}});
        shape.contours.push_back(std::move(contour));
    }
    if (shape.contours.empty()) return what.release;
    Mask mask;
    Vec2 moved;
    shape.fill = Ink{1, 1, 1, 1};
    mask.form = reframed(std::move(shape), moved);
    mask.placement.position = moved;
    return withChangedLayer(what.release, what.panel, layer,
                            [&](Layer& l) { l.mask = std::make_shared<const Mask>(mask); });
}

} // namespace glyptos
