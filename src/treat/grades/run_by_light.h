// Internal to grades: colours along a run, chosen by how light each pixel is.
#pragma once

#include "treat/kind.h"

namespace glyptos {

/// Colours of 0…1 in 1024 steps, straight, with their alpha.
struct RunTable {
    static constexpr int kSteps = 1024;
    std::vector<float> r, g, b, a;
    RunTable();
    void set(int step, const Rgba& colour);
};

/// Each pixel becomes what stands at its luma (ITU-R BT.709, of encoded values), as far as that is opaque.
ColourOp coloursByLight(RunTable table);

} // namespace glyptos
