#include "raster/contour.h"

namespace glyptos {
namespace {

void addContour(Path& path, const Contour& contour) {
    const auto& nodes = contour.nodes;
    if (nodes.size() < 2) return;
    path.moveTo(nodes[0].at);
    const size_t n = nodes.size(), runs = contour.closed ? n : n - 1;
    for (size_t i = 0; i < runs; ++i) {
        const PathNode &a = nodes[i], &b = nodes[(i + 1) % n];
        if (a.after == Vec2{} && b.before == Vec2{})
            path.lineTo(b.at);
        else
            path.cubicTo(a.at + a.after, b.at + b.before, b.at);
    }
}

} // namespace

Path outlineOf(const std::vector<Contour>& contours) {
    Path path;
    for (const Contour& contour : contours) addContour(path, contour);
    return path;
}

} // namespace glyptos
