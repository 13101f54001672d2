#include "release/shape.h"

#include "release/limits.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace glyptos {
namespace {

constexpr double kCircle = 0.5522847498307936; // 4/3·(√2 - 1): a quarter circle as a cubic

using Nodes = std::vector<PathNode>;

Nodes ellipse(double rx, double ry) {
    const double kx = rx * kCircle, ky = ry * kCircle;
    return {{{0, -ry}, {-kx, 0}, {kx, 0}},
            {{rx, 0}, {0, -ky}, {0, ky}},
            {{0, ry}, {kx, 0}, {-kx, 0}},
            {{-rx, 0}, {0, ky}, {0, -ky}}};
}

/// Corners rounded with radius `r`, less where a side is too short for it.
Nodes rounded(const std::vector<Vec2>& corners, double r) {
    Nodes out;
    const size_t n = corners.size();
    for (size_t i = 0; i < n; ++i) {
        const Vec2 at = corners[i];
        const Vec2 back = corners[(i + n - 1) % n] - at, on = corners[(i + 1) % n] - at;
        const double shortest = std::min(back.length(), on.length()) / 2;
        const double inner =
            std::abs(std::atan2(back.x * on.y - back.y * on.x, back.x * on.x + back.y * on.y));
        const double reach = std::min(r / std::tan(std::max(inner, 1e-6) / 2), shortest);
        if (!(reach > 1e-9) || std::numbers::pi - inner < 1e-6) {
            out.push_back({at, {}, {}});
            continue;
        }
        const double radius = reach * std::tan(inner / 2);
        const double handle = 4.0 / 3 * std::tan((std::numbers::pi - inner) / 4) * radius;
        const Vec2 b = back * (1 / back.length()), o = on * (1 / on.length());
        out.push_back({at + b * reach, {}, b * -handle});
        out.push_back({at + o * reach, o * -handle, {}});
    }
    return out;
}

/// Points on the ellipse of the frame, the first at the top; every other one at `inner` of the way when that
/// is below 1.
std::vector<Vec2> spokes(const ShapeContent& s, int count, double inner) {
    std::vector<Vec2> out;
    for (int i = 0; i < count; ++i) {
        const double a = 2 * std::numbers::pi * i / count, k = i % 2 ? inner : 1;
        out.push_back({s.width / 2 * k * std::sin(a), -s.height / 2 * k * std::cos(a)});
    }
    return out;
}

std::vector<Contour> contoursOf(const ShapeContent& s) {
    const double x = s.width / 2, y = s.height / 2;
    switch (s.kind) {
    case ShapeKind::Rectangle:
        return {{rounded({{-x, -y}, {x, -y}, {x, y}, {-x, y}}, s.corner), true}};
    case ShapeKind::Ellipse:
        return {{ellipse(x, y), true}};
    case ShapeKind::Polygon:
        return {{rounded(spokes(s, s.points, 1), s.corner), true}};
    case ShapeKind::Star:
        return {{rounded(spokes(s, 2 * s.points, s.inner), s.corner), true}};
    case ShapeKind::Line:
        return {{{{{-x, 0}, {}, {}}, {{x, 0}, {}, {}}}, false}};
    case ShapeKind::Free:
        break;
    }
    return s.contours;
}

/// Runs keep their place in the shape; the grain of paper keeps its size.
void stretchPaint(Paint& paint, double kx, double ky) {
    if (auto* run = std::get_if<Gradient>(&paint))
        for (Vec2* point : {&run->from, &run->to}) point->x *= kx, point->y *= ky;
    if (auto* clouds = std::get_if<Clouds>(&paint)) clouds->size *= std::sqrt(kx * ky);
}

} // namespace

Path outlineOf(const ShapeContent& shape) {
    return outlineOf(contoursOf(shape));
}

Brush brushOf(const StrokeStyle& style) {
    Brush out = style.brushed ? style.brushed->brush : Brush{};
    out.diameter = style.width;
    return out;
}

Rect extentOf(const ShapeContent& shape) {
    const Rect frame = shape.kind == ShapeKind::Free
                           ? outlineOf(shape).bounds()
                           : Rect{-shape.width / 2, -shape.height / 2, shape.width, shape.height};
    if (!shape.stroke) return frame;
    const StrokeStyle& s = *shape.stroke;
    if (s.brushed) return frame.grown(reachOf(brushOf(s)));
    const bool arrow = s.startCap == LineCap::Arrow || s.endCap == LineCap::Arrow;
    const double mitre = s.join == LineJoin::Mitre && shape.kind != ShapeKind::Ellipse ? 2 : 0.5;
    const double sides = s.place == StrokePlace::Centre    ? mitre
                         : s.place == StrokePlace::Outside ? 2 * mitre
                                                           : 0;
    return frame.grown(s.width * (arrow ? std::max(1.5, sides) : std::max(sides, 0.5)));
}

ShapeContent stretched(ShapeContent shape, double kx, double ky) {
    // As far as shapes can grow.
    kx = std::min(kx, kLargestSide / std::max(shape.width, 1e-12));
    ky = std::min(ky, kLargestSide / std::max(shape.height, 1e-12));
    shape.width *= kx, shape.height *= ky;
    if (shape.fill) stretchPaint(*shape.fill, kx, ky);
    if (shape.stroke) stretchPaint(shape.stroke->paint, kx, ky);
    for (Contour& contour : shape.contours)
        for (PathNode& node : contour.nodes)
            for (Vec2* v : {&node.at, &node.before, &node.after}) v->x *= kx, v->y *= ky;
    return shape;
}

ShapeContent asFree(const ShapeContent& shape) {
    ShapeContent out = shape;
    out.contours = contoursOf(shape);
    out.kind = ShapeKind::Free;
    return out;
}

ShapeContent reframed(ShapeContent shape, Vec2& moved) {
    const Rect box = outlineOf(shape).bounds();
    moved = box.centre();
    for (Contour& contour : shape.contours)
        for (PathNode& node : contour.nodes) node.at = node.at - moved;
    shape.width = box.w, shape.height = box.h;
    return shape;
}

} // namespace glyptos
