// Internal to vision: a picture made small enough to look at as a whole, or a part of it as it is.
#pragma once

#include "base/geometry.h"
#include "color/color.h"
#include "raster/picture.h"

#include <vector>

namespace glyptos {

/// Colours of a small picture, row by row: averages over the pixels that each stands for, see-through ones
/// over mid grey, so that a cut-out has the outline that it shows.
struct Reduced {
    int width = 0, height = 0;
    std::vector<Rgba> pixels;
    const Rgba& at(int x, int y) const { return pixels[size_t(y) * size_t(width) + size_t(x)]; }
};

/// A pixel as the picture holds it.
Rgba straightAt(const Picture& picture, int x, int y);

/// The pixels of an area that lies within the picture.
Reduced partOf(const Picture& picture, const IntRect& area);

/// The picture at exactly width × height, which stretches it.
Reduced reduced(const Pyramid& picture, int width, int height);
/// Its longer side `side` px, or less when the picture is smaller.
Reduced reducedTo(const Pyramid& picture, int side);

} // namespace glyptos
