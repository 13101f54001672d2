// Internal to mending: a hole taken apart into what is filled at a time.
#pragma once

#include "vision/mend/work_picture.h"

namespace glyptos::mending {

struct HolePart {
    IntRect area;   ///< that is filled; no two parts overlap
    IntRect around; ///< that is looked at; `area` lies in it
};

/// The smallest rectangle round all that is not 0; empty when there is none.
IntRect coveredArea(const AlphaMap& hole);

/// Parts that lie close together are one; long thin ones, such as wires, are cut where they are long.
std::vector<HolePart> holeParts(const AlphaMap& hole);

} // namespace glyptos::mending
