#include "type/outline_scan.h"

#include <algorithm>
#include <cmath>

namespace glyptos {
namespace {

constexpr int kLines = 8; ///< a curve

Vec2 between(Vec2 a, Vec2 b, double t) {
    return a + (b - a) * t;
}

/// On the curve of those points, 2 to 4 (P. de Casteljau).
Vec2 curveAt(std::vector<Vec2> points, double t) {
    while (points.size() > 1) {
        for (size_t i = 0; i + 1 < points.size(); ++i) points[i] = between(points[i], points[i + 1], t);
        points.pop_back();
    }
    return points.front();
}

/// Points that lie on each other have no way between them that could turn.
void dropRepeated(std::vector<Vec2>& contour) {
    constexpr double kNear = 1e-7;
    const auto isSame = [](Vec2 a, Vec2 b) { return (a - b).length() < kNear; };
    contour.erase(std::unique(contour.begin(), contour.end(), isSame), contour.end());
    while (contour.size() > 1 && isSame(contour.front(), contour.back())) contour.pop_back();
}

Rect boundsOf(const std::vector<std::vector<Vec2>>& contours) {
    double left = 1e9, top = 1e9, right = -1e9, bottom = -1e9;
    for (const auto& contour : contours)
        for (const Vec2 p : contour) {
            left = std::min(left, p.x), right = std::max(right, p.x);
            top = std::min(top, p.y), bottom = std::max(bottom, p.y);
        }
    return contours.empty() ? Rect{} : Rect{left, top, right - left, bottom - top};
}

} // namespace

OutlineScan::OutlineScan(const Path& path) {
    size_t at = 0;
    for (const Path::Verb verb : path.verbs()) {
        const size_t count = verb == Path::Verb::Cubic ? 3 : verb == Path::Verb::Quad ? 2 : 1;
        if (verb == Path::Verb::Move) contours_.emplace_back();
        if (contours_.empty()) break;
        auto& contour = contours_.back();
        if (count == 1) {
            contour.push_back(path.points()[at]);
        } else if (!contour.empty()) {
            std::vector<Vec2> curve{contour.back()};
            curve.insert(curve.end(), path.points().begin() + ptrdiff_t(at),
                         path.points().begin() + ptrdiff_t(at + count));
            for (int i = 1; i <= kLines; ++i) contour.push_back(curveAt(curve, double(i) / kLines));
        }
        at += count;
    }
    for (auto& contour : contours_) dropRepeated(contour);
    std::erase_if(contours_, [](const auto& contour) { return contour.size() < 3; });
    bounds_ = boundsOf(contours_);
}

std::vector<Run> OutlineScan::along(Vec2 origin, Vec2 way) const {
    const double square = way.x * way.x + way.y * way.y;
    // On the line's own axes: how far along it, and beside it.
    const auto seen = [&](Vec2 p) {
        const Vec2 d = p - origin;
        return Vec2{(d.x * way.x + d.y * way.y) / square, (d.y * way.x - d.x * way.y) / square};
    };
    std::vector<std::pair<double, int>> crossings;
    for (const auto& contour : contours_) {
        Vec2 a = seen(contour.back());
        for (const Vec2 p : contour) {
            const Vec2 b = seen(p);
            if ((a.y <= 0) != (b.y <= 0))
                crossings.emplace_back(a.x - (b.x - a.x) * a.y / (b.y - a.y), a.y <= 0 ? 1 : -1);
            a = b;
        }
    }
    std::sort(crossings.begin(), crossings.end());
    std::vector<Run> out;
    int winding = 0;
    for (const auto& [at, turn] : crossings) {
        const bool wasInside = winding != 0;
        winding += turn;
        if (!wasInside)
            out.push_back({at, at});
        else if (winding == 0)
            out.back().to = at;
    }
    std::erase_if(out, [](const Run& run) { return run.length() <= 0; });
    return out;
}

double OutlineScan::cornerShare() const {
    constexpr double kCorner = 20; // degrees
    double all = 0, corners = 0;
    for (const auto& contour : contours_)
        for (size_t i = 0; i < contour.size(); ++i) {
            const Vec2 before = contour[i], here = contour[(i + 1) % contour.size()],
                       after = contour[(i + 2) % contour.size()];
            const Vec2 u = here - before, v = after - here;
            const double turn =
                std::abs(std::atan2(u.x * v.y - u.y * v.x, u.x * v.x + u.y * v.y)) * 180 / std::numbers::pi;
            all += turn;
            if (turn > kCorner) corners += turn;
        }
    return all > 0 ? corners / all : 0;
}

} // namespace glyptos
