// Outlines of lines and Bézier curves, and their exact area coverage on the pixel grid.
#pragma once

#include "base/geometry.h"
#include "raster/buffer.h"

#include <vector>

namespace glyptos {

/// Closed contours, filled where the winding number is not zero. Every contour is closed when filled.
class Path {
  public:
    enum class Verb : unsigned char { Move, Line, Quad, Cubic };

    void moveTo(Vec2 p) { add(Verb::Move, {p}); }
    void lineTo(Vec2 p) { add(Verb::Line, {p}); }
    void quadTo(Vec2 control, Vec2 p) { add(Verb::Quad, {control, p}); }
    void cubicTo(Vec2 c1, Vec2 c2, Vec2 p) { add(Verb::Cubic, {c1, c2, p}); }
    void addRect(const Rect& r);
    void append(const Path& other, const Affine& map);
    /// Makes room for that many more.
    void reserve(size_t verbs, size_t points);

    bool empty() const { return verbs_.empty(); }
    /// Bounds of all points, controls included.
    Rect bounds() const;
    /// Verbs and their points: 1, 1, 2 or 3 points for Move, Line, Quad, Cubic.
    const std::vector<Verb>& verbs() const { return verbs_; }
    const std::vector<Vec2>& points() const { return points_; }

  private:
    void add(Verb verb, std::initializer_list<Vec2> points) {
        verbs_.push_back(verb);
        points_.insert(points_.end(), points);
    }
    std::vector<Verb> verbs_;
    std::vector<Vec2> points_;
};

/// The share of each pixel that `path`, mapped by `toPixels`, covers: width × height floats 0…1, rows without
/// gaps. Exact for straight edges that do not cross; curves are followed within 0.01 px. Overlapping contours
/// of the same direction count once, of opposite directions cut holes.
Buffer<float> coverage(const Path& path, const Affine& toPixels, int width, int height);

} // namespace glyptos
