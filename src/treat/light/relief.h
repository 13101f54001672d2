// Internal to treat: light on a relief.
#pragma once

#include "color/color.h"
#include "treat/planes.h"

namespace glyptos {

/// Slopes of a height in px over px, by central differences; `height` must reach one px beyond `area`.
struct Slopes {
    Plane x, y;
};
Slopes slopesOf(const Plane& height, const IntRect& area);

/// A unit vector; z points at the viewer.
struct Direction {
    float x, y, z;
};
inline Direction unit(float x, float y, float z) {
    const float k = 1 / std::sqrt(x * x + y * y + z * z);
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
Answer answerOf(const Direction& normal, const Direction& light, float roughness, float facing);

} // namespace glyptos
