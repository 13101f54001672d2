// Internal to render: what a treatment that looks around itself makes of a layer in one tile.
#pragma once

#include "render/tiles/named_stack.h"
#include "treat/planes.h"

namespace glyptos {

/// Names what shows in any region of an output that `map` leads to from units of the panel.
using Naming = std::function<std::vector<NamedLayer>(const Affine& map, const IntRect& region)>;

struct TreatedSource {
    Naming name;                  ///< what is treated
    std::vector<Naming> pictures; ///< what is read besides; nothing where it is not there
    Place place;                  ///< of the region that is drawn
    bool linear = false;
    TileCache& tiles;
};

/// Draws all of the region: tiles of the source are had by their names, so that neighbours, other treatments
/// and later pictures find them again.
Tile treatedTile(const Treatment& treatment, const TreatedSource& source,
                 const std::optional<TileRecipe>& mask, const IntRect& region, Scratch& scratch);

/// What a kept tile holds for such a recipe.
TilePtr keptTile(const TileRecipe& recipe, TileCache& tiles, Scratch& scratch);

} // namespace glyptos
