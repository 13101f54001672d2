// A figure cut off its ground, as layers.
#pragma once

#include "release/edits/edits.h"

#include <string_view>

namespace glyptos {

/// A picture layer that shows the figure alone: masked, and grouped with a layer of its clean edge colours
/// that is clipped to it, so that both move as one. `alpha` and `edges` (RGBA; may be missing) are in the
/// pixels of the picture, and so are the hints that it was found by. A layer that was cut out before gets the
/// new mask and the new edges in place of the old. The id is that of the picture layer. Nothing changes when
/// the layer is not there or shows no picture.
[[nodiscard]] Made withCutOut(const ReleasePtr& release, const PanelRef& panel, const std::string& layer,
                              const PixelTilesPtr& alpha, const PixelTilesPtr& edges,
                              const std::shared_ptr<const CutoutHints>& hints = nullptr);

/// The words right behind the figure of a picture that is cut out, and so in front of its ground.
[[nodiscard]] ReleasePtr withWordsBehind(const ReleasePtr& release, const PanelRef& panel,
                                         const std::string& words, const std::string& picture);
/// The same for a picture that is not cut out: the words right in front of it, and a copy of it in front of
/// them that shows the figure alone. `alpha`, `edges` and hints as above; the id is that of the copy.
[[nodiscard]] Made withWordsInside(const ReleasePtr& release, const PanelRef& panel, const std::string& words,
                                   const std::string& picture, const PixelTilesPtr& alpha,
                                   const PixelTilesPtr& edges);

/// Whether a picture layer's mask is one in the picture's own pixels, as cutting it out makes it.
bool isCutOut(const Layer& layer, const Release& release);
/// The layer with the mask that it has, and with other edge colours, or none.
[[nodiscard]] ReleasePtr withEdgeColours(const ReleasePtr& release, const PanelRef& panel,
                                         const std::string& layer, const PixelTilesPtr& edges);
/// The layer of edge colours that belongs to a cut-out picture layer; nothing when there is none.
LayerPtr edgeColoursOf(const Stack& stack, std::string_view layer);
/// What moves as one with a layer: the group that cutting it out made, else the layer itself.
std::string wholeFigureOf(const Stack& stack, const std::string& layer);

} // namespace glyptos
