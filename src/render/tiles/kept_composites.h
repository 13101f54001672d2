// Internal to render: what lies below and above the layer in hand, kept as one tile each.
#pragma once

#include "render/tiles/named_stack.h"

namespace glyptos {

/// Replaces the layers below the one in hand by one tile of their composite, and those above it too when all
/// of them are Normal, so that a change to the layer in hand blends three layers and not the whole stack, and
/// draws one. Nothing changes when no layer is in hand. Rounding to the tile's 16 bits changes a pixel by
/// 1/65535 at most.
void keepComposites(std::vector<NamedLayer>& layers, const IntRect& region, bool linear, TileCache& tiles);

/// Whether a composite is in the space it was blended in, or sRGB-encoded.
enum class TileSpace : unsigned char { Blended, Encoded };
/// All layers over nothing, as one tile.
Tile compositeTile(const std::vector<NamedLayer>& names, const IntRect& region, TileCache& tiles,
                   Scratch& scratch, TileSpace space);

} // namespace glyptos
