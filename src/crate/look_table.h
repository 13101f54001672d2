// Look tables: the text format .cube of 1D and 3D tables from colour to colour.
#pragma once

#include "base/error.h"
#include "raster/picture.h"

#include <cstdint>
#include <span>
#include <string>

namespace glyptos {

/// Whether it is text with a LUT_1D_SIZE or LUT_3D_SIZE.
bool isLookTable(std::span<const uint8_t> bytes);

/// What the table does to a fan of all hues from dark to light: the left half as it is, the right half
/// through the table. Fails when the table is damaged.
Result<Picture> previewLookTable(std::span<const uint8_t> bytes, const std::string& name);

} // namespace glyptos
