// Internal to render: a stack in one tile before anything of it is drawn: what each layer will show, by the
// hash of all that it depends on, and how to make it. Stacks of one name look the same.
#pragma once

#include "raster/tile.h"
#include "render/layer_geometry.h"
#include "render/picture_provider.h"
#include "render/scene.h"
#include "render/tiles/brush_cache.h"
#include "render/tiles/grade_cache.h"
#include "render/tiles/prepared.h"

#include <functional>
#include <optional>

namespace glyptos {

struct Scratch;

/// What naming draws on.
struct RenderParts {
    PictureProvider& pictures;
    ParagraphCache& paragraphs;
    BrushCache& brushes;
    GradeCache& grades;
    TileCache& tiles;
};

/// A tile that is not there yet.
struct TileRecipe {
    TileKey key;
    std::function<Tile(Scratch&)> make;
    bool blended = false; ///< its pixels are in the blend space already
};

/// Grades that are not made ready yet.
struct GradeRecipe {
    struct Step {
        TileKey key;
        const Treatment* treatment;
        std::optional<TileRecipe> mask;
    };
    std::vector<Step> steps;
    Place place;
    std::reference_wrapper<GradeCache> ready;
};

struct NamedLayer;
struct NamedGroup {
    std::vector<NamedLayer> layers; ///< front to back; of a clip, its base comes last
    GroupKind kind = GroupKind::Isolated;
};

/// Nothing to see, which may still take the backdrop away.
struct Nothing {};

struct NamedLayer {
    BlendMode blend = BlendMode::Normal;
    float opacity = 1;
    bool opaque = false; ///< known to hide all beneath it in this tile; drawing it may show that it does too
    bool inHand = false; ///< it is, or holds, the layer in hand
    TileKey key;         ///< of all it shows, its mask included
    std::variant<Nothing, SolidRows, PictureRows, TileRecipe, NamedGroup, GradeRecipe> rows;
    std::optional<TileRecipe> mask;
};

/// The layers of `view`, one of the scene's, that reach into `region`, front to back.
std::vector<NamedLayer> nameStack(const RenderParts& parts, const Scene& scene, const PanelView& view,
                                  const IntRect& region);

/// The name of all layers together, blended in linear light or not.
TileKey nameOf(const std::vector<NamedLayer>& layers, const IntRect& region, bool linear);

} // namespace glyptos
