// The edge of a mask worked out from the picture under it: hair by hair, by solving for alpha.
#pragma once

#include "vision/cutout/cutout.h"

namespace glyptos {

/// The alpha solved anew (cutout.h) within `band` px to each side of where it is a half; the rest becomes
/// whole or nothing. Sizes must agree. Fails when it was cancelled, or when there is no edge.
[[nodiscard]] Result<AlphaMap> refinedEdge(const Pyramid& picture, const AlphaMap& alpha, double band,
                                           const CutoutOptions& options = {});
/// Solved anew only where `brushed` is not 0; the rest stays. What is nearly whole or nothing outside of it
/// is what the picture is told by.
[[nodiscard]] Result<AlphaMap> refinedWhere(const Pyramid& picture, const AlphaMap& alpha,
                                            const AlphaMap& brushed, const CutoutOptions& options = {});

/// Made firmer: 0 leaves it, 1 leaves only whole and nothing; and the half line moved outwards (up to 1: all
/// that shows at all becomes whole) or inwards (down to -1).
AlphaMap firmed(const AlphaMap& alpha, double firmness, double outwards);

} // namespace glyptos
