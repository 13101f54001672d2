// Internal to render: gets stacks ready for one tile: pictures sampled, words and shapes drawn, masks made,
// hidden layers left out.
#pragma once

#include "render/layer_geometry.h"
#include "render/picture_provider.h"
#include "render/prepared.h"
#include "render/scene.h"
#include "render/tile_cache.h"

namespace glyptos {

/// What preparing draws on.
struct RenderParts {
    PictureProvider& pictures;
    ParagraphCache& paragraphs;
    TileCache& tiles;
};

/// The layers of `view` in `region`, back to front, from the topmost one that hides all beneath it.
/// `inHand` marks the layer that is, or holds, the one with that id.
std::vector<PreparedLayer> prepareStack(const RenderParts& parts, const Release& release,
                                        const PanelView& view, const IntRect& region,
                                        const std::string& inHand);

/// The tile with that key, made when it is not kept.
template <class Make>
TilePtr keptTile(TileCache& cache, const TileKey& key, Make make) {
    TilePtr tile = cache.find(key);
    if (!tile) {
        tile = std::make_shared<const Tile>(make());
        cache.insert(key, tile);
    }
    return tile;
}

} // namespace glyptos
