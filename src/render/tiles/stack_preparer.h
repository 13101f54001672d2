// Internal to render: draws what a named stack needs for one tile, from the front, until one hides the rest.
#pragma once

#include "render/tiles/named_stack.h"

namespace glyptos {

/// The layers, back to front, from the topmost one that hides all beneath it.
std::vector<PreparedLayer> prepared(const std::vector<NamedLayer>& names, TileCache& tiles, Scratch& scratch);

} // namespace glyptos
