// Words set and drawn, and all faces at once.
#pragma once

#include "clock.h"
#include "type/font_library.h"

#include <vector>

namespace glyptos::bench {

/// 2,000 characters in an area of which one changes: set anew, and drawn at 900 × 600, against QTextLayout
/// for the setting.
std::vector<Row> typing(const FontLibrary& fonts);
/// A specimen of 300 faces, or of all that are shipped and installed, as the window draws them: those of the
/// first screen, and all; and how long it takes to measure all families.
std::vector<Row> specimens();

} // namespace glyptos::bench
