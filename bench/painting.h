// Benches of painting.
#pragma once

#include "clock.h"

#include "release/history/history.h"
#include "type/font_library.h"

#include <vector>

namespace glyptos::bench {

/// Dabs of a soft brush of 1000 px laid into a layer of 3750², tiles, hashes and levels included, against
/// OpenCV's blending of the same dabs into a plain picture.
Row dabsAgainstPeer();
/// One move of that brush on one of twelve layers, to what is shown of it at 900 × 600 and fit zoom; undo of
/// a stroke there; a line of two thousand stamps with another chance.
std::vector<Row> painting(const FontLibrary& fonts);
/// A night of two thousand strokes on a layer of 3750², each a step; calls `after` with the history after
/// each.
void paintAllNight(const std::function<void(const History&)>& after = {});

} // namespace glyptos::bench
