// The lines of a scanned drawing without its paper.
#pragma once

#include "raster/picture.h"

#include <atomic>

namespace glyptos {

/// Straight RGBA, 8 bits: each pixel as see-through as it is paper, and of the ink's own colour. The paper
/// may be tinted and unevenly lit: it is what is lightest round about. A drawing on nothing stays as it is.
/// Nothing (no pixels) when cancelled.
Picture withoutPaper(const Picture& scan, const std::atomic<bool>* cancel = nullptr);

} // namespace glyptos
