// Benches of print files.
#pragma once

#include "clock.h"
#include "type/font_library.h"

#include <string>
#include <vector>

namespace glyptos::bench {

/// The demo's sleeve; a gatefold's row of twenty layers; conversion and packing of 28 megapixels against
/// libvips' profile conversion and deflated TIFF, where that was there at build time.
std::vector<Row> printing(const FontLibrary& fonts, const std::string& demo);

} // namespace glyptos::bench
