// How a layer's mask is shown on the bench.
#pragma once

#include "render/scene.h"

namespace glyptos {

/// In the art, by itself as black and white, as a tint over what it hides; or the layer, with what is grouped
/// with it, alone on a ground that shows its edge, or on what lies below it.
enum class MaskLook : unsigned char { Art, Alone, Tint, OnBlack, OnWhite, OnColour, OnChecker, OnBelow };

/// The scene of one panel with the mask shown so. A layer without a mask changes nothing.
Scene withMaskShown(Scene scene, const Layer& layer, MaskLook look);

} // namespace glyptos
