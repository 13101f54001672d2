// What is in hand: a panel, some of its layers, or the mask of one.
#pragma once

#include "release/release.h"

namespace glyptos {

/// Every change says whether anything is otherwise than before.
class InHand {
  public:
    const PanelRef& panel() const { return panel_; }
    /// The panel of a piece that is, or was last, in hand: the same but while the wall is in hand.
    const PanelRef& piecePanel() const { return piecePanel_; }
    /// Of several layers the last one taken up is the one whose figures show.
    const std::vector<std::string>& layers() const { return layers_; }
    /// That one, or an empty id.
    const std::string& layer() const;
    bool holds(const std::string& layer) const;
    bool mask() const { return mask_; }

    [[nodiscard]] bool takePanel(const PanelRef& panel, const Release& release);
    [[nodiscard]] bool takeLayers(std::vector<std::string> layers);
    [[nodiscard]] bool takeMask(bool on);
    /// Lets go of what the release no longer has.
    [[nodiscard]] bool mend(const Release& release);

  private:
    PanelRef panel_, piecePanel_;
    std::vector<std::string> layers_;
    bool mask_ = false;
};

} // namespace glyptos
