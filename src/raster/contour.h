// Lines and outlines by their nodes.
#pragma once

#include "raster/path.h"

#include <vector>

namespace glyptos {

/// A point of a free path with the handles of the curve before and after it, as ways from the point.
struct PathNode {
    Vec2 at, before, after;
    bool operator==(const PathNode&) const = default;
};

struct Contour {
    std::vector<PathNode> nodes;
    bool closed = true;
    bool operator==(const Contour&) const = default;
};

Path outlineOf(const std::vector<Contour>& contours);

} // namespace glyptos
