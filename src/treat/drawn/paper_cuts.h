// How a picture is cut into papers: what cut paper is drawn from, and what its outlines are traced from.
#pragma once

#include "color/oklab.h"
#include "treat/drawn/tone.h"

namespace glyptos {

/// Of the figures of cut paper: its papers from the darkest on, and the lightness, encoded, above which each
/// but the first lies.
std::vector<Rgba> paperColours(const Figures& cutPaper);
std::vector<float> paperLevels(const Figures& cutPaper);

/// The lightness that all of a picture in memory is cut along, on all cores.
Plane paperLight(const Planes& whole, const Figures& cutPaper, const Place& place);

/// How much of each pixel lies above a level of `light`, which must reach one px beyond `area`.
Plane coverAbove(const Plane& light, float level, const IntRect& area);

} // namespace glyptos
