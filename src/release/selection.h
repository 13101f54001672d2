// What is selected on a panel: the part that masks, fills, cuts and mending are made of or kept to.
#pragma once

#include "release/painted.h"

#include <optional>
#include <string>
#include <vector>

namespace glyptos {

/// One 8-bit value a pixel, 255 wholly selected; pixel (0, 0) begins at the panel's origin.
struct Selection {
    PixelTilesPtr tiles; ///< never missing, never empty
    double pixel = 1;    ///< panel units a side
    bool operator==(const Selection& o) const { return pixel == o.pixel && sameTiles(tiles, o.tiles); }
};

struct NamedSelection {
    std::string name;
    Selection selection;
    bool operator==(const NamedSelection&) const = default;
};

/// What is selected on a panel now, if anything, and what is kept by name.
struct PanelSelections {
    std::optional<Selection> now;
    std::vector<NamedSelection> kept;
    bool empty() const { return !now && kept.empty(); }
    bool operator==(const PanelSelections&) const = default;
};

} // namespace glyptos
