// Benches of kneading, bending and tilting.
#pragma once

#include "clock.h"

#include "type/font_library.h"

#include <vector>

namespace glyptos::bench {

/// A picture of 3750² tilted, and kneaded, all at once, against OpenCV's cubic remap of the same mapping,
/// whose coordinates are worked out for it beforehand.
std::vector<Row> remapping();
/// A tip half as wide as the picture pushed about on one of twelve layers, to what is shown of it at 900 ×
/// 600 and fit zoom.
std::vector<Row> kneadStrokes(const FontLibrary& fonts);

} // namespace glyptos::bench
