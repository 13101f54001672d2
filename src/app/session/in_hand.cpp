#include "app/session/in_hand.h"

#include "release/wall.h"

#include <algorithm>

namespace glyptos {
namespace {

/// The same panel, or the nearest one that the release has.
PanelRef mended(const PanelRef& panel, const Release& release) {
    const PiecePtr piece = release.piece(panel.piece);
    if (piece && piece->flat->panel(panel.panel)) return panel;
    const PiecePtr instead = piece ? piece : release.pieces.empty() ? nullptr : release.pieces.front();
    return instead ? PanelRef{instead->id, instead->flat->frontPanel().id} : PanelRef{};
}

} // namespace

const std::string& InHand::layer() const {
    static const std::string none;
    return layers_.empty() ? none : layers_.back();
}

bool InHand::holds(const std::string& layer) const {
    return std::find(layers_.begin(), layers_.end(), layer) != layers_.end();
}

bool InHand::takePanel(const PanelRef& panel, const Release& release) {
    if (panel == panel_) return false;
    panel_ = panel;
    layers_.clear();
    mask_ = false;
    (void)mend(release);
    return true;
}

bool InHand::takeLayers(std::vector<std::string> layers) {
    if (layers == layers_) return false;
    layers_ = std::move(layers);
    mask_ = false;
    return true;
}

bool InHand::takeMask(bool on) {
    return std::exchange(mask_, on) != on;
}

bool InHand::mend(const Release& release) {
    const PanelRef before = panel_;
    const size_t count = layers_.size();
    panel_ = mended(panel_, release);
    piecePanel_ = isWall(panel_) ? mended(piecePanel_, release) : panel_;
    const Stack& stack = stackOf(release, panel_);
    std::erase_if(layers_, [&](const std::string& id) { return !findLayer(stack, id); });
    return !(before == panel_) || count != layers_.size();
}

} // namespace glyptos
