// What a face can do besides its plain letters, in plain words.
#pragma once

#include "type/font_library.h"

namespace glyptos {

/// An OpenType feature that a writer may switch.
struct FaceFeature {
    std::string tag;   ///< "onum"
    std::string label; ///< "Old-style figures"; of a stylistic set what the face calls it
    bool onByItself = false;
};

/// Of the substitutions of a face those that are for a writer to choose, in a fixed order.
std::vector<FaceFeature> featuresOf(const Face& face);

/// Whether letters have it: as chosen, or as it is by itself.
bool hasFeature(const LetterStyle& letters, const FaceFeature& feature);
/// Switched; what is as the feature is by itself is not kept.
LetterStyle withFeature(LetterStyle letters, const FaceFeature& feature, bool on);

/// Height of the capitals, em, measured on H; of a face that lacks it, of its tallest figure, or else 0.7.
double capHeightEm(const Face& face);
/// Height of x, em; 0 when the face lacks it.
double xHeightEm(const Face& face);

} // namespace glyptos
