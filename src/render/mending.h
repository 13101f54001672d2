// Layers that mend, as pixels: what lies below them is filled, patched or copied into them.
#pragma once

#include "raster/picture.h"
#include "release/release.h"
#include "render/scene.h"
#include "vision/cutout/alpha_map.h"

namespace glyptos {

/// What lies below a layer, in its own pixels of `pixel` panel units.
Scene sceneBelow(const ReleasePtr& release, const PanelRef& panel, const std::string& layer, double pixel);

/// That layer alone, whole and as it lies, whatever it is switched to.
Scene sceneAlone(const ReleasePtr& release, const PanelRef& panel, const Layer& layer, double pixel);

/// The pixels round `hole` that mending it looks at, within `all`.
IntRect mendReach(const IntRect& hole, const IntRect& all);

/// Pixels to lay into a layer, as far as `cover` says: 255 wholly. Both begin at (x, y).
struct LaidPixels {
    const Picture& picture; ///< 8 bits
    const AlphaMap& cover;
    int x, y;
    bool isHole; ///< to be mended again when what lies below has changed
};
/// The content with those laid over what `under` shows there, or over what it shows itself.
PaintedContent withPixels(const PaintedContent& content, const LaidPixels& laid,
                          const PixelTiles* under = nullptr);

/// What a copy shows in `area`, from whose places `toPicture` leads to those of the picture; see-through
/// beyond its edge.
Picture copiedAlong(const Picture& picture, const Affine& toPicture, const IntRect& area);

} // namespace glyptos
