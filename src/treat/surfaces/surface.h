// Internal to surfaces: what they have in common. A surface is a height between 0 and 1 at every place of the
// piece; it is coloured along three colours from its depths to its heights, and lit from one side by its
// slopes. It covers what the layer shows. A lamp after it in the list finds its relief in its lightness.
#pragma once

#include "treat/kind.h"
#include "treat/surfaces/surface_noise.h"

#include <array>

namespace glyptos {

/// A row of pixels on a surface: the first, in units of its scale about the panel's middle, and the step from
/// one to the next.
struct SurfaceRow {
    float u, v, du, dv;
    rows::Lattice lattice;
};
using SurfaceHeights = void (*)(const SurfaceRow& row, float* out, size_t n);

struct SurfaceLook {
    double scale; ///< mm
    Rgba low, middle, high;
    double relief;
};

constexpr std::array<Figure, 10> surfaceFigures(const SurfaceLook& look) {
    return {length("scale", "Scale", look.scale, 1e-3),
            degrees("turn", "Turned by", 0),
            colour("low", "Depths", look.low),
            colour("middle", "Between", look.middle),
            colour("high", "Heights", look.high),
            share("contrast", "Contrast", 0, -1, 1),
            share("relief", "Relief", look.relief, 0, 2),
            degrees("direction", "Light comes from", -120),
            flag("repeats", "Repeats after eight scales", false),
            chance()};
}

std::vector<Need> surfaceNeeds(const Figures& figures, const Place& place);
void drawSurface(const AroundJob& job, SurfaceHeights heights, Planes& out);

template <SurfaceHeights Heights>
void drawSurfaceOf(const AroundJob& job, Planes& out) {
    drawSurface(job, Heights, out);
}

/// Heights of a row by an expression of u, v and the lattice l.
#define GLYPTOS_SURFACE(name, expression)                                                                    \
    GLYPTOS_ROWS void name(const SurfaceRow& row, float* __restrict out, size_t n) {                         \
        const float u0 = row.u, v0 = row.v, du = row.du, dv = row.dv;                                        \
        const rows::Lattice l = row.lattice;                                                                 \
        for (size_t i = 0; i < n; ++i) {                                                                     \
            const float u = u0 + du * float(int32_t(i)), v = v0 + dv * float(int32_t(i));                    \
            out[i] = expression(u, v, l);                                                                    \
        }                                                                                                    \
    }

} // namespace glyptos
