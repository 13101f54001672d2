// The way that a brush can follow of a layer.
#pragma once

#include "release/edits/brush_edits.h"
#include "render/layer_geometry.h"

namespace glyptos {

/// Of a shape its outline, of words theirs, of a spiral its turns, of anything else its frame. Nothing when
/// there is no way: of what shows nothing, and of other fills.
std::optional<Way> wayAlong(const Layer& layer, const Release& release, const Rect& panelArea,
                            ParagraphCache& paragraphs);

/// Of a layer whose way are the turns of a spiral.
const Gradient* spiralOf(const Layer& layer);

} // namespace glyptos
