// The Lay out step: a flat panned and changed, and a booklet of many pages opened.
#pragma once

#include "clock.h"
#include "type/font_library.h"

#include <string>
#include <vector>

namespace glyptos::bench {

/// `demo` is the demo's release file.
std::vector<Row> layingOut(const FontLibrary& fonts, const std::string& demo);

} // namespace glyptos::bench
