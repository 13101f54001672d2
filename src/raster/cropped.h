// A rectangle of a picture as a picture.
#pragma once

#include "base/geometry.h"
#include "raster/picture.h"

namespace glyptos {

/// The pixels of `area`, which lies in the picture, in its depth.
Picture croppedTo(const Picture& picture, const IntRect& area);

} // namespace glyptos
