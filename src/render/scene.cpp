#include "render/scene.h"

#include "base/units.h"
#include "release/placing.h"

namespace glyptos {
namespace {

IntRect snapped(const Rect& r) {
    const int l = snapEdge(r.x), t = snapEdge(r.y);
    return {l, t, snapEdge(r.right()) - l, snapEdge(r.bottom()) - t};
}

/// Art within the trim alone ends where the board does.
std::shared_ptr<const Path> trimmedPrints(const Panel& panel) {
    if (panel.outline.isPlain() && panel.cutouts.empty() && !panel.prints) return nullptr;
    std::vector<Outline> holes = panel.cutouts;
    for (const Zone& zone : panel.zones)
        if (zone.kind == ZoneKind::Bare) holes.push_back(zone.outline);
    return std::make_shared<const Path>(without(panel.outline, holes));
}

PanelView viewOf(const Piece& piece, const Take& take, const Panel& panel, const Affine& toOutput, bool bleed,
                 bool cut = true) {
    const Rect area = bleed ? panel.withBleed() : panel.trim();
    return {take.stack(panel.id),
            toOutput,
            snapped(toOutput.mapBounds(area)),
            area,
            {piece.id, take.id, panel.id},
            !cut    ? nullptr
            : bleed ? panel.prints
                    : trimmedPrints(panel)};
}

Affine toOutput(const OnOutput& how) {
    return Affine::translation(how.offset.x, how.offset.y) * Affine::scaling(how.pxPerUnit, how.pxPerUnit);
}

} // namespace

IntRect Scene::bounds() const {
    Rect all;
    for (const PanelView& p : panels) all = all.united(p.clip.toRect());
    return pixelsAround(all);
}

Scene panelScene(const ReleasePtr& release, const PanelRef& ref, const OnOutput& how) {
    Scene scene{release, {}, {}};
    const PiecePtr piece = release->piece(ref.piece);
    const Panel* panel = piece ? piece->flat->panel(ref.panel) : nullptr;
    const Take* take = piece ? piece->take(how.take) : nullptr;
    if (panel && take)
        scene.panels.push_back(viewOf(*piece, *take, *panel, toOutput(how), how.bleed, how.cut));
    return scene;
}

Scene referenceScene(const ReleasePtr& release, const PanelRef& ref, double pxPerUnit) {
    const auto reference = referenceOf(*release, ref);
    if (!reference) return {release, {}, {}};
    Scene scene = panelScene(release, ref, {pxPerUnit, true});
    Layer layer;
    layer.id = "reference";
    layer.placement = reference->placement;
    layer.content = PictureContent{reference->source, {0, 0, 1, 1}};
    for (PanelView& view : scene.panels) view.stack = {std::make_shared<const Layer>(layer)};
    return scene;
}

Scene flatScene(const ReleasePtr& release, const std::string& id, const OnOutput& how) {
    Scene scene{release, {}, {}};
    const PiecePtr piece = release->piece(id);
    const Take* take = piece ? piece->take(how.take) : nullptr;
    if (!take) return scene;
    for (const Panel& panel : piece->flat->panels)
        if (panel.sheet == how.sheet.value_or(panel.sheet))
            scene.panels.push_back(
                viewOf(*piece, *take, panel, toOutput(how) * panel.toFlat(), how.bleed, how.cut));
    return scene;
}

Scene mappedScene(const ReleasePtr& release, const std::string& id, const std::vector<size_t>& panels,
                  const Affine& flatToOutput) {
    Scene scene{release, {}, {}};
    const PiecePtr piece = release->piece(id);
    if (!piece) return scene;
    for (const size_t at : panels) {
        const Panel& panel = piece->flat->panels[at];
        scene.panels.push_back(
            viewOf(*piece, piece->take(), panel, flatToOutput * panel.toFlat(), false, false));
    }
    return scene;
}

namespace {

/// Where a layer of the release stands; an empty place when it is none of its own.
PanelPlace placeOfLayer(const Release& release, const std::string& id) {
    if (!id.empty())
        for (const PiecePtr& piece : release.pieces)
            for (const auto& take : piece->takes)
                for (const auto& [panel, stack] : take->stacks)
                    if (findLayer(stack, id)) return {piece->id, take->id, panel};
    return {};
}

} // namespace

Scene aloneScene(const ReleasePtr& release, const Layer& layer, bool masked, const Affine& toOutput,
                 const Rect& area) {
    Layer bare = layer;
    if (!masked) bare.mask = nullptr;
    bare.on = true, bare.clipped = false, bare.opacity = 1, bare.blend = BlendMode::Normal;
    PanelView view;
    view.stack = {std::make_shared<const Layer>(std::move(bare))};
    view.toOutput = toOutput;
    view.area = area;
    view.place = placeOfLayer(*release, layer.id);
    view.clip = pixelsAround(toOutput.mapBounds(area));
    return {release, {view}, {}};
}

std::optional<Rect> echoFrame(const EchoContent& echo, const Release& release) {
    const PiecePtr piece = release.piece(echo.piece);
    if (!piece || !piece->take(echo.take)) return std::nullopt;
    if (echo.panel.empty()) return piece->flat->trim();
    const Panel* panel = piece->flat->panel(echo.panel);
    if (!panel) return std::nullopt;
    return echo.bleed ? panel->withBleed() : panel->trim();
}

Affine echoToPanel(const Placement& placement, const Rect& frame) {
    return placementMap(placement) * Affine::translation(-frame.centre().x, -frame.centre().y);
}

std::vector<PanelView> echoViews(const EchoContent& echo, const Release& release, const Affine& toOutput) {
    std::vector<PanelView> out;
    for (const PanelPlace& place : echoed(echo, release)) {
        const PiecePtr piece = release.piece(place.piece);
        const Panel& panel = *piece->flat->panel(place.panel);
        const Affine map = echo.panel.empty() ? toOutput * panel.toFlat() : toOutput;
        out.push_back(
            viewOf(*piece, *piece->take(place.take), panel, map, echo.bleed && !echo.panel.empty()));
    }
    return out;
}

} // namespace glyptos
