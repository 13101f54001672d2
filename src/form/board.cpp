#include "form/board.h"

#include "form/clipping.h"

namespace glyptos {
namespace {

namespace cl = ClipperLib;

void add(const Outline& outline, cl::Paths& to) {
    cl::Paths all = toSteps(outline.path());
    cl::SimplifyPolygons(all, cl::pftNonZero); // outer contours run one way, however they were drawn
    to.insert(to.end(), all.begin(), all.end());
}

cl::Paths boardOf(const Flat& flat, size_t sheet) {
    cl::Paths parts, holes;
    for (const Panel& panel : flat.panels)
        if (panel.sheet == sheet) add(panel.outline.mapped(panel.toFlat()), parts);
    for (const Flap& flap : flat.flaps)
        if (flap.sheet == sheet) add(flap.outline, parts);
    for (const Flap& hole : flat.cutouts)
        if (hole.sheet == sheet) add(hole.outline, holes);
    cl::Clipper clipper;
    clipper.AddPaths(parts, cl::ptSubject, true);
    clipper.AddPaths(holes, cl::ptClip, true);
    cl::Paths out;
    clipper.Execute(cl::ctDifference, out, cl::pftNonZero, cl::pftNonZero);
    cl::CleanPolygons(out); // where parts met along an edge
    return out;
}

Vec2 fromStep(const cl::IntPoint& p) {
    return {double(p.X) / kClippingSteps, double(p.Y) / kClippingSteps};
}

} // namespace

std::vector<Polyline> cutLines(const Flat& flat, size_t sheet) {
    std::vector<Polyline> out;
    for (const cl::Path& contour : boardOf(flat, sheet)) {
        Polyline line;
        for (const cl::IntPoint& p : contour) line.points.push_back(fromStep(p));
        line.closed = true;
        if (line.points.size() > 2) out.push_back(std::move(line));
    }
    return out;
}

std::vector<CreaseLine> creaseLines(const Flat& flat, size_t sheet) {
    const cl::Paths board = boardOf(flat, sheet);
    std::vector<CreaseLine> out;
    for (const Fold& fold : flat.folds) {
        if (fold.sheet != sheet) continue;
        const auto step = [](Vec2 p) {
            return cl::IntPoint(std::llround(p.x * kClippingSteps), std::llround(p.y * kClippingSteps));
        };
        cl::Clipper clipper;
        clipper.AddPath({step(fold.from), step(fold.to)}, cl::ptSubject, false);
        clipper.AddPaths(board, cl::ptClip, true);
        cl::PolyTree parts;
        clipper.Execute(cl::ctIntersection, parts, cl::pftNonZero, cl::pftNonZero);
        cl::Paths lines;
        cl::OpenPathsFromPolyTree(parts, lines);
        for (const cl::Path& line : lines)
            if (line.size() > 1) out.push_back({fromStep(line.front()), fromStep(line.back()), fold.kind});
    }
    return out;
}

} // namespace glyptos
