// What to render: panels placed on an output of pixels.
#pragma once

#include "release/echo.h"

#include <optional>
#include <vector>

namespace glyptos {

/// One panel's stack on the output.
struct PanelView {
    Stack stack;
    Affine toOutput;  ///< panel units to output pixels
    IntRect clip;     ///< output pixels that the panel covers; art is cut there
    Rect area;        ///< the same in panel units: the panel with its bleed
    PanelPlace place; ///< whose stack it is; an echo of that place inside it shows nothing
};

/// A snapshot to render: safe to use from any thread while the release goes on being edited.
struct Scene {
    ReleasePtr release;
    std::vector<PanelView> panels;
    /// The layer that is being worked on: what lies below and above it is kept composited. May be empty.
    std::string inHand;
    /// The output pixels that any panel covers.
    IntRect bounds() const;
};

/// One panel alone, with its bleed when `bleed`; the panel's trim corner falls on output pixel (0, 0) moved
/// by `offset`. An empty take is the current one.
Scene panelScene(const ReleasePtr& release, const PanelRef& panel, double pxPerUnit, bool bleed,
                 Vec2 offset = {}, const std::string& take = {});

/// The reference picture of a panel, where it is laid, cut to the panel with its bleed. Empty when there is
/// none.
Scene referenceScene(const ReleasePtr& release, const PanelRef& panel, double pxPerUnit);

/// All panels of a piece on its flat; the flat's origin falls on (0, 0) moved by `offset`.
Scene flatScene(const ReleasePtr& release, const std::string& piece, double pxPerUnit, bool bleed,
                Vec2 offset = {}, const std::string& take = {});

/// What an echo shows, in the units of its piece: a panel's area, or the whole flat. Nothing when it is gone.
std::optional<Rect> echoFrame(const EchoContent& echo, const Release& release);
/// From the units of the echoed piece to the panel that shows it; `frame` is echoFrame's.
Affine echoToPanel(const Placement& placement, const Rect& frame);
/// The panels an echo shows, its own units mapped by `toOutput`. Clips are not set.
std::vector<PanelView> echoViews(const EchoContent& echo, const Release& release, const Affine& toOutput);

} // namespace glyptos
