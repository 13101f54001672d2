// Mending: a part of a picture filled from around it, so that texture, edges and light run on.
#pragma once

#include "base/error.h"
#include "raster/picture.h"
#include "vision/cutout/alpha_map.h"

#include <atomic>
#include <functional>

namespace glyptos {

struct MendOptions {
    const std::atomic<bool>* cancel = nullptr; ///< stops the work once true
    std::function<void(double)> progress = {}; ///< 0…1, from any thread
};

/// The picture with what `hole`, of its size, covers filled: 255 wholly, between 0 and 255 mixed with what
/// was there. Where it is 0 not a bit changes; the depth is kept. The same on every machine. Fails when the
/// hole is empty or covers everything, when sizes differ, or when it was cancelled.
[[nodiscard]] Result<Picture> mended(const Picture& picture, const AlphaMap& hole,
                                     const MendOptions& options = {});

/// The picture with what `hole` covers replaced by what lies `dx` and `dy` px further, fitted to the light of
/// where it comes to lie. Where that lies outside the picture nothing changes. Fails when the hole is empty
/// or sizes differ.
[[nodiscard]] Result<Picture> patched(const Picture& picture, const AlphaMap& hole, int dx, int dy);

} // namespace glyptos
