// Outlines with a width.
#pragma once

#include "raster/path.h"

namespace glyptos {

enum class LineJoin : unsigned char { Mitre, Round, Bevel };
enum class LineCap : unsigned char { Flat, Round, Square, Arrow };

struct StrokeShape {
    double width = 1; ///< > 0
    LineJoin join = LineJoin::Mitre;
    LineCap startCap = LineCap::Flat, endCap = LineCap::Flat;
};

/// A contour of straight lines only.
struct Polyline {
    std::vector<Vec2> points;
    bool closed = false;
};

/// The contours of `path` as lines that keep within `tolerance` of its curves. A contour counts as closed
/// when it ends where it began.
std::vector<Polyline> flattened(const Path& path, double tolerance);

/// The area that a pen of that width covers going along `lines`, as an outline to fill (every part runs the
/// same way round). Mitres longer than four half widths become bevels, as in SVG 2, 13.5.6. Arrow heads are
/// three widths wide and long, and end where the line ends.
Path strokeOutline(const std::vector<Polyline>& lines, const StrokeShape& shape, double tolerance);

} // namespace glyptos
