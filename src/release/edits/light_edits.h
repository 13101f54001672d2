// Fading edges, dark corners and glows: each one step, and made of what can be changed afterwards.
#pragma once

#include "release/edits/edits.h"

namespace glyptos {

/// The layer with that mask. One that has a mask already is put into a group that has this one.
[[nodiscard]] Result<Made> withOneMaskMore(const ReleasePtr& release, const PanelRef& panel,
                                           const std::string& layer, Mask mask);
/// The layer fades out over `width` panel units along the edges of an area: a soft rectangle is its
/// mask, or one mask more.
[[nodiscard]] Result<Made> withFadedEdges(const ReleasePtr& release, const PanelRef& panel,
                                          const std::string& layer, const Rect& area, double width);
/// A layer that darkens an area from its middle to its corners.
Layer darkCorners(const Rect& area, const Ink& dark);
/// A layer directly behind another that glows round it: what that covers (one value a pixel, of `pixel` panel
/// units) made soft over `width` panel units, in a colour that lightens.
[[nodiscard]] Made withGlow(const ReleasePtr& release, const PanelRef& panel, const std::string& layer,
                            const PixelTilesPtr& cover, double pixel, double width, const Ink& light);

} // namespace glyptos
