// What is painted once and appears several times.
#pragma once

#include "base/geometry.h"

#include <vector>

namespace glyptos {

struct Symmetry {
    enum class Kind : unsigned char {
        None,
        Axis,   ///< mirrored at a line through `centre`
        Centre, ///< `arms` times round `centre`, each mirrored in itself too when `mirrored`
        Tile    ///< in tiles of `tile`, one with its corner at `centre`; neighbours mirrored when `mirrored`
    };
    Kind kind = Kind::None;
    Vec2 centre;
    double turn = 0; ///< of the axis, degrees clockwise from upright
    int arms = 6;    ///< 2…64
    Vec2 tile{100, 100};
    bool mirrored = true;
    bool operator==(const Symmetry&) const = default;
};

inline constexpr int kMostArms = 64;

/// Maps from where is painted to every place where that appears, the first where it is painted itself. Tiles
/// as far as `extent` goes; at most 4096.
std::vector<Affine> copiesOf(const Symmetry& symmetry, const Rect& extent);

} // namespace glyptos
