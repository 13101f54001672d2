// Internal to treat: light on a relief.
#pragma once

#include "color/color.h"
#include "treat/planes.h"
#include "treat/vector_math.h"

namespace glyptos {

/// Slopes of a height in px over px, by central differences over `step` px to either side; `height` must
/// reach that far beyond `area`.
struct Slopes {
    Plane x, y;
};
Slopes slopesOf(const Plane& height, const IntRect& area, int step = 1);

/// A unit vector; z points at the viewer.
struct Direction {
    float x, y, z;
};
GLYPTOS_IN_ROWS Direction unit(float x, float y, float z) {
    const float k = 1 / __builtin_sqrtf(x * x + y * y + z * z);
    return {x * k, y * k, z * k};
}

/// How a surface answers light from one side, seen from straight above.
struct Answer {
    float diffuse; ///< share of a white, flat surface that the light hits straight
    float shine;   ///< added in the colour of the light (paper) or of the surface (metal)
};
/// `roughness` 0…1. Diffuse by J. H. Lambert; shine by the distribution, shadowing and Fresnel of B. Walter
/// et al., "Microfacet Models for Refraction through Rough Surfaces" (2007, GGX) and C. Schlick (1994), with
/// `facing` the share that is thrown back straight on: 0.04 for paper, most for metal.
GLYPTOS_IN_ROWS Answer answerOf(const Direction& n, const Direction& l, float roughness, float facing) {
    const float towards = n.x * l.x + n.y * l.y + n.z * l.z, nl = towards > 0 ? towards : 0.0f;
    const Direction h = unit(l.x, l.y, l.z + 1); // half way to the viewer
    const float cosine = n.x * h.x + n.y * h.y + n.z * h.z, nh = cosine > 0 ? cosine : 0.0f;
    const float nv = n.z > 1e-3f ? n.z : 1e-3f;
    const float square = roughness * roughness, a = square > 0.02f ? square : 0.02f, a2 = a * a;
    const float d = nh * nh * (a2 - 1) + 1;
    const float spread = a2 * 0.3183098862f / (d * d);
    const float k = a / 2;
    const float shadowing = (nl / (nl * (1 - k) + k)) * (nv / (nv * (1 - k) + k));
    const float flat = 1 - (h.z > 0 ? h.z : 0.0f), flat2 = flat * flat, grazing = flat2 * flat2 * flat;
    const float fresnel = facing + (1 - facing) * grazing;
    return {nl, spread * shadowing * fresnel / (4 * nv)};
}

} // namespace glyptos
