// Edits of the treatments of layers.
#pragma once

#include "release/release.h"

namespace glyptos {

/// Whether anything is done to what the layer shows.
bool isTreated(const Layer& layer);
/// The layers with nothing done to them; all layers of the panel when the list is empty.
[[nodiscard]] ReleasePtr untreated(const ReleasePtr& release, const PanelRef& panel,
                                   const std::vector<std::string>& layers);
/// One figure of a treatment of a layer set; the release itself when there is no such.
[[nodiscard]] ReleasePtr withFigure(const ReleasePtr& release, const PanelRef& panel,
                                    const std::string& layer, size_t treatment, size_t figure,
                                    const FigureValue& value);

} // namespace glyptos
