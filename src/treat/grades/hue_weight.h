// Internal to grades: how much a colour belongs to a range of hues.
#pragma once

#include "treat/vector_math.h"

namespace glyptos::rows {

/// 1 within `half` turns of `middle`, falling smoothly to 0 over `soft` turns more; all in turns. Greys
/// belong to no hue: it rises with the chroma from 0 at 0.005 to all of it at 0.04.
GLYPTOS_IN_ROWS float hueWeight(float hue, float chroma, float middle, float half, float soft) {
    constexpr float kRound = 12582912.0f;
    const float off = hue - middle;
    const float away = absolute(off - ((off + kRound) - kRound));
    const float near = 1 - smooth(half, half + (soft > 1e-4f ? soft : 1e-4f), away);
    return near * smooth(0.005f, 0.04f, chroma);
}

} // namespace glyptos::rows
