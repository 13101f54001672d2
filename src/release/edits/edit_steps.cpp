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
