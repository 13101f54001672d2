#include "form/wrap.h"

namespace glyptos {
namespace {

constexpr double kSame = 1e-6; // units

/// Those of the wrap that are there, on the sheet of the first.
std::vector<const Panel*> panelsOf(const Flat& flat, const Wrap& wrap) {
    std::vector<const Panel*> out;
    for (const std::string& id : wrap.panels) {
        const Panel* panel = flat.panel(id);
        if (panel && (out.empty() || panel->sheet == out.front()->sheet)) out.push_back(panel);
    }
    return out;
}

Edges edgesBeyond(const Rect& inner, const Rect& outer) {
    return {
        outer
            .x<inner.x - kSame, outer.y<inner.y - kSame, outer.right()> inner.right() + kSame, outer.bottom()>
                inner.bottom() +
        kSame};
}

std::string nameOf(const std::vector<const Panel*>& panels) {
    std::string name;
    for (const Panel* panel : panels) name += (name.empty() ? "" : " + ") + panel->name;
    return name;
}

Panel wideOver(const std::vector<const Panel*>& panels, const std::string& id) {
    const Panel& first = *panels.front();
    Panel wide;
    wide.id = id;
    wide.name = nameOf(panels);
    wide.turn = first.turn;
    wide.bleed = first.bleed;
    wide.safety = first.safety;
    wide.sheet = first.sheet;
    Rect withBleed;
    for (const Panel* panel : panels) {
        wide.onFlat = wide.onFlat.united(panel->onFlat);
        withBleed = withBleed.united(panel->toFlat().mapBounds(panel->withBleed()));
    }
    const bool upright = wide.turn % 180 == 0;
    wide.width = upright ? wide.onFlat.w : wide.onFlat.h;
    wide.height = upright ? wide.onFlat.h : wide.onFlat.w;
    wide.outline.box = wide.trim();
    const auto toWide = wide.toFlat().inverse();
    wide.bleeds = edgesBeyond(wide.trim(), toWide->mapBounds(withBleed));
    for (const Panel* panel : panels)
        for (Zone zone : panel->zones) {
            zone.outline = zone.outline.mapped(panelToPanel(*panel, wide));
            wide.zones.push_back(std::move(zone));
        }
    return wide;
}

} // namespace

void layWraps(Flat& flat, std::span<const Wrap> wraps) {
    flat.wraps.clear();
    std::vector<Panel> wide;
    for (const Wrap& wrap : wraps)
        if (const auto panels = panelsOf(flat, wrap); !panels.empty())
            wide.push_back(wideOver(panels, wrap.id));
    flat.wraps = std::move(wide);
}

Affine panelToPanel(const Panel& from, const Panel& to) {
    return *to.toFlat().inverse() * from.toFlat();
}

} // namespace glyptos
