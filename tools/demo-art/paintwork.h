// Takes of the demo's cover that are painted and bent: the sea as a whirl with gulls along its turns, a chart
// coloured flat, the keeper's hair in a wave, the cover lying at the harbour wall.
#pragma once

#include "base/error.h"
#include "release/release.h"

namespace glyptos::demo {

/// The release with those takes of the digital cover; the take that was current stays so.
Result<ReleasePtr> withPaintwork(const ReleasePtr& release);

} // namespace glyptos::demo
