// Between sRGB encoding and linear light, for rows of premultiplied planes.
#pragma once

#include "raster/composite.h"

namespace glyptos {

/// Colours from sRGB encoding to linear light in place, by IEC 61966-2-1; alpha stays. Values outside 0…1
/// are kept within. Error at most 2e-6.
void toLinearRow(const RowPlanes& row, size_t n);
/// The way back.
void toEncodedRow(const RowPlanes& row, size_t n);

} // namespace glyptos
