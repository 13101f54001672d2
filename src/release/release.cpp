#include "release/release.h"

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

PiecePtr Release::piece(std::string_view id) const {
    return byId(pieces, id);
}
SourcePtr Release::source(std::string_view id) const {
    return byId(sources, id);
}

const Stack& stackOf(const Release& release, const PanelRef& panel) {
    const PiecePtr piece = release.piece(panel.piece);
    return piece ? piece->take().stack(panel.panel) : kNoLayers;
}

LayerPtr findLayer(const Stack& stack, std::string_view id) {
    for (const LayerPtr& layer : stack) {
        if (layer->id == id) return layer;
        if (const auto* group = layer->as<GroupContent>())
            if (LayerPtr inside = findLayer(group->layers, id)) return inside;
    }
    return nullptr;
}

} // namespace glyptos
