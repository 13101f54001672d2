// Art in press inks, as pictures of print files hold it.
#pragma once

#include "color/profile.h"
#include "render/renderer.h"

#include <array>
#include <string>
#include <vector>

namespace glyptos {

struct InkedArt {
    Buffer<uint8_t> cmyk;          ///< rows of 4 bytes a pixel, 255 = full ink
    IntRect area;                  ///< output pixels
    double mostInk = 0;            ///< largest total of the four, 1 = 100 %
    std::array<bool, 4> used = {}; ///< which of cyan, magenta, yellow and black print anywhere
};

/// The names of those of the four.
std::vector<std::string> processInks(const std::array<bool, 4>& used);

/// The scene on white paper, rendered and inked by all cores. Of no use once `*cancel` is true.
InkedArt inkedArt(Renderer& renderer, const Scene& scene, const ToPress& press,
                  const std::atomic<bool>* cancel);

/// One ink alone.
struct InkedPlate {
    Buffer<uint8_t> tint; ///< a byte a pixel, 255 = full ink
    IntRect area;         ///< output pixels
    bool any = false;     ///< whether it prints anywhere
};

/// The plate of a scene that is seen as that ink (plates.h): how light it is on black.
InkedPlate inkedPlate(Renderer& renderer, const Scene& scene, const std::atomic<bool>* cancel);
/// Where there is any art at all, drawn in from its edges by `choke` pixels, so that it does not show beside
/// inks that are printed over it out of register.
InkedPlate coverPlate(Renderer& renderer, const Scene& scene, int choke, const std::atomic<bool>* cancel);

} // namespace glyptos
