// Internal to cutting out: where alpha is open.
#pragma once

#include "vision/cutout/trimap.h"
#include "vision/reduced.h"

namespace glyptos {

/// A trimap from a hard mask (0 or 255) of the picture: the band round its outline, `width` px to each side,
/// and near it wherever colours do not speak clearly for what the mask says, which is probable there: hairs
/// that stand out, and ground that shows between them.
AlphaMap bandOf(const Reduced& picture, const AlphaMap& mask, double width);

} // namespace glyptos
