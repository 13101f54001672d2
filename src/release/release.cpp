#include "release/release.h"

#include "release/walks.h"
#include "release/wall.h"

#include <algorithm>

namespace glyptos {
namespace {

const Stack kNoLayers;

template <class T>
std::shared_ptr<const T> byId(const std::vector<std::shared_ptr<const T>>& all, std::string_view id) {
    const auto found = std::find_if(all.begin(), all.end(), [&](const auto& item) { return item->id == id; });
    return found == all.end() ? nullptr : *found;
}

} // namespace

const Stack& Take::stack(const std::string& panel) const {
    const auto found = stacks.find(panel);
    return found == stacks.end() ? kNoLayers : found->second;
}

const Take* Piece::take(std::string_view id) const {
    if (id.empty()) return takes[current].get();
    return byId(takes, id).get();
}

const Wrap* Piece::wrap(std::string_view id) const {
    const auto found = std::find_if(wraps.begin(), wraps.end(), [&](const Wrap& w) { return w.id == id; });
    return found == wraps.end() ? nullptr : &*found;
}

Release::Release()
    : wall(emptyWall()) {}

PiecePtr Release::piece(std::string_view id) const {
    if (id == kWallId) return wall;
    return byId(pieces, id);
}
SourcePtr Release::source(std::string_view id) const {
    return byId(sources, id);
}

SourcePtr Release::font(std::string_view id) const {
    return byId(fonts, id);
}

const Stack& stackOf(const Release& release, const PanelRef& panel) {
    const PiecePtr piece = release.piece(panel.piece);
    return piece ? piece->take().stack(panel.panel) : kNoLayers;
}

std::optional<Reference> referenceOf(const Release& release, const PanelRef& panel) {
    const PiecePtr piece = release.piece(panel.piece);
    if (!piece) return std::nullopt;
    const auto found = piece->references.find(panel.panel);
    return found == piece->references.end() ? std::nullopt : std::optional(found->second);
}

std::optional<Selection> selectionOf(const Release& release, const PanelRef& panel) {
    const PiecePtr piece = release.piece(panel.piece);
    if (!piece) return std::nullopt;
    const auto found = piece->selections.find(panel.panel);
    return found == piece->selections.end() ? std::nullopt : found->second.now;
}

LayerPtr findLayer(const Stack& stack, std::string_view id) {
    return firstLayer(stack, [id](const Layer& layer) { return layer.id == id; });
}

size_t clipBase(const Stack& stack, size_t index) {
    size_t base = index;
    while (base < stack.size() && stack[base]->clipped) ++base;
    return base < stack.size() ? base : index;
}

} // namespace glyptos
