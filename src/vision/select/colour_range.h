// What has about the same colour as a point.
#pragma once

#include "base/geometry.h"
#include "color/color.h"
#include "raster/picture.h"
#include "vision/cutout/alpha_map.h"

#include <atomic>

namespace glyptos {

struct ColourRange {
    double tolerance =
        10; ///< CIEDE2000 up to which a colour is wholly selected; a fifth further it fades out
    bool connected = true; ///< only the patch that the point lies in, or everywhere
    const std::atomic<bool>* cancel = nullptr;
};

/// By the mean colour of the 3 × 3 px about a point, which must lie in the picture. See-through pixels are
/// selected as far as they are covered. Nothing is selected after a cancel.
AlphaMap withColourOf(const Picture& picture, int x, int y, const ColourRange& range);

} // namespace glyptos
