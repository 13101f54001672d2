// Internal to cutting out: which pixels of a small picture are the figure.
#pragma once

#include "vision/cutout/trimap.h"
#include "vision/reduced.h"

#include <optional>

namespace glyptos {

/// What is the figure, 255, and what is not, 0, of a trimap, by graph cuts between the colours of both,
/// learnt anew after each cut (C. Rother, V. Kolmogorov, A. Blake, "GrabCut", 2004, with densities in place
/// of mixtures; Y. Boykov and V. Kolmogorov's maximal flow, 2004, by OpenCV). What is uncertain may be the
/// figure, and is first taken for what it probably is; `trust`, the
/// logarithm of odds, is how far that counts to the end. Nothing when one of the two would be empty.
std::optional<AlphaMap> segmented(const Reduced& picture, const AlphaMap& hints, float trust = 0);

} // namespace glyptos
