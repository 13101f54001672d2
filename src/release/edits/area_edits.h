// Areas of a drawing filled on layers below its lines.
#pragma once

#include "release/edits/edits.h"

namespace glyptos {

/// The area filled with a paint directly below the layer of lines: in the group of its colours, which is made
/// when there is none, on the layer of that paint. It leaves all other layers of that group; those that have
/// nothing left go. `area`: one value a pixel, 255 in it, of `pixel` panel units a side. The release itself
/// when there is no such layer.
[[nodiscard]] ReleasePtr withAreaFilled(const ReleasePtr& release, const PanelRef& panel,
                                        const std::string& lines, const PixelTiles& area, double pixel,
                                        const Paint& paint);

} // namespace glyptos
