// Benches of the compositor.
#pragma once

#include "clock.h"

#include "type/font_library.h"

#include <vector>

namespace glyptos::bench {

/// Twelve layers of 3750² against every peer.
std::vector<Row> flattenAgainstPeers(const FontLibrary& fonts);
/// Changes of one layer at 900 × 600 and fit zoom: its opacity, and its place as in a drag.
std::vector<Row> oneLayerChanges(const FontLibrary& fonts);
/// Three sizes by three depths; prints the times for each pixel and layer.
void linearity(const FontLibrary& fonts);
/// Flattens a gatefold of 20 layers; for a process of its own, whose peak memory is that of this work.
void gatefold(const FontLibrary& fonts);

} // namespace glyptos::bench
