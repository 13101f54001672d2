// The take of the demo's cover that is made by hand: the keeper cut off his ground, rust on his coat alone, a
// gull moved, a rope's end mended away, the lighthouse in slices.
#pragma once

#include "base/error.h"
#include "release/release.h"

namespace glyptos::demo {

/// The release with that take of the digital cover; the take that was current stays so.
Result<ReleasePtr> withHandwork(const ReleasePtr& release);

} // namespace glyptos::demo
