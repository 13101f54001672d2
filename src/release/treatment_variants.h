// Treatments to try: at several strengths, and by chance near one that there is.
#pragma once

#include "release/treatment.h"

namespace glyptos {

/// The treatment of a kind at a third of its strengths, 0 light … 2 strong: by the figure that carries it.
Treatment atStrength(const TreatmentKind& kind, int strength, double unitsPerMm);

/// Another near it: every number moved by up to `far` (0…1) of its room, lengths by doublings, colours in hue
/// and lightness, seeds anew. The same for the same `seed`.
Treatment neighbourOf(const Treatment& treatment, uint32_t seed, double far = 0.25);

} // namespace glyptos
