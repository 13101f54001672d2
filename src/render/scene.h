// What to render: panels placed on an output of pixels.
#pragma once

#include "release/release.h"

#include <vector>

namespace glyptos {

/// One panel's stack on the output.
struct PanelView {
    Stack stack;
    Affine toOutput; ///< panel units to output pixels
    IntRect clip;    ///< output pixels that the panel covers; art is cut there
    Rect area;       ///< the same in panel units: the panel with its bleed
};

/// A snapshot to render: safe to use from any thread while the release goes on being edited.
struct Scene {
    ReleasePtr release;
    std::vector<PanelView> panels;
    /// The output pixels that any panel covers.
    IntRect bounds() const;
};

/// One panel alone, with its bleed when `bleed`; the panel's trim corner falls on output pixel (0, 0) moved
/// by `offset`.
Scene panelScene(const ReleasePtr& release, const PanelRef& panel, double pxPerUnit, bool bleed,
                 Vec2 offset = {});

/// All panels of a piece on its flat; the flat's origin falls on (0, 0) moved by `offset`.
Scene flatScene(const ReleasePtr& release, const std::string& piece, double pxPerUnit, bool bleed,
                Vec2 offset = {});

} // namespace glyptos
