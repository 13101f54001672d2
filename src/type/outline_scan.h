// Internal to type: an outline as straight lines, cut by lines, to measure strokes.
#pragma once

#include "raster/path.h"

namespace glyptos {

/// From where to where on its way a line is inside.
struct Run {
    double from, to;
    double length() const { return to - from; }
    double middle() const { return (from + to) / 2; }
};

class OutlineScan {
  public:
    /// Curves become eight lines each.
    explicit OutlineScan(const Path& path);

    bool empty() const { return contours_.empty(); }
    const Rect& bounds() const { return bounds_; }
    /// Where a line is inside by the winding number, in order, counted from `origin` in lengths of `way`.
    std::vector<Run> along(Vec2 origin, Vec2 way) const;
    std::vector<Run> across(double y) const { return along({0, y}, {1, 0}); }
    /// The share of all turning along the outlines that is done in corners of more than 20 degrees.
    double cornerShare() const;

  private:
    std::vector<std::vector<Vec2>> contours_;
    Rect bounds_;
};

} // namespace glyptos
