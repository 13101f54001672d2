#include "release/edits/wrap_edits.h"

#include "base/text.h"
#include "release/edits/edit_steps.h"
#include "release/edits/refit.h"
#include "release/edits/wraps_in_place.h"
#include "release/placing.h"
#include "release/walks.h"

#include <algorithm>
#include <set>

namespace glyptos {
namespace {

/// The layer in the frame of another panel, fills too.
Layer laidOn(Layer layer, const Affine& map) {
    layer = transformed(std::move(layer), map);
    if (auto* fill = std::get_if<FillContent>(&layer.content))
        fill->paint = mapped(std::move(fill->paint), map);
    if (auto* group = std::get_if<GroupContent>(&layer.content); group && !layer.warp)
        for (LayerPtr& child : group->layers)
            if (child->as<FillContent>()) child = std::make_shared<const Layer>(laidOn(*child, map));
    return layer;
}

/// Front to back, whatever order they are named in; what is in a layer that is named goes with it.
std::vector<LayerPtr> inOrder(const Stack& stack, const std::vector<std::string>& ids) {
    std::vector<LayerPtr> out;
    for (const LayerPtr& layer : stack) {
        if (std::find(ids.begin(), ids.end(), layer->id) != ids.end()) {
            out.push_back(layer);
        } else if (const auto* group = layer->as<GroupContent>()) {
            const auto inside = inOrder(group->layers, ids);
            out.insert(out.end(), inside.begin(), inside.end());
        }
    }
    return out;
}

/// Moves layers to another place of the same piece, in front of `above` there.
ReleasePtr movedTo(ReleasePtr next, const PanelRef& from, const std::vector<LayerPtr>& layers,
                   const PanelRef& to, const std::string& above) {
    const Flat& flat = *next->piece(from.piece)->flat;
    const Affine map = panelToPanel(*flat.panel(from.panel), *flat.panel(to.panel));
    for (const LayerPtr& layer : layers) next = withoutLayer(next, from, layer->id);
    std::string front = above;
    for (auto it = layers.rbegin(); it != layers.rend(); ++it) {
        next = withLayer(next, to, laidOn(**it, map), front);
        front = (*it)->id;
    }
    return next;
}

/// The echo of a wrap on that panel, in the current take; empty when there is none.
std::string echoOn(const Release& release, const PanelRef& panel, const std::string& wrap) {
    const LayerPtr echo = firstLayer(stackOf(release, panel), [&](const Layer& layer) {
        const auto* shown = layer.as<EchoContent>();
        return shown && shown->piece == panel.piece && shown->panel == wrap;
    });
    return echo ? echo->id : std::string();
}

Result<void> canWrap(const Piece& piece, const std::vector<std::string>& panels) {
    const std::set<std::string> different(panels.begin(), panels.end());
    if (different.size() < 2 || different.size() != panels.size())
        return fail(Fault::Usage, "Art runs over two panels or more; nothing was changed.");
    const Panel* first = piece.flat->panel(panels.front());
    for (const std::string& id : panels) {
        const Panel* panel = piece.flat->panel(id);
        if (!panel || piece.wrap(id))
            return fail(Fault::Usage, piece.name + " has no panel “" + id + "”; nothing was changed.");
        if (panel->sheet != first->sheet)
            return fail(Fault::Usage, first->name + " and " + panel->name +
                                          " are on different sheets, so nothing can run over both; nothing "
                                          "was changed.");
    }
    return {};
}

std::string wrapOver(Piece& piece, const std::vector<std::string>& panels, Release& release) {
    const auto same = [&](const Wrap& wrap) {
        return wrap.panels.front() == panels.front() &&
               std::is_permutation(wrap.panels.begin(), wrap.panels.end(), panels.begin(), panels.end());
    };
    const auto found = std::find_if(piece.wraps.begin(), piece.wraps.end(), same);
    if (found != piece.wraps.end()) return found->id;
    piece.wraps.push_back({"wrap-" + takeId(release), panels});
    Flat flat = *piece.flat;
    layWraps(flat, piece.wraps);
    piece.flat = std::make_shared<const Flat>(std::move(flat));
    return piece.wraps.back().id;
}

/// Words and codes stand in the mirrored place and can be read.
void keepLegible(Layer& layer, const Placement& before) {
    if (auto* group = std::get_if<GroupContent>(&layer.content); group && !layer.warp) return;
    if (!layer.as<TextContent>() && !layer.as<CodeContent>()) return;
    layer.placement.flipX = before.flipX, layer.placement.flipY = before.flipY;
    layer.placement.turn = -before.turn, layer.placement.skew = before.skew;
    auto* text = std::get_if<TextContent>(&layer.content);
    if (!text) return;
    Align& align = text->spec.align;
    if (align == Align::Left || align == Align::Right)
        align = align == Align::Left ? Align::Right : Align::Left;
}

Layer mirroredOn(const Layer& layer, const Affine& mirror) {
    Layer out = laidOn(layer, mirror);
    keepLegible(out, layer.placement);
    const auto* before = layer.as<GroupContent>();
    auto* group = std::get_if<GroupContent>(&out.content);
    if (group && before && !out.warp)
        for (size_t i = 0; i < group->layers.size(); ++i)
            group->layers[i] = std::make_shared<const Layer>(mirroredOn(*before->layers[i], mirror));
    return out;
}

} // namespace

Result<Made> withWrap(const ReleasePtr& release, const std::string& id,
                      const std::vector<std::string>& panels) {
    const PiecePtr old = release->piece(id);
    if (!old || old == release->wall) return Made{release, {}};
    if (const auto can = canWrap(*old, panels); !can) return tl::unexpected(can.error());
    Made made;
    made.release = withChangedPiece(release, id, [&](Piece& piece, Release& next) {
        made.id = wrapOver(piece, panels, next);
        const Panel& wrap = *piece.flat->panel(made.id);
        for (auto& take : piece.takes) {
            auto copy = std::make_shared<Take>(*take);
            for (const std::string& panel : panels) showWrap(*copy, piece, wrap, panel, next);
            take = std::move(copy);
        }
    });
    return made;
}

Result<Made> withRunOver(const ReleasePtr& release, const PanelRef& panel,
                         const std::vector<std::string>& ids, const std::vector<std::string>& others) {
    std::vector<std::string> panels{panel.panel};
    panels.insert(panels.end(), others.begin(), others.end());
    const std::vector<LayerPtr> layers = inOrder(stackOf(*release, panel), ids);
    auto made = withWrap(release, panel.piece, panels);
    if (!made || layers.empty()) return made;
    // Its echo stands where the rearmost of them stood.
    const std::string echo = echoOn(*made->release, panel, made->id);
    const bool isNew = echoOn(*release, panel, made->id).empty();
    if (isNew) {
        const Stack& stack = stackOf(*made->release, panel);
        const auto holds = [&](const LayerPtr& l) {
            return l->id == layers.back()->id || findLayer({l}, layers.back()->id);
        };
        const auto at = std::find_if(stack.begin(), stack.end(), holds);
        made->release = withMovedLayer(made->release, panel, echo, {}, size_t(at - stack.begin()) + 1);
    }
    made->release = movedTo(made->release, panel, layers, {panel.piece, made->id}, {});
    return made;
}

ReleasePtr withKeptTo(const ReleasePtr& release, const PanelRef& wrap, const std::vector<std::string>& ids,
                      const std::string& panel) {
    const PiecePtr piece = release->piece(wrap.piece);
    const Wrap* over = piece ? piece->wrap(wrap.panel) : nullptr;
    const bool has = over && std::find(over->panels.begin(), over->panels.end(), panel) != over->panels.end();
    if (!has || !piece->flat->panel(panel) || !piece->flat->panel(wrap.panel)) return release;
    const PanelRef to{wrap.piece, panel};
    return movedTo(release, wrap, inOrder(stackOf(*release, wrap), ids), to,
                   echoOn(*release, to, wrap.panel));
}

ReleasePtr withoutWrap(const ReleasePtr& release, const std::string& id, const std::string& wrap) {
    const PiecePtr old = release->piece(id);
    if (!old || !old->wrap(wrap)) return release;
    return withChangedPiece(release, id, [&](Piece& piece, Release&) {
        for (auto& take : piece.takes) {
            auto copy = std::make_shared<Take>(*take);
            copy->stacks.erase(wrap);
            for (auto& [panel, stack] : copy->stacks)
                std::erase_if(stack, [&](const LayerPtr& layer) {
                    const auto* echo = layer->as<EchoContent>();
                    return echo && echo->piece == id && echo->panel == wrap;
                });
            take = std::move(copy);
        }
        std::erase_if(piece.wraps, [&](const Wrap& w) { return w.id == wrap; });
        piece.references.erase(wrap), piece.selections.erase(wrap);
        Flat flat = *piece.flat;
        layWraps(flat, piece.wraps);
        piece.flat = std::make_shared<const Flat>(std::move(flat));
    });
}

Made withCopiesOn(const ReleasePtr& release, const PanelRef& from, const std::vector<std::string>& ids,
                  const PanelRef& to, bool mirrored) {
    const PiecePtr here = release->piece(from.piece), there = release->piece(to.piece);
    const Panel* source = here ? here->flat->panel(from.panel) : nullptr;
    const Panel* target = there ? there->flat->panel(to.panel) : nullptr;
    Made made{release, {}};
    if (!source || !target) return made;
    const Stack copies = refitted(inOrder(stackOf(*release, from), ids), *source, *target, *release);
    const Affine mirror = Affine::translation(target->width, 0) * Affine::scaling(-1, 1);
    for (auto it = copies.rbegin(); it != copies.rend(); ++it)
        made = withLayer(made.release, to, mirrored ? mirroredOn(**it, mirror) : **it);
    return made;
}

} // namespace glyptos
