// The colours of pictures: counted, gathered into groups in a perceptual space, and told with their shares.
#pragma once

#include "color/oklab.h"
#include "raster/picture.h"

#include <cstdint>
#include <vector>

namespace glyptos {

/// How much of each colour there is, in 32³ boxes of sRGB. Counts of several pictures may be added.
class ColourCount {
  public:
    ColourCount();
    /// Counts every pixel of the picture, by its alpha. Rows are spread over all cores.
    void add(const Picture& picture);
    /// Adds what another has counted, as if its pictures together had `weight` pixels; 0 adds it as it is.
    void add(const ColourCount& other, double weight = 0);
    /// Pixels counted.
    double total() const { return total_; }

    struct Box {
        double weight = 0;          ///< pixels
        double r = 0, g = 0, b = 0; ///< sums of straight sRGB, 0…1 each
    };
    /// Boxes that hold anything, in a fixed order.
    std::vector<Box> boxes() const;

  private:
    std::vector<Box> boxes_;
    double total_ = 0;
};

struct PaletteColour {
    Rgba colour;
    double share = 0; ///< of all that was counted, 0…1
};

/// At most `most` colours that stand for the count, from dark to light; their shares add up to 1. Colours
/// that look alike are one. The same count always gives the same palette.
///
/// Lloyd's k-means over the boxes in Oklab, started from the colours that are farthest from those before
/// them, weighted by the root of their share, so that a small bright spot is not lost in a large grey sea.
std::vector<PaletteColour> paletteOf(const ColourCount& count, int most = 6);

/// The palette of the finest level that has at most `mostPixels`.
std::vector<PaletteColour> paletteOf(const Pyramid& picture, int most = 6,
                                     size_t mostPixels = size_t(1) << 20);

/// The palette of several pictures by theirs, each counting as much as the others.
std::vector<PaletteColour> joinedPalette(const std::vector<std::vector<PaletteColour>>& palettes,
                                         int most = 6);

/// How far two palettes are apart, 0…1: the least colour distance, in Oklab, that shares have to be carried
/// to turn one into the other (the earth mover's distance, carried greedily from the nearest on).
double distance(const std::vector<PaletteColour>& a, const std::vector<PaletteColour>& b);

/// The same for palettes whose colours are in Oklab already.
struct PaletteSpot {
    Oklab colour;
    float share = 0;
};
double distance(const std::vector<PaletteSpot>& a, const std::vector<PaletteSpot>& b);

} // namespace glyptos
