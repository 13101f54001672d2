// Internal to cutting out: a first guess of alpha for each uncertain pixel by itself.
#pragma once

#include "vision/cutout/matting.h"

namespace glyptos {

/// For every uncertain pixel the pair of a figure's and a ground's colour, of those that border on the band,
/// that explains its colour best from nearby, and the alpha that follows; trusted the more, the better the
/// pair explains it and the further apart its colours are (K. He et al., "A global sampling method for alpha
/// matting", 2011). Certain pixels come back as they are. The same for the same picture.
std::vector<AlphaGuess> sampledAlpha(const Reduced& picture, const AlphaMap& trimap);

} // namespace glyptos
