// Internal to render: rows of a backdrop recoloured by grades, all of them while the row is in the cache.
#pragma once

#include "render/tiles/blend_bands.h"

namespace glyptos {

/// Recolours rows of the band as `layer`, which holds GradeRows, says; their alpha stays.
void gradeBand(const PreparedLayer& layer, const BandRows& at, Band& onto, Scratch& scratch, size_t depth);

} // namespace glyptos
