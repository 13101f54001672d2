// Internal to mending: light that runs on over the seams between what is copied and what is known.
//
// P. Pérez et al., "Poisson image editing" (2003), solved for what is to be added to the copied pixels, and
// screened, so that it fades away from the seams (P. Bhat et al., "Fourier analysis of the 2D screened
// Poisson equation for gradient domain problems", 2008).
#pragma once

#include "vision/mend/patch_match.h"

namespace glyptos::mending {

/// Where one pixel of the hole comes from.
struct PixelSource {
    int32_t place = -1;           ///< in the WorkPicture; −1: not of the hole
    std::array<float, 4> light{}; ///< is added to its samples
};

/// Of all pixels of `field.area`, row by row: each by the best match that reaches over it.
std::vector<PixelSource> pixelSources(const WorkPicture& picture, const MatchField& field,
                                      const Patches& patches, const IntRect& area);

/// The light of each such that steps between neighbours are those of the places that they come from. A step
/// that is a real edge is let be.
void fitLight(const WorkPicture& picture, const IntRect& area, std::vector<PixelSource>& sources);

} // namespace glyptos::mending
