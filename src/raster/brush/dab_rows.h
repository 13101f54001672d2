// Internal to brush: how far a tip covers the pixels of a row.
#pragma once

#include <cstddef>

namespace glyptos {

/// A row of pixels in the frame of a tip: its first pixel's middle, and from one to the next.
struct TipRow {
    float u = 0, v = 0, du = 0, dv = 0;
};

/// A tip, and the way that it was drawn along, in its own frame.
struct TipArea {
    float radius = 1; ///< px, of a circle
    float hardness = 0.7f;
    float wayU = 0, wayV = 0; ///< from its middle back to where it came from
    bool flat = false;        ///< a superellipse
    /// Px to the tip's frame, the linear part, when it is no circle: its rim is then soft along its gradient.
    bool round = true;
    float ux = 1, uy = 0, vx = 0, vy = 1;
};

/// Cover of n pixels.
void coverRow(const TipArea& tip, const TipRow& row, float* out, size_t n);
/// Towards the tip's own cover.
void addCover(float* cover, const float* tip, float flow, size_t n);

} // namespace glyptos
