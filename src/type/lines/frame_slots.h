// Internal to type: the stretches of an area or a shape that lines are set in.
#pragma once

#include "type/text_spec.h"

#include <vector>

namespace glyptos {

/// Where a line may stand: its baseline, and from where to where.
struct Slot {
    double baseline = 0, left = 0, width = 0;
};

/// From top to bottom, for lines of which all are as high: each the widest stretch that is inside the shape
/// from `above` to `below` its baseline. Lines narrower than `narrowest` are left out.
std::vector<Slot> slotsOf(const InShape& shape, double firstAscent, double leading, double above,
                          double below, double narrowest);

} // namespace glyptos
