#include "render/snap.h"

#include <algorithm>
#include <cmath>

namespace glyptos {
namespace {

void addRect(std::vector<SnapLine>& out, const Rect& r, const std::string& reason) {
    for (const double x : {r.x, r.right()}) out.push_back({true, x, reason});
    for (const double y : {r.y, r.bottom()}) out.push_back({false, y, reason});
}

void addCentre(std::vector<SnapLine>& out, const Rect& r, const std::string& reason) {
    out.push_back({true, r.centre().x, reason});
    out.push_back({false, r.centre().y, reason});
}

/// The line nearest to any of three positions; its distance to go, or nothing within reach.
std::optional<std::pair<double, SnapLine>> nearest(bool upright, std::initializer_list<double> positions,
                                                   const std::vector<SnapLine>& lines, double reach) {
    std::optional<std::pair<double, SnapLine>> best;
    for (const SnapLine& line : lines) {
        if (line.upright != upright) continue;
        for (const double p : positions) {
            const double way = line.at - p;
            if (std::abs(way) <= reach && (!best || std::abs(way) < std::abs(best->first) - 1e-9))
                best = {way, line};
        }
    }
    return best;
}

} // namespace

std::vector<SnapLine> snapLines(const Release& release, const PanelRef& ref,
                                const std::vector<std::string>& moving, const SnapOptions& options,
                                ParagraphCache& paragraphs) {
    std::vector<SnapLine> out;
    const PiecePtr piece = release.piece(ref.piece);
    const Panel* panel = piece ? piece->flat->panel(ref.panel) : nullptr;
    if (!panel) return out;
    if (options.panel) {
        addCentre(out, panel->trim(), "centre of " + panel->name);
        addRect(out, panel->trim(), "trim");
        if (const auto safe = panel->safeArea()) addRect(out, *safe, "safety");
        if (panel->withBleed() != panel->trim()) addRect(out, panel->withBleed(), "bleed");
    }
    for (const LayerPtr& layer : stackOf(release, ref)) {
        if (!options.layers || !layer->on || isFrameless(*layer)) continue;
        if (std::any_of(moving.begin(), moving.end(), [&](const auto& id) { return findLayer({layer}, id); }))
            continue;
        const Rect bounds = frameOf(*layer, release, panel->withBleed(), paragraphs).bounds();
        if (bounds.empty()) continue;
        addRect(out, bounds, "edge of " + layer->name);
        addCentre(out, bounds, "centre of " + layer->name);
    }
    return out;
}

Snapped snap(const Rect& b, const std::vector<SnapLine>& lines, double reach) {
    Snapped out;
    if (const auto x = nearest(true, {b.x, b.centre().x, b.right()}, lines, reach))
        out.by.x = x->first, out.caught.push_back(x->second);
    if (const auto y = nearest(false, {b.y, b.centre().y, b.bottom()}, lines, reach))
        out.by.y = y->first, out.caught.push_back(y->second);
    return out;
}

} // namespace glyptos
