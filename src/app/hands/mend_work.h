// What mending does off the window's thread, and how its result is laid into a release.
#pragma once

#include "app/session/engine.h"
#include "app/session/long_work.h"
#include "raster/picture.h"
#include "release/edits/edits.h"
#include "render/scene.h"
#include "vision/cutout/alpha_map.h"

namespace glyptos {

/// A place for a mend: the layer that is mended, and the one that mends it as it was when the work began.
struct MendPlace {
    PanelRef panel;
    std::string layer;
    double pixel; ///< panel units a pixel of the mend
    Scene below;  ///< what is mended
    PaintedContent mender;
};
MendPlace mendPlace(const ReleasePtr& release, const PanelRef& panel, const std::string& layer, double pixel);

/// What a mender shows once its work is done.
struct Mended {
    PaintedContent before, after;
};

/// What `covered` says, in pixels of the mend, filled from around. It is to be filled again when what is
/// below has changed.
Result<Mended> filledFromAround(Engine& engine, const MendPlace& place, const PixelTiles& covered,
                                const WorkControl& control);
/// The same filled with what lies (dx, dy) px further, fitted to the light round it.
Result<Mended> filledFromThere(Engine& engine, const MendPlace& place, const PixelTiles& covered, int dx,
                               int dy, const WorkControl& control);

/// The release with that in the layer's mender. Nothing when the layer is gone, or its mender was changed
/// since the work began.
std::optional<Made> withMend(const ReleasePtr& release, const MendPlace& place, const Mended& mended);

} // namespace glyptos
