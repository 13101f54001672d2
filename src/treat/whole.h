// A picture that lies in memory as floats, treated whole on all cores: without a release, tiles or a cache.
#pragma once

#include "treat/kind.h"

namespace glyptos {

/// What a treatment that looks around itself makes of all of `in`, drawn in cells of at most `cell` px a
/// side. Beyond the edge is the nearest pixel. Where nothing is to be done, a copy.
Planes treatedWhole(const TreatmentKind& kind, const Figures& figures, const Place& place, const Planes& in,
                    int cell = 256);

/// Grades in a row, each row of pixels gone over by all while it is in the cache; in place.
void gradeWhole(std::span<const ColourOp> ops, Planes& planes);

} // namespace glyptos
