#include "form/outline.h"

#include "form/clipping.h"

#include <cmath>
#include <numbers>

namespace glyptos {
namespace {

namespace cl = ClipperLib;

constexpr double kSteps = kClippingSteps;
constexpr double kSharpest = 4; // of the way that a corner goes out when it is grown

/// Handle of an eighth of a circle of radius 1: 4/3·tan(π/16), a cubic within 5e-6 of it.
constexpr double kEighth = 0.26521648983954406;
constexpr double kHalfRoot = std::numbers::sqrt2 / 2;

/// A quarter of a circle, or of an ellipse, inside a corner.
void addQuarter(Path& path, Vec2 from, Vec2 corner, Vec2 to) {
    const Vec2 centre = from + to - corner, way = (to - from) * (kEighth * kHalfRoot);
    const Vec2 middle = centre + (corner - centre) * kHalfRoot;
    path.cubicTo(from + (corner - from) * kEighth, middle - way, middle);
    path.cubicTo(middle + way, to + (corner - to) * kEighth, to);
}

void addRounded(Path& path, const Rect& r, double rx, double ry) {
    const double right = r.right(), bottom = r.bottom();
    path.moveTo({r.x + rx, r.y});
    path.lineTo({right - rx, r.y});
    addQuarter(path, {right - rx, r.y}, {right, r.y}, {right, r.y + ry});
    path.lineTo({right, bottom - ry});
    addQuarter(path, {right, bottom - ry}, {right, bottom}, {right - rx, bottom});
    path.lineTo({r.x + rx, bottom});
    addQuarter(path, {r.x + rx, bottom}, {r.x, bottom}, {r.x, bottom - ry});
    path.lineTo({r.x, r.y + ry});
    addQuarter(path, {r.x, r.y + ry}, {r.x, r.y}, {r.x + rx, r.y});
}

Outline freeOutline(Path path) {
    Outline out;
    out.kind = Outline::Kind::Free;
    out.box = path.bounds();
    out.free = std::move(path);
    return out;
}

Path ringHole(const Outline& ring) {
    const Vec2 c = ring.box.centre();
    const double r = ring.inner / 2;
    Path out;
    addRounded(out, {c.x - r, c.y - r, 2 * r, 2 * r}, r, r);
    return out;
}

/// All of it, holes of rings filled.
Path filled(const Outline& o) {
    Path out;
    if (o.kind == Outline::Kind::Free) return o.free;
    if (o.kind == Outline::Kind::Disc)
        addRounded(out, o.box, o.box.w / 2, o.box.h / 2);
    else if (const double r = std::min({o.corners, o.box.w / 2, o.box.h / 2}); r > 0)
        addRounded(out, o.box, r, r);
    else
        out.addRect(o.box);
    return out;
}

cl::Paths minus(const cl::Paths& from, const cl::Paths& what) {
    cl::Clipper clipper;
    clipper.AddPaths(from, cl::ptSubject, true);
    clipper.AddPaths(what, cl::ptClip, true);
    cl::Paths out;
    clipper.Execute(cl::ctDifference, out, cl::pftNonZero, cl::pftNonZero);
    return out;
}

cl::Paths areaOf(const Outline& o) {
    cl::Paths all = toSteps(filled(o));
    // However it was drawn: outer contours run one way, holes the other.
    if (o.kind == Outline::Kind::Free) cl::SimplifyPolygons(all, cl::pftNonZero);
    return o.kind == Outline::Kind::Disc && o.inner > 0 ? minus(all, toSteps(ringHole(o))) : all;
}

} // namespace

Path Outline::path() const {
    return kind == Kind::Disc && inner > 0 ? fromSteps(areaOf(*this)) : filled(*this);
}

Outline Outline::grown(double by) const {
    if (kind != Kind::Free) {
        Outline out = *this;
        out.box = box.grown(by);
        if (corners > 0) out.corners = std::max(0.0, corners + by);
        if (inner > 0) out.inner = std::max(0.0, inner - 2 * by);
        return out;
    }
    cl::ClipperOffset offset(kSharpest);
    offset.AddPaths(areaOf(*this), cl::jtMiter, cl::etClosedPolygon);
    cl::Paths out;
    offset.Execute(out, by * kSteps);
    return freeOutline(fromSteps(out));
}

Outline Outline::mapped(const Affine& map) const {
    Outline out = *this;
    out.box = map.mapBounds(box);
    out.free = {};
    out.free.append(free, map);
    return out;
}

bool Outline::contains(Vec2 p) const {
    if (!box.contains(p)) return false;
    if (isPlain()) return true;
    const cl::IntPoint at{cl::cInt(std::llround(p.x * kSteps)), cl::cInt(std::llround(p.y * kSteps))};
    bool inside = false; // of an odd number of contours
    for (const cl::Path& contour : areaOf(*this)) inside ^= cl::PointInPolygon(at, contour) != 0;
    return inside;
}

Path without(const Outline& outline, std::span<const Outline> holes) {
    cl::Paths all;
    for (const Outline& hole : holes) {
        const cl::Paths one = areaOf(hole);
        all.insert(all.end(), one.begin(), one.end());
    }
    return fromSteps(minus(areaOf(outline), all));
}

} // namespace glyptos
