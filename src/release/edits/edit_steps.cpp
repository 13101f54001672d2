#include "release/edits/edit_steps.h"

#include "release/same.h"

#include <algorithm>

namespace glyptos {

ReleasePtr changed(const ReleasePtr& release, const std::function<void(Release&)>& change) {
    auto next = std::make_shared<Release>(*release);
    change(*next);
    return unlessSame(release, next);
}

ReleasePtr unlessSame(const ReleasePtr& release, const ReleasePtr& next) {
    return sameRelease(*release, *next) ? release : next;
}

std::string takeId(Release& release) {
    return "n" + std::to_string(release.nextId.take());
}

void renewIds(Layer& layer, Release& release) {
    layer.id = takeId(release);
    if (auto* group = std::get_if<GroupContent>(&layer.content))
        for (LayerPtr& child : group->layers) {
            auto copy = std::make_shared<Layer>(*child);
            renewIds(*copy, release);
            child = std::move(copy);
        }
}

LayerPtr copied(const Layer& layer, Release& release) {
    auto copy = std::make_shared<Layer>(layer);
    renewIds(*copy, release);
    return copy;
}

namespace {

using LayerAct = std::function<bool(Layer&, const Piece&)>;

/// Layers to which nothing was done are shared.
bool changeStack(Stack& stack, const Piece& piece, const LayerAct& change) {
    bool any = false;
    for (LayerPtr& layer : stack) {
        auto next = std::make_shared<Layer>(*layer);
        bool own = change(*next, piece);
        if (auto* group = std::get_if<GroupContent>(&next->content))
            own |= changeStack(group->layers, piece, change);
        if (own) layer = std::move(next);
        any |= own;
    }
    return any;
}

PiecePtr changedPiece(const PiecePtr& piece, const LayerAct& change) {
    auto next = std::make_shared<Piece>(*piece);
    bool any = false;
    for (auto& take : next->takes) {
        auto copy = std::make_shared<Take>(*take);
        bool own = false;
        for (auto& [panel, stack] : copy->stacks) own |= changeStack(stack, *piece, change);
        if (own) take = std::move(copy);
        any |= own;
    }
    return any ? next : piece;
}

} // namespace

void changeLayers(Release& release, const LayerAct& change) {
    for (PiecePtr& piece : release.pieces) piece = changedPiece(piece, change);
    release.wall = changedPiece(release.wall, change);
}

void replacePiece(Release& release, const PiecePtr& old, PiecePtr next) {
    if (old == release.wall)
        release.wall = std::move(next);
    else
        std::replace(release.pieces.begin(), release.pieces.end(), old, next);
}

ReleasePtr withChangedPiece(const ReleasePtr& release, const std::string& id,
                            const std::function<void(Piece&, Release&)>& change) {
    const PiecePtr old = release->piece(id);
    if (!old) return release;
    auto next = std::make_shared<Release>(*release);
    auto piece = std::make_shared<Piece>(*old);
    change(*piece, *next);
    replacePiece(*next, old, std::move(piece));
    return unlessSame(release, next);
}

const Stack* listOf(const Stack& stack, std::string_view layer, size_t& at) {
    for (size_t i = 0; i < stack.size(); ++i) {
        if (stack[i]->id == layer) {
            at = i;
            return &stack;
        }
        if (const auto* group = stack[i]->as<GroupContent>())
            if (const Stack* found = listOf(group->layers, layer, at)) return found;
    }
    return nullptr;
}

} // namespace glyptos
