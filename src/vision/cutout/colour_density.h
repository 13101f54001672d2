// Internal to cutting out: how likely a colour is among those of a set of pixels.
#pragma once

#include "color/color.h"

#include <vector>

namespace glyptos {

/// A histogram of 32³ boxes in sRGB, softened: a kernel density estimate with a narrow and a wide kernel, so
/// that any number of kinds of colour finds room in it and colours like them are not strange either. 1 is the
/// density of colours that are spread evenly.
class ColourDensity {
  public:
    /// Nothing is likely.
    ColourDensity();
    explicit ColourDensity(const std::vector<Rgba>& colours);
    float at(const Rgba& colour) const;
    /// What is left without as much of the other as seems to be in it: of what lies in a box, the figure
    /// alone.
    ColourDensity without(const ColourDensity& other) const;

  private:
    std::vector<float> boxes_;
};

/// Logarithm of how much more likely the colour is in one than in the other; about -7 to 7.
float leaning(const ColourDensity& figure, const ColourDensity& ground, const Rgba& colour);

} // namespace glyptos
