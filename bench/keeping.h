// Benches of what keeps the work: the journal, and releases with more pictures than memory should hold.
#pragma once

#include "clock.h"

#include <vector>

namespace glyptos::bench {

/// What one step costs a core to write down; the journal of a night of strokes and edits.
std::vector<Row> writingDown();
/// A release with 2 GB of pictures: opened; saved again against a copy of its file. It stays for
/// openTwoGigabytes(), which another process may call, until it is forgotten.
std::vector<Row> largeRelease();
void openTwoGigabytes();
void forgetLargeRelease();

} // namespace glyptos::bench
