// Where a picture draws the eye, and the part of it to show so that this stays in frame.
#pragma once

#include "base/geometry.h"
#include "raster/picture.h"

#include <vector>

namespace glyptos {

/// How much each place stands out, 0…1, row by row.
struct SaliencyMap {
    int width = 0, height = 0;
    std::vector<float> weight;
};

/// R. Achanta et al., "Frequency-tuned salient region detection" (2009), in Oklab: the distance of the
/// softened colour from the picture's mean; leaning to the middle, where subjects are put.
SaliencyMap saliencyOf(const Pyramid& picture);

/// The largest part of the picture with proportions `aspect` (width / height of what is shown, in pixels)
/// that holds most of what stands out, in shares of width and height. A little is given up for staying near
/// the middle.
Rect partInFrame(const SaliencyMap& map, double pictureAspect, double aspect);

} // namespace glyptos
