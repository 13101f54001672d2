// A figure off its ground: where it is, how much of each pixel is its, and its colours without the ground.
#pragma once

#include "base/error.h"
#include "base/figure_hints.h"
#include "raster/picture.h"
#include "vision/cutout/alpha_map.h"

#include <atomic>
#include <functional>

namespace glyptos {

struct CutoutOptions {
    /// Width of the uncertain band to each side of the outline, in shares of the picture's longer side.
    double band = 0.012;
    const std::atomic<bool>* cancel = nullptr; ///< stops the work once true
    std::function<void(double)> progress = {}; ///< 0…1, from any thread
};

/// The alpha of the figure that the hints point at. Fails when no figure can be told from the ground, when
/// the box lies outside the picture, or when it was cancelled.
[[nodiscard]] Result<AlphaMap> figureAlpha(const Pyramid& picture, const CutoutHints& hints,
                                           const CutoutOptions& options = {});

/// The finest level of a picture whose alpha is solved in one piece.
int levelSolvedWhole(const Pyramid& picture);

/// Alpha in the uncertain band of a trimap (trimap.h) of the picture's size; certain pixels stay.
[[nodiscard]] Result<AlphaMap> refinedAlpha(const Pyramid& picture, const AlphaMap& trimap,
                                            const CutoutOptions& options = {});

} // namespace glyptos
