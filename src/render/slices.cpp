#include "render/slices.h"

#include "release/placing.h"

#include <algorithm>
#include <cmath>
#include <numeric>
#include <polyclipping/clipper.hpp>

namespace glyptos {
namespace {

namespace cl = ClipperLib;

/// Whole numbers that the clipping counts in, to a panel unit: fine enough for any print, far from overflow.
constexpr double kSteps = 1e4;
/// Of the length of a drawn line, from which its ends go straight on.
constexpr double kTail = 0.1;

cl::IntPoint toSteps(Vec2 p) {
    return {cl::cInt(std::llround(p.x * kSteps)), cl::cInt(std::llround(p.y * kSteps))};
}

Vec2 fromSteps(const cl::IntPoint& p) {
    return {double(p.X) / kSteps, double(p.Y) / kSteps};
}

cl::Paths rectangle(const Rect& r) {
    return {{toSteps({r.x, r.y}), toSteps({r.right(), r.y}), toSteps({r.right(), r.bottom()}),
             toSteps({r.x, r.bottom()})}};
}

double areaOf(const cl::Paths& paths) {
    return std::accumulate(paths.begin(), paths.end(), 0.0,
                           [](double sum, const cl::Path& p) { return sum + cl::Area(p); });
}

cl::Paths clipped(cl::ClipType how, const cl::Paths& subject, const cl::Paths& clip) {
    cl::Clipper clipper;
    clipper.AddPaths(subject, cl::ptSubject, true);
    clipper.AddPaths(clip, cl::ptClip, true);
    cl::Paths out;
    clipper.Execute(how, out, cl::pftEvenOdd, cl::pftEvenOdd);
    return out;
}

Vec2 unit(Vec2 v) {
    const double length = v.length();
    return length > 0 ? v * (1 / length) : Vec2{};
}

/// From the end `at` outwards: the way from where the line's last tenth begins.
Vec2 endWay(const CutLine& line, bool first) {
    double all = 0;
    for (size_t i = 1; i < line.size(); ++i) all += (line[i] - line[i - 1]).length();
    const size_t n = line.size();
    const auto point = [&](size_t i) { return line[first ? i : n - 1 - i]; };
    double way = 0;
    size_t i = 1;
    for (; i + 1 < n; ++i) {
        way += (point(i) - point(i - 1)).length();
        if (way >= kTail * all) break;
    }
    return unit(point(0) - point(i));
}

/// One side of a line, and the way to that side.
struct Side {
    cl::Paths area;
    Vec2 normal;
};

/// `far`: longer than anything that is to be cut is away.
Side sideOf(const CutLine& line, double far) {
    const Vec2 begin = line.front() + endWay(line, true) * far, end = line.back() + endWay(line, false) * far;
    const Vec2 along = unit(end - begin), normal{-along.y, along.x};
    cl::Path out{toSteps(begin)};
    for (const Vec2& p : line) out.push_back(toSteps(p));
    for (const Vec2& p : {end, end + normal * (4 * far), begin + normal * (4 * far)})
        out.push_back(toSteps(p));
    return {{std::move(out)}, normal};
}

bool isLine(const CutLine& line) {
    return line.size() > 1 && std::any_of(line.begin(), line.end(),
                                          [&](const Vec2& p) { return (p - line.front()).length() > 0; });
}

struct Fragment {
    cl::Paths paths;
    Vec2 away;
};

/// Both sides of a line, as far as there is anything of them.
std::vector<Fragment> divided(const std::vector<Fragment>& fragments, const Side& side, double least) {
    std::vector<Fragment> out;
    for (const Fragment& fragment : fragments) {
        Fragment beyond{clipped(cl::ctDifference, fragment.paths, side.area), fragment.away},
            within{clipped(cl::ctIntersection, fragment.paths, side.area), fragment.away};
        const bool isCut = std::abs(areaOf(beyond.paths)) > least && std::abs(areaOf(within.paths)) > least;
        // What is not cut moves along all the same, so that all parts keep to their side of the gap.
        beyond.away = beyond.away - side.normal * 0.5, within.away = within.away + side.normal * 0.5;
        if (isCut) {
            out.push_back(std::move(beyond));
            out.push_back(std::move(within));
        } else {
            const bool isWithin = std::abs(areaOf(within.paths)) > least;
            out.push_back({fragment.paths, isWithin ? within.away : beyond.away});
        }
    }
    return out;
}

std::vector<Contour> contoursOf(const cl::Paths& paths) {
    std::vector<Contour> out;
    for (const cl::Path& path : paths) {
        Contour contour;
        for (const cl::IntPoint& p : path) contour.nodes.push_back({fromSteps(p), {}, {}});
        out.push_back(std::move(contour));
    }
    return out;
}

cl::Paths pathsOf(const std::vector<Contour>& contours) {
    cl::Paths out;
    for (const Contour& contour : contours) {
        cl::Path path;
        for (const PathNode& node : contour.nodes) path.push_back(toSteps(node.at));
        out.push_back(std::move(path));
    }
    return out;
}

std::shared_ptr<const Mask> maskOf(const std::vector<Contour>& outline) {
    ShapeContent shape;
    shape.kind = ShapeKind::Free;
    shape.contours = outline;
    Mask mask;
    Vec2 moved;
    mask.form = reframed(std::move(shape), moved);
    mask.placement.position = moved;
    return std::make_shared<const Mask>(std::move(mask));
}

/// Dark towards the part's border: black over all but its inside, softly, as far as the layer goes. Its outer
/// border lies far enough outside of that.
Layer shadeOf(const CutPart& part, const Rect& bounds, const SliceStyle& style) {
    cl::ClipperOffset offset;
    offset.AddPaths(pathsOf(part.outline), cl::jtRound, cl::etClosedPolygon);
    cl::Paths inner;
    offset.Execute(inner, -style.shadeWidth / 2 * kSteps);
    Layer out;
    out.name = "Shade";
    ShapeContent dark;
    dark.width = bounds.w, dark.height = bounds.h;
    dark.fill = Ink{0, 0, 0, 1};
    out.content = dark;
    out.placement.position = bounds.centre();
    out.opacity = style.shade;
    out.clipped = true;
    if (!inner.empty()) {
        Mask mask = *maskOf(contoursOf(inner));
        mask.inverted = true;
        mask.feather = style.shadeWidth;
        out.mask = std::make_shared<const Mask>(std::move(mask));
    }
    return out;
}

} // namespace

std::vector<CutPart> partsBetween(const Rect& area, const std::vector<CutLine>& lines) {
    std::vector<Fragment> fragments{{rectangle(area), {}}};
    Rect all = area;
    for (const CutLine& line : lines)
        for (const Vec2& p : line) all = all.united({p.x, p.y, 1, 1});
    const double far = 2 * std::hypot(all.w, all.h);
    constexpr double kSliver = 1e-7; // of the area
    const double least = kSliver * std::abs(areaOf(fragments.front().paths));
    for (const CutLine& line : lines)
        if (isLine(line)) fragments = divided(fragments, sideOf(line, far), least);
    std::vector<CutPart> out;
    out.reserve(fragments.size());
    for (const Fragment& fragment : fragments) out.push_back({contoursOf(fragment.paths), fragment.away});
    return out;
}

Result<Made> withSlices(const ReleasePtr& release, const PanelRef& panel, const std::string& layer,
                        const Rect& bounds, const std::vector<CutLine>& lines, const SliceStyle& style) {
    const LayerPtr meant = findLayer(stackOf(*release, panel), layer);
    const auto missed = [&] {
        return fail(Fault::NotFound, "No line crosses “" + (meant ? meant->name : layer) +
                                         "”; nothing was cut. Draw one from side to side of it.");
    };
    if (!meant || partsBetween(bounds, lines).size() < 2) return missed();
    // The outer borders of the parts lie beyond what the layer covers, and beyond the reach of its shade.
    const Rect area = bounds.grown(4 * style.shadeWidth + 0.1 * std::max(bounds.w, bounds.h));
    Layer inner = *meant;
    inner.blend = BlendMode::Normal, inner.opacity = 1, inner.clipped = false, inner.on = true;
    inner.locked = false;
    Layer all;
    all.name = meant->name + ", in slices";
    all.blend = meant->blend, all.opacity = meant->opacity, all.clipped = meant->clipped, all.on = meant->on;
    all.locked = meant->locked;
    GroupContent slices;
    for (const CutPart& part : partsBetween(area, lines)) {
        GroupContent content;
        if (style.shade > 0)
            content.layers.push_back(std::make_shared<const Layer>(shadeOf(part, bounds, style)));
        content.layers.push_back(std::make_shared<const Layer>(inner));
        Layer slice;
        slice.name = "Slice " + std::to_string(slices.layers.size() + 1) + " of " + meant->name;
        slice.content = std::move(content);
        slice.mask = maskOf(part.outline);
        slices.layers.push_back(
            std::make_shared<const Layer>(moved(std::move(slice), part.away * style.gap)));
    }
    all.content = std::move(slices);
    Made made = withLayer(release, panel, std::move(all), layer);
    made.release = withoutLayer(made.release, panel, layer);
    return made;
}

} // namespace glyptos
