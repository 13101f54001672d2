// The same flatten by other libraries, as one would write it with each.
#pragma once

#include "layers.h"

#include <functional>

namespace glyptos::bench {

struct Peer {
    std::string name;
    double budget = 0; ///< ratio of our time to its; 0: none is set
    /// Flattens the layers to 8-bit RGBA; what it needs is made beforehand.
    std::function<void()> flatten;
    /// Whether it mixes see-through layers as the W3C formulas do, so that results can be compared.
    /// libvips 8.14 multiplies colours that carry their alpha already.
    bool sameFormulas = true;
    /// The 8-bit colour of a pixel of the result, to see that it did the same work.
    std::function<std::array<int, 3>(int x, int y)> pixel;
};

/// QPainter always; libvips, pixman and OpenCV when their development files were there at build time.
std::vector<Peer> peersFor(const Layers& layers);

} // namespace glyptos::bench
