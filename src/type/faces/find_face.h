// Which face words in a picture are set in.
#pragma once

#include "type/font_library.h"

#include <span>

namespace glyptos {

/// A part of a picture with words in it: lightness 0…1, width × height without gaps.
struct FaceSample {
    int width = 0, height = 0;
    std::vector<float> lightness;
};

struct FaceMatch {
    std::string family, style;
    double score = 0; ///< correlation of the inks, at most 1, less what their proportions differ
    bool operator==(const FaceMatch&) const = default;
};

/// The faces most like the words `utf8` in the sample, the best style of each family, best first. Ink is what
/// the border has less of, dark or light. Words are laid over the sample as wide and as high as its ink, then
/// by the homography that fits best (Gauss-Newton on squared differences: Lucas and Kanade, “An Iterative
/// Image Registration Technique”, 1981). Empty when the sample has no ink or no face has the words' letters.
std::vector<FaceMatch> findFaces(const FaceSample& sample, const std::string& utf8, const FontLibrary& fonts);

/// The px of the sample that its ink lies in; empty when it has none.
IntRect inkBounds(const FaceSample& sample);

} // namespace glyptos
