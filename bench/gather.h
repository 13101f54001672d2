// The crate with ten thousand sources: indexing, searching, likeness, scrolling; and the palette of a large
// picture.
#pragma once

#include "clock.h"

#include <vector>

namespace glyptos::bench {

std::vector<Row> gathering();

} // namespace glyptos::bench
