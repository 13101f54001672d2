// Layers that are painted on, and lines drawn with a brush.
#pragma once

#include "release/edits/edits.h"

namespace glyptos {

/// An empty one to paint on, whose pixels are those of the panel, `pixel` units a side.
Layer newPaintLayer(double pixel);
/// The layer itself when it can be painted on; else a new one directly in front of it (or at the front).
[[nodiscard]] Made withPaintLayer(const ReleasePtr& release, const PanelRef& panel, const std::string& layer,
                                  double pixel);
/// A layer that is painted on, not one that mends.
bool isPaintLayer(const Layer& layer);

/// A way on the panel.
struct Way {
    std::vector<Contour> contours; ///< in the way's own frame
    Placement placement;           ///< of that frame
};

/// A new layer in front of another, of a line along a way that is drawn with a brush as wide as `width`.
[[nodiscard]] Made withBrushedLine(const ReleasePtr& release, const PanelRef& panel, const std::string& above,
                                   const std::string& name, const Way& way, double width, const Ink& ink,
                                   const BrushedLine& brushed);
/// The contours on the panel as a shape's own frame wants them.
Way wayOf(std::vector<Contour> onPanel);

} // namespace glyptos
