// How a picture that is not of the same proportions comes onto an area.
#pragma once

#include "release/release.h"

namespace glyptos {

struct Framing {
    bool whole = false;    ///< all of the picture inside the area; else it covers all of the area
    Vec2 middle{0.5, 0.5}; ///< the place of the picture, in shares, that should lie in the middle of the area
    double zoom = 1;       ///< ≥ 1: so many times as large as it must be to cover
    double turn = 0;       ///< degrees clockwise, ±45: straightens
    bool flip = false;     ///< left to right
};

/// The placement of the whole picture on the panel. `middle` is met as far as the area stays covered; when
/// the picture is shown whole it lies in the middle.
Placement framed(const Rect& area, const Source& source, const Framing& framing);
/// The middle that framed() does meet, in shares of the picture.
Vec2 middleMet(const Rect& area, const Source& source, const Framing& framing);

} // namespace glyptos
