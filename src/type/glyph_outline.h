// Internal to type: outlines of single glyphs.
#pragma once

#include "raster/path.h"
#include "type/font_library.h"

namespace glyptos {

/// In em, the origin on the baseline, y down.
Path glyphOutline(const Face& face, uint32_t glyph);
/// Appends it, mapped from em.
void appendGlyph(const Face& face, uint32_t glyph, const Affine& map, Path& out);

} // namespace glyptos
