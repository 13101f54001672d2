// Internal to type: rows of cells on one baseline grid, in strips side by side.
#pragma once

#include "type/lines/line_layout.h"

namespace glyptos {

/// The lines of all cells, each where it stands.
Layout layTable(const TextSpec& spec, const InTable& table, const FontLibrary& fonts);

} // namespace glyptos
