#include "render/scene.h"

#include "base/units.h"

namespace glyptos {
namespace {

IntRect snapped(const Rect& r) {
    const int l = snapEdge(r.x), t = snapEdge(r.y);
    return {l, t, snapEdge(r.right()) - l, snapEdge(r.bottom()) - t};
}

PanelView viewOf(const Piece& piece, const Panel& panel, const Affine& toOutput, bool bleed) {
    const Rect area = bleed ? panel.withBleed() : panel.trim();
    return {piece.take().stack(panel.id), toOutput, snapped(toOutput.mapBounds(area)), area};
}

} // namespace

IntRect Scene::bounds() const {
    Rect all;
    for (const PanelView& p : panels) all = all.united(p.clip.toRect());
    return pixelsAround(all);
}

Scene panelScene(const ReleasePtr& release, const PanelRef& ref, double pxPerUnit, bool bleed, Vec2 offset) {
    Scene scene{release, {}};
    const PiecePtr piece = release->piece(ref.piece);
    const Panel* panel = piece ? piece->flat->panel(ref.panel) : nullptr;
    if (panel)
        scene.panels.push_back(
            viewOf(*piece, *panel,
                   Affine::translation(offset.x, offset.y) * Affine::scaling(pxPerUnit, pxPerUnit), bleed));
    return scene;
}

Scene flatScene(const ReleasePtr& release, const std::string& id, double pxPerUnit, bool bleed, Vec2 offset) {
    Scene scene{release, {}};
    const PiecePtr piece = release->piece(id);
    if (!piece) return scene;
    const Affine flatToOutput =
        Affine::translation(offset.x, offset.y) * Affine::scaling(pxPerUnit, pxPerUnit);
    for (const Panel& panel : piece->flat->panels)
        scene.panels.push_back(viewOf(*piece, panel, flatToOutput * panel.toFlat(), bleed));
    return scene;
}

} // namespace glyptos
