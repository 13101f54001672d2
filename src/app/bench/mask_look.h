// How a layer's mask is shown on the bench.
#pragma once

#include "render/scene.h"

namespace glyptos {

/// In the art, by itself as black and white, or as a tint over what it hides.
enum class MaskLook : unsigned char { Art, Alone, Tint };

/// The scene of one panel with the mask shown so. A layer without a mask changes nothing.
Scene withMaskShown(Scene scene, const Layer& layer, MaskLook look);

} // namespace glyptos
