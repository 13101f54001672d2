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
        for (const auto& [from, to] : stretchesWithin(fold.from, fold.to, board))
            out.push_back({from, to, fold.kind});
    }
    return out;
}

} // namespace glyptos
