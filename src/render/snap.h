// Snapping: where a moved layer wants to rest, and why.
#pragma once

#include "form/flat.h"
#include "render/layer_geometry.h"

#include <string>
#include <vector>

namespace glyptos {

/// A line that edges and middles of layers snap to.
struct SnapLine {
    bool upright = true; ///< x = at; else y = at
    double at = 0;       ///< panel units
    std::string reason;  ///< "centre of Front", "trim", "safety", "edge of Moon"
};

struct SnapOptions {
    bool panel = true;  ///< centre, trim, bleed and safety
    bool layers = true; ///< edges and middles of other layers
};

/// All lines of a panel and of the layers on it, without `moving` and fills.
std::vector<SnapLine> snapLines(const Release& release, const PanelRef& panel,
                                const std::vector<std::string>& moving, const SnapOptions& options,
                                ParagraphCache& paragraphs);

struct Snapped {
    Vec2 by;                      ///< further way to go
    std::vector<SnapLine> caught; ///< at most one upright and one level
};

/// The nearest rest for a layer whose bounds are `bounds`, within `reach` panel units in each direction.
Snapped snap(const Rect& bounds, const std::vector<SnapLine>& lines, double reach);

} // namespace glyptos
