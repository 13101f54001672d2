// A figure cut off its ground, as layers.
#pragma once

#include "release/edits/edits.h"

namespace glyptos {

/// A picture layer that shows the figure alone: masked, and grouped with a layer of its clean edge colours
/// that is clipped to it, so that both move as one. `alpha` and `edges` (RGBA; may be missing) are in the
/// pixels of the picture. A layer that was cut out before gets the new mask and the new edges in place of the
/// old. The id is that of the picture layer. Nothing changes when the layer is not there or shows no picture.
[[nodiscard]] Made withCutOut(const ReleasePtr& release, const PanelRef& panel, const std::string& layer,
                              const PixelTilesPtr& alpha, const PixelTilesPtr& edges);

} // namespace glyptos
