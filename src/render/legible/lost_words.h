// Which words cannot be read any more when their panel is shown small.
#pragma once

#include "render/layer_geometry.h"

namespace glyptos {

/// Words that cannot be read once the longer side of their panel is shown at fewer than `below` px: the ink
/// of their small letters is then less than kLeastInk px high.
struct LostWords {
    std::string layer; ///< its name
    int below = 0;
};
inline constexpr double kLeastInk = 4;
/// The words of a panel that are lost at `smallest` px of its longer side.
std::vector<LostWords> lostWords(const Release& release, const PanelRef& panel, int smallest,
                                 ParagraphCache& paragraphs);

} // namespace glyptos
