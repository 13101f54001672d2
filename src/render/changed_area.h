// Where a panel looks otherwise after an edit, worked out from the layers that are not shared.
#pragma once

#include "render/layer_geometry.h"

#include <optional>

namespace glyptos {

/// The part of the panel, in its units, outside of which `after` looks as `before` did; empty when nothing
/// has changed there. No value: anywhere. It may be larger than what has changed, never smaller, but for
/// pictures that are decoded meanwhile.
std::optional<Rect> changedArea(const ReleasePtr& before, const ReleasePtr& after, const PanelRef& panel,
                                ParagraphCache& paragraphs);

} // namespace glyptos
