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
    /// In panel units, where art prints when that is not all of the area; art is cut there too.
    std::shared_ptr<const Path> prints = nullptr;
};

/// A snapshot to render: safe to use from any thread while the release goes on being edited.
struct Scene {
    ReleasePtr release;
    std::vector<PanelView> panels;
    /// The layer that is being worked on: what lies below and above it is kept composited. May be empty.
    std::string inHand;
    /// Something is being dragged: what is warped is sampled once a pixel, to be drawn anew when it rests.
    bool moving = false;
    /// The output pixels that any panel covers.
    IntRect bounds() const;
};

/// How panels lie on the output, and which take of them.
struct OnOutput {
    double pxPerUnit = 1;
    bool bleed = false;                         ///< whether the bleed shows
    Vec2 offset = {};                           ///< output px of the origin
    std::string take = {};                      ///< empty: the current one
    bool cut = true;                            ///< art shows only where it prints
    std::optional<size_t> sheet = std::nullopt; ///< of the flat, that one alone
};

/// One panel alone; its origin is its trim's corner.
Scene panelScene(const ReleasePtr& release, const PanelRef& panel, const OnOutput& how);

/// The reference picture of a panel, where it is laid, cut to the panel with its bleed. Empty when there is
/// none.
Scene referenceScene(const ReleasePtr& release, const PanelRef& panel, double pxPerUnit);

/// All panels of a piece on its flat; the origin is the flat's.
Scene flatScene(const ReleasePtr& release, const std::string& piece, const OnOutput& how);

/// Some panels of a flat, by their places in it, each within its trim; the flat is mapped by `flatToOutput`.
Scene mappedScene(const ReleasePtr& release, const std::string& piece, const std::vector<size_t>& panels,
                  const Affine& flatToOutput);

/// One layer alone, on nothing, plainly blended and opaque; `area` of the panel is mapped by `toOutput`.
Scene aloneScene(const ReleasePtr& release, const Layer& layer, bool masked, const Affine& toOutput,
                 const Rect& area);

/// What an echo shows, in the units of its piece: a panel's area, or the whole flat. Nothing when it is gone.
std::optional<Rect> echoFrame(const EchoContent& echo, const Release& release);
/// From the units of the echoed piece to the panel that shows it; `frame` is echoFrame's.
Affine echoToPanel(const Placement& placement, const Rect& frame);
/// The panels an echo shows, its own units mapped by `toOutput`. Clips are not set.
std::vector<PanelView> echoViews(const EchoContent& echo, const Release& release, const Affine& toOutput);

} // namespace glyptos
