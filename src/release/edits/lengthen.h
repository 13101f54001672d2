// Art that stops short of the bleed, made to reach it.
#pragma once

#include "release/edits/edits.h"

namespace glyptos {

enum class Lengthening : unsigned char {
    Mirrored, ///< the picture goes on as its own mirror image
    Smeared   ///< its outermost pixels go on
};

/// How far art is short at each edge of the upright panel, panel units; 0: it is not.
struct ShortBy {
    double left = 0, top = 0, right = 0, bottom = 0;
};

/// A picture layer that goes on beyond its edges by copies of it directly behind it, which are in a group of
/// their own with that name: at every edge that is short, and at the corners between two of them. Layers that
/// are no pictures, or warped, stay as they are.
[[nodiscard]] Made withLengthened(const ReleasePtr& release, const PanelRef& panel, const std::string& layer,
                                  const ShortBy& by, Lengthening how, const std::string& name);

} // namespace glyptos
