// Internal to type: the ink of a sample, and pictures of one channel that it is compared in.
#pragma once

#include "type/faces/find_face.h"

namespace glyptos {

/// Ink 0…1, width × height without gaps.
struct InkMap {
    int width = 0, height = 0;
    std::vector<float> ink;
    IntRect inSample{}; ///< the px of the sample that it was cut to
    float at(int x, int y) const { return ink[size_t(y) * size_t(width) + size_t(x)]; }
    /// Between pixels' middles; 0 outside.
    float at(double x, double y) const;
};

/// Ink apart from its ground by the threshold that parts their lightness best (Otsu, “A Threshold Selection
/// Method from Gray-Level Histograms”, 1979), specks left out; cut to the ink. Empty when there is none.
InkMap inkOf(const FaceSample& sample);

/// By a Gaussian of so many px; beyond the border is what is at it.
InkMap softened(const InkMap& map, double sigma);

/// To width × height, each pixel the mean of what it covers.
InkMap resized(const InkMap& map, int width, int height);

} // namespace glyptos
