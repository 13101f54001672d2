#include "render/arrange.h"

#include "release/edits/edits.h"
#include "release/placing.h"

#include <algorithm>

namespace glyptos {
namespace {

struct Placed {
    std::string id;
    Rect bounds;
};

/// The layers that can be moved. What lies in a group of the list moves with it.
std::vector<Placed> movable(const Release& release, const PanelLayers& which, ParagraphCache& paragraphs) {
    const auto& [ref, ids] = which;
    std::vector<Placed> out;
    const PiecePtr piece = release.piece(ref.piece);
    const Panel* panel = piece ? piece->flat->panel(ref.panel) : nullptr;
    if (!panel) return out;
    const Stack& stack = stackOf(release, ref);
    for (const std::string& id : ids) {
        const LayerPtr layer = findLayer(stack, id);
        if (!layer || layer->locked || isFrameless(*layer)) continue;
        const bool inside = std::any_of(ids.begin(), ids.end(), [&](const std::string& other) {
            return other != id && findLayer(stack, other) && findLayer({findLayer(stack, other)}, id);
        });
        const Rect bounds = frameOf(*layer, release, panel->withBleed(), paragraphs).bounds();
        if (!inside && !bounds.empty()) out.push_back({id, bounds});
    }
    return out;
}

Vec2 wayTo(const Rect& b, AlignEdge edge, const Rect& to) {
    switch (edge) {
    case AlignEdge::Left:
        return {to.x - b.x, 0};
    case AlignEdge::Middle:
        return {to.centre().x - b.centre().x, 0};
    case AlignEdge::Right:
        return {to.right() - b.right(), 0};
    case AlignEdge::Top:
        return {0, to.y - b.y};
    case AlignEdge::Centre:
        return {0, to.centre().y - b.centre().y};
    default:
        return {0, to.bottom() - b.bottom()};
    }
}

ReleasePtr withMoved(const ReleasePtr& release, const PanelRef& panel, const std::string& id, Vec2 by) {
    if (by == Vec2{}) return release;
    return withChangedLayer(release, panel, id, [&](Layer& l) { l = moved(std::move(l), by); });
}

} // namespace

Rect boundsOf(const Release& release, const PanelLayers& of, ParagraphCache& paragraphs) {
    Rect all;
    for (const Placed& p : movable(release, of, paragraphs)) all = all.united(p.bounds);
    return all;
}

ReleasePtr withAligned(const ReleasePtr& release, const PanelLayers& which, AlignEdge edge, const Rect& to,
                       ParagraphCache& paragraphs) {
    ReleasePtr next = release;
    for (const Placed& p : movable(*release, which, paragraphs))
        next = withMoved(next, which.panel, p.id, wayTo(p.bounds, edge, to));
    return next;
}

ReleasePtr withSpread(const ReleasePtr& release, const PanelLayers& which, bool across, const Rect& over,
                      ParagraphCache& paragraphs) {
    std::vector<Placed> placed = movable(*release, which, paragraphs);
    if (placed.size() < 2) return release;
    const auto start = [&](const Rect& r) { return across ? r.x : r.y; };
    const auto length = [&](const Rect& r) { return across ? r.w : r.h; };
    std::stable_sort(placed.begin(), placed.end(), [&](const Placed& a, const Placed& b) {
        return start(a.bounds) + length(a.bounds) / 2 < start(b.bounds) + length(b.bounds) / 2;
    });
    double free = length(over);
    for (const Placed& p : placed) free -= length(p.bounds);
    const double gap = free / double(placed.size() - 1);
    double at = start(over);
    ReleasePtr next = release;
    for (const Placed& p : placed) {
        const double way = at - start(p.bounds);
        next = withMoved(next, which.panel, p.id, across ? Vec2{way, 0} : Vec2{0, way});
        at += length(p.bounds) + gap;
    }
    return next;
}

} // namespace glyptos
