#include "release/edits/wraps_in_place.h"

#include "release/edits/edit_steps.h"
#include "release/edits/refit.h"
#include "release/placing.h"

#include <algorithm>
#include <utility>

namespace glyptos {
namespace {

const EchoContent* wrapEcho(const Layer& layer, const Piece& piece) {
    const auto* echo = layer.as<EchoContent>();
    return echo && echo->piece == piece.id && piece.wrap(echo->panel) ? echo : nullptr;
}

/// The art of a wrap, moved as its first panel has moved in it.
void keepOnFirst(Stack& stack, const Wrap& wrap, const Flat& before, const Flat& after) {
    const Panel *oldWide = before.panel(wrap.id), *wide = after.panel(wrap.id);
    if (!oldWide || !wide) return;
    for (const std::string& id : wrap.panels) {
        const Panel *then = before.panel(id), *now = after.panel(id);
        if (!then || !now) continue;
        const Vec2 way = panelToPanel(*now, *wide).map({0, 0}) - panelToPanel(*then, *oldWide).map({0, 0});
        if (way == Vec2{}) return;
        for (LayerPtr& layer : stack) layer = std::make_shared<const Layer>(moved(*layer, way));
        return;
    }
}

void putInPlace(Stack& stack, const Piece& piece, const Panel& panel) {
    for (LayerPtr& layer : stack) {
        const EchoContent* echo = layer->locked ? wrapEcho(*layer, piece) : nullptr;
        const Panel* wide = echo ? piece.flat->panel(echo->panel) : nullptr;
        if (!wide || layer->placement == inPlace(*wide, panel)) continue;
        Layer next = *layer;
        next.placement = inPlace(*wide, panel);
        layer = std::make_shared<const Layer>(std::move(next));
    }
}

} // namespace

Result<std::shared_ptr<const Flat>> flatOf(const Piece& piece) {
    auto flat = workOut(*piece.form, piece.values);
    if (!flat) return tl::unexpected(flat.error());
    layWraps(*flat, piece.wraps);
    return std::make_shared<const Flat>(std::move(*flat));
}

Placement inPlace(const Panel& wrap, const Panel& panel) {
    const Affine map = panelToPanel(wrap, panel);
    Placement placement;
    placement.position = map.map(wrap.withBleed().centre());
    placement.turn = std::remainder(double(wrap.turn - panel.turn), 360.0);
    return placement;
}

void takeFlat(Piece& piece, std::shared_ptr<const Flat> flat) {
    const std::shared_ptr<const Flat> before = std::exchange(piece.flat, std::move(flat));
    if (piece.wraps.empty()) return;
    for (auto& take : piece.takes) {
        auto next = std::make_shared<Take>(*take);
        for (auto& [panel, stack] : next->stacks) {
            if (const Wrap* wrap = piece.wrap(panel)) keepOnFirst(stack, *wrap, *before, *piece.flat);
            if (const Panel* now = piece.flat->panel(panel)) putInPlace(stack, piece, *now);
        }
        take = std::move(next);
    }
}

void showOwnWraps(Take& copy, const Piece& piece, const std::string& copied) {
    for (auto& [panel, stack] : copy.stacks)
        for (LayerPtr& layer : stack) {
            const EchoContent* echo = wrapEcho(*layer, piece);
            if (!echo || echo->take != copied) continue;
            Layer next = *layer;
            std::get<EchoContent>(next.content).take = copy.id;
            layer = std::make_shared<const Layer>(std::move(next));
        }
}

void showWrap(Take& take, const Piece& piece, const Panel& wrap, const std::string& panelId,
              Release& release) {
    const Panel& panel = *piece.flat->panel(panelId);
    Stack& stack = take.stacks[panelId];
    const auto shows = [&](const LayerPtr& layer) {
        const EchoContent* echo = wrapEcho(*layer, piece);
        return echo && echo->panel == wrap.id;
    };
    if (std::any_of(stack.begin(), stack.end(), shows)) return;
    auto behind = stack.end();
    while (behind != stack.begin() && isGround(**(behind - 1), panel, release)) --behind;
    Layer layer;
    layer.id = takeId(release);
    layer.name = wrap.name;
    layer.placement = inPlace(wrap, panel);
    layer.locked = true;
    layer.content = EchoContent{piece.id, wrap.id, take.id, true};
    stack.insert(behind, std::make_shared<const Layer>(std::move(layer)));
}

} // namespace glyptos
