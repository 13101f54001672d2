// How alike two pictures are: in their colours and in what runs where.
#pragma once

#include "color/palette.h"

#include <array>
#include <cstdint>
#include <vector>

namespace glyptos {

/// Directions of edges over the whole picture, its quarters and its sixteenths: a spatial pyramid of
/// histograms of oriented gradients (Lazebnik, Schmid and Ponce, "Beyond bags of features", 2006; Dalal and
/// Triggs, "Histograms of oriented gradients", 2005). Each of 21 fields has eight directions that add up to
/// about 255, or 0 when nothing runs there.
using EdgePattern = std::array<uint8_t, size_t(1 + 4 + 16) * 8>;

/// What is kept of a picture to compare it by.
struct Traits {
    std::vector<PaletteSpot> palette;
    EdgePattern edges{};
};

Traits traitsOf(const Pyramid& picture, const std::vector<PaletteColour>& palette);

/// Differences of a picture from another, 0 (the same) to about 1 (strangers).
double colourDifference(const Traits& a, const Traits& b);
double structureDifference(const Traits& a, const Traits& b);

struct LikenessWeights {
    double colour = 1, structure = 1; ///< ≥ 0, not both 0
};
/// The weighted mean of the two differences.
double difference(const Traits& a, const Traits& b, const LikenessWeights& weights);

/// Indices of `all` from the most alike to the least, at most `most` of them.
struct Relative {
    size_t index = 0;
    double difference = 0;
};
std::vector<Relative> relatives(const Traits& of, const std::vector<const Traits*>& all,
                                const LikenessWeights& weights, size_t most);

} // namespace glyptos
