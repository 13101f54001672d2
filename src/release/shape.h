// Shapes as values. A shape is drawn in its own frame, whose middle is (0, 0), in units of the panel.
#pragma once

#include "raster/brush/brush.h"
#include "raster/contour.h"
#include "raster/stroke.h"
#include "release/paint.h"

#include <optional>

namespace glyptos {

enum class ShapeKind : unsigned char { Rectangle, Ellipse, Polygon, Star, Line, Free };

/// On which side of the outline a stroke lies. Open outlines are always stroked along the middle.
enum class StrokePlace : unsigned char { Inside, Centre, Outside };

/// What a brush prints: a picture of the release, or an outline in the colour of the brush.
struct Stamp {
    std::string source;           ///< empty: the outline
    std::vector<Contour> outline; ///< any size; it fills the tip
    bool operator==(const Stamp&) const = default;
};

/// How a line is drawn with a brush. The line itself stays, so that all of it can be changed.
struct BrushedLine {
    Brush brush; ///< its diameter is the width of the line; it paints over, and the layer blends
    std::vector<Stamp> stamps;
    std::vector<float> pressures; ///< 0…1, spread evenly along each contour; none: 1 everywhere
    bool operator==(const BrushedLine&) const = default;
};

struct StrokeStyle {
    double width = 1; ///< > 0
    StrokePlace place = StrokePlace::Centre;
    LineJoin join = LineJoin::Mitre;
    LineCap startCap = LineCap::Flat, endCap = LineCap::Flat;
    Paint paint = Ink{0, 0, 0, 1};
    std::optional<BrushedLine> brushed =
        std::nullopt; ///< along the middle; place, join and caps say nothing then
    bool operator==(const StrokeStyle&) const = default;
};

struct ShapeContent {
    ShapeKind kind = ShapeKind::Rectangle;
    double width = 10, height = 10; ///< of the frame; a line runs along the middle of its width
    double corner = 0;              ///< radius at the corners of a rectangle, polygon or star
    int points = 5;                 ///< corners of a polygon, tips of a star; 3…200
    double inner = 0.45;            ///< of a star: inner radius as a share of the outer, 0.05…1
    std::vector<Contour> contours;  ///< of a free path
    std::optional<Paint> fill = Ink{1, 1, 1, 1};
    std::optional<StrokeStyle> stroke;
    bool operator==(const ShapeContent&) const = default;
};

/// The outline in the shape's own frame. A line and open contours have no area.
Path outlineOf(const ShapeContent& shape);
/// The brush of a brushed line, as large as that is wide.
Brush brushOf(const StrokeStyle& style);
/// The area the shape covers, strokes included, in its own frame.
Rect extentOf(const ShapeContent& shape);
/// The same shape in a frame `kx` and `ky` times as wide and high, runs of colour with it; corner radius and
/// stroke stay. kx, ky > 0.
ShapeContent stretched(ShapeContent shape, double kx, double ky);
/// A free path of the same outline.
ShapeContent asFree(const ShapeContent& shape);
/// A free path whose frame is again just round its nodes; `moved` gets the way from the old middle to the
/// new.
ShapeContent reframed(ShapeContent shape, Vec2& moved);

} // namespace glyptos
