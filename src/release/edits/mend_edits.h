// Layers that mend what lies below them.
#pragma once

#include "release/edits/edits.h"

namespace glyptos {

/// The layer that mends another one, its pixels those of the panel, `pixel` units a side: that one itself
/// when it mends, else the one directly in front of it that does. Nothing when there is none.
LayerPtr menderOf(const Stack& stack, std::string_view layer, double pixel);

/// The release with such a layer, made directly in front when there is none.
[[nodiscard]] Made withMender(const ReleasePtr& release, const PanelRef& panel, const std::string& layer,
                              double pixel);

/// What a layer covers: the panel's stack without all that lies in front of it, and without the layer itself.
/// Of a group only what lies in the same group.
Stack stackBelow(const Stack& stack, std::string_view layer);

} // namespace glyptos
