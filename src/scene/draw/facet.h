// What a scene in space is made of, and from where it is seen.
#pragma once

#include "scene/draw/surface_picture.h"
#include "scene/space.h"

#include <array>

namespace glyptos {

/// A parallelogram that is seen from the side from which `right` leads to `down` clockwise.
struct Facet {
    Vec3 corner, right, down;
    const SurfacePicture* picture = nullptr; ///< or nothing: it has one colour
    Affine onPicture =
        {}; ///< from shares of its right and down edges to shares of the picture's width and height
    std::array<float, 3> colour{1, 1, 1}; ///< sRGB-encoded red, green, blue
    float opacity = 1; ///< 0…1; under 1 what lies behind it shows through, and it throws no shadow
};

/// A camera that looks at `middle`; y is down on the picture.
struct Eye {
    Pose turn; ///< of the scene about the middle, before it is looked at along -z
    Vec3 middle;
    double distance = 1000; ///< from the middle
    double focal = 1000;    ///< pixels
};

/// A lamp that shines from a direction, and light from everywhere.
struct Lamp {
    Vec3 from{-0.35, -0.45, 0.82}; ///< of the turned scene; of any length
    double everywhere = 0.6;       ///< 0…1 of all light
};

} // namespace glyptos
