// The layer in hand as the hands that knead, bend and tilt it see it.
#pragma once

#include "app/bench/bench_hand.h"
#include "raster/warp/mapping.h"
#include "release/warp.h"

namespace glyptos {

struct WarpedLayer {
    LayerPtr layer; ///< a cut-out figure as a whole
    Rect box;       ///< what is warped, in its own frame
    Affine placed;  ///< from there to the panel, before it is warped
    Warp warp;      ///< with its box, when it needs one

    /// From shares of the box, bent or not, to the panel: as it is tilted and placed.
    Mapping fromShares() const;
    /// The other way; nothing where nothing of it can be seen.
    std::optional<Vec2> toShares(Vec2 onPanel) const;
    /// From the panel to shares of the box before it is bent and tilted, as it is kneaded there.
    std::optional<Vec2> toKneaded(Vec2 onPanel) const;
    /// The layer with another warp.
    Layer with(Warp next) const;
};

/// Nothing when no one layer is in hand, or it is a fill, or empty.
std::optional<WarpedLayer> warpedLayer(const ComposeBench& bench);
/// The same of a layer of the panel in hand; nothing when that is a fill, or empty.
std::optional<WarpedLayer> warpedLayer(const ComposeBench& bench, const LayerPtr& layer);
/// Why the layer in hand cannot be warped; empty when it can.
QString whyNotWarped(const ComposeBench& bench);

} // namespace glyptos
