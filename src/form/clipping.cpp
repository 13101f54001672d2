#include "form/clipping.h"

#include "raster/stroke.h"

#include <cmath>

namespace glyptos {

ClipperLib::Paths toSteps(const Path& path) {
    ClipperLib::Paths out;
    for (const Polyline& contour : flattened(path, 0.001)) {
        ClipperLib::Path steps;
        for (const Vec2& p : contour.points) steps.push_back(toStep(p));
        out.push_back(std::move(steps));
    }
    return out;
}

Path fromSteps(const ClipperLib::Paths& paths) {
    Path out;
    for (const ClipperLib::Path& contour : paths)
        for (size_t i = 0; i < contour.size(); ++i) {
            const Vec2 p = fromStep(contour[i]);
            i == 0 ? out.moveTo(p) : out.lineTo(p);
        }
    return out;
}

ClipperLib::IntPoint toStep(Vec2 p) {
    return {ClipperLib::cInt(std::llround(p.x * kClippingSteps)),
            ClipperLib::cInt(std::llround(p.y * kClippingSteps))};
}

Vec2 fromStep(const ClipperLib::IntPoint& p) {
    return {double(p.X) / kClippingSteps, double(p.Y) / kClippingSteps};
}

std::vector<std::pair<Vec2, Vec2>> stretchesWithin(Vec2 from, Vec2 to, const ClipperLib::Paths& area) {
    ClipperLib::Clipper clipper;
    clipper.AddPath({toStep(from), toStep(to)}, ClipperLib::ptSubject, false);
    clipper.AddPaths(area, ClipperLib::ptClip, true);
    ClipperLib::PolyTree parts;
    clipper.Execute(ClipperLib::ctIntersection, parts, ClipperLib::pftNonZero, ClipperLib::pftNonZero);
    ClipperLib::Paths lines;
    ClipperLib::OpenPathsFromPolyTree(parts, lines);
    std::vector<std::pair<Vec2, Vec2>> out;
    for (const ClipperLib::Path& line : lines)
        if (line.size() > 1) out.emplace_back(fromStep(line.front()), fromStep(line.back()));
    return out;
}

} // namespace glyptos
