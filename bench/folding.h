// Pieces folded in space, as they are seen while something moves.
#pragma once

#include "clock.h"
#include "type/font_library.h"

#include <string>
#include <vector>

namespace glyptos::bench {

/// `demo` is the demo's release file.
std::vector<Row> folding(const FontLibrary& fonts, const std::string& demo);

} // namespace glyptos::bench
