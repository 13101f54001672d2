// Art in press inks, as pictures of print files hold it.
#pragma once

#include "color/profile.h"
#include "render/renderer.h"

namespace glyptos {

struct InkedArt {
    Buffer<uint8_t> cmyk; ///< rows of 4 bytes a pixel, 255 = full ink
    IntRect area;         ///< output pixels
    double mostInk = 0;   ///< largest total of the four, 1 = 100 %
};

/// The scene on white paper, rendered and inked by all cores. Of no use once `*cancel` is true.
InkedArt inkedArt(Renderer& renderer, const Scene& scene, const ToPress& press,
                  const std::atomic<bool>* cancel);

} // namespace glyptos
