// Dabs as pixels.
//
// A round tip covers a pixel by how far its middle lies from the tip's, d px: s(t) = t²(3 - 2t) of
// t = (r + ½ - d) / w within 0…1, where r is the radius and w = (1 - hardness)·r + 1, at most r + ½: whole to
// the hardness, half a pixel soft round its rim. An ellipse falls likewise along its own gradient. A tip of
// less than one px is drawn as one of one px and covers as much less. Dabs of one colour: cover += (tip -
// cover)·flow where the tip covers more, so that a stroke is never more than its tip. Dabs of several colours
// lie over each other, each with tip·flow as its alpha.
#pragma once

#include "raster/brush/dab.h"
#include "raster/brush/tip_look.h"
#include "raster/buffer.h"

#include <span>

namespace glyptos {

/// Planes of an area: cover, and when dabs differ in colour red, green and blue, premultiplied by it. Rows
/// without gaps, each plane behind the one before.
struct DabPlanes {
    IntRect area; ///< px
    float* values = nullptr;
    bool coloured = false;
    size_t planeSize() const { return size_t(area.w) * size_t(area.h); }
    float* row(int plane, int y) const {
        return values + size_t(plane) * planeSize() + size_t(y - area.y) * size_t(area.w);
    }
};

/// Draws dabs, in px, over what the planes hold, in their order. Coloured planes are for a coloured look.
void drawDabs(const TipLook& look, std::span<const Dab> dabs, const DabPlanes& planes);

/// How much a round tip without texture covers at a distance from its middle, px.
double roundCover(double radius, double hardness, double distance);

} // namespace glyptos
