// Textures with a hole whose content is known.
#pragma once

#include "raster/picture.h"
#include "vision/cutout/alpha_map.h"

#include <array>

namespace glyptos::test {

enum class Texture { Weave, Bricks, Ripples, Bark, Edge, Curve, Grain, Wire };

struct KnownTexture {
    Picture truth;   ///< opaque, 8 bits
    Picture damaged; ///< the same, the hole painted over
    AlphaMap hole;   ///< 255 where it is
};

/// `side` px a side with a hole of `holeSide` px about its middle: an uneven round shape, or all along a wire
/// of about 5 px. The same for the same seed.
KnownTexture knownTexture(Texture texture, int side, int holeSide, uint32_t seed);

/// The texture with the hole filled by what it could as well have been: its structure as it is, its chance
/// another.
Picture byOtherChance(const KnownTexture& known, Texture texture, uint32_t seed);

Picture copyOf(const Picture& picture);

} // namespace glyptos::test
