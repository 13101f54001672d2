#include "raster/brush/way_dabs.h"

namespace glyptos {
namespace {

double lengthOf(const Polyline& line) {
    double sum = 0;
    for (size_t i = 1; i < line.points.size(); ++i) sum += (line.points[i] - line.points[i - 1]).length();
    if (line.closed && line.points.size() > 1) sum += (line.points.front() - line.points.back()).length();
    return sum;
}

/// At a share of the way.
double pressureAt(const std::vector<float>& pressures, double share) {
    if (pressures.empty()) return 1;
    const double at = std::clamp(share, 0.0, 1.0) * double(pressures.size() - 1);
    const size_t i = std::min(size_t(at), pressures.size() - 1), next = std::min(i + 1, pressures.size() - 1);
    return double(pressures[i]) + double(pressures[next] - pressures[i]) * (at - double(i));
}

Dabs along(const Polyline& line, const Brush& brush, const std::vector<float>& pressures) {
    DabWalk walk(brush, 0);
    const double whole = std::max(lengthOf(line), 1e-12);
    double done = 0;
    Vec2 last = line.points.front();
    // A pressure that changes on a long straight piece changes along it, too.
    const double piece = pressures.size() > 1 ? whole / double(pressures.size() - 1) : whole * 2;
    const auto moveTo = [&](Vec2 to) {
        const double length = (to - last).length();
        const int steps = int(std::clamp(std::ceil(length / piece), 1.0, 1000.0));
        for (int i = 1; i <= steps; ++i)
            walk.moveTo({last + (to - last) * (double(i) / steps),
                         pressureAt(pressures, (done + length * i / steps) / whole)});
        done += length, last = to;
    };
    walk.moveTo({last, pressureAt(pressures, 0)});
    for (const Vec2& p : line.points)
        if (walk.dabs().size() <= kMostDabs) moveTo(p);
    if (line.closed) moveTo(line.points.front());
    walk.finish();
    return walk.dabs();
}

} // namespace

double dabCountAlong(const std::vector<Polyline>& lines, const Brush& brush) {
    double length = 0;
    for (const Polyline& line : lines) length += lengthOf(line);
    return length / std::max(spacingOf(brush, brush.diameter), 1e-9);
}

Dabs dabsAlong(const std::vector<Polyline>& lines, const Brush& brush, const std::vector<float>& pressures) {
    Dabs out;
    const double count = dabCountAlong(lines, brush);
    Brush sparse = brush;
    // What would never end is laid as closely as can be.
    if (count > double(kMostDabs)) sparse.spacing = spacingOf(brush, 1) * count / double(kMostDabs);
    for (const Polyline& line : lines) {
        if (line.points.empty()) continue;
        if (out.size() > kMostDabs) break;
        const Dabs one = along(line, sparse, pressures);
        out.insert(out.end(), one.begin(), one.end());
        sparse.seed += 1;
    }
    return out;
}

} // namespace glyptos
