// Internal to cutting out: what colours say of figure and ground, place by place.
#pragma once

#include "vision/cutout/alpha_map.h"
#include "vision/cutout/colour_density.h"
#include "vision/reduced.h"

#include <optional>

namespace glyptos {

/// Figure and ground by their colours alone.
struct Colours {
    ColourDensity figure, ground;
    float speaks(const Rgba& c) const { return leaning(figure, ground, c); }
};

/// Learnt once for the whole picture, or also place by place.
enum class Place : unsigned char { Whole, Local };

/// A face may have the colour of the wall on the other side of the picture. So colours are learnt in squares
/// of a third of the picture, each with as much round it, and between their middles what they say goes over
/// into each other; the whole picture counts as much as the place.
class LocalColours {
  public:
    /// From what `labels`, of the picture's size, say is figure (255) and ground (0); nothing is learnt from
    /// others. Nothing when there is no figure or no ground.
    static std::optional<LocalColours> learn(const Reduced& picture, const AlphaMap& labels, Place place);
    /// Of each pixel, row by row: the logarithm of how much more likely it is figure than ground.
    std::vector<float> speaks() const;

  private:
    LocalColours(const Reduced& picture, Colours whole)
        : picture_(&picture)
        , whole_(std::move(whole)) {}
    float at(int x, int y) const;

    const Reduced* picture_;
    Colours whole_;
    double side_ = 0; ///< px; 0: only the whole
    int columns_ = 0, rows_ = 0;
    std::vector<std::optional<Colours>> cells_; ///< of the squares about the corners of a lattice
};

} // namespace glyptos
