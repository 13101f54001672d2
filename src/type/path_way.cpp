#include "type/path_way.h"

#include "raster/stroke.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <numbers>

namespace glyptos {

PathWay::PathWay(const Contour& contour) {
    constexpr double kShare = 1e-4;
    const Path path = outlineOf({contour});
    const Rect box = path.bounds();
    const auto lines = flattened(path, std::max(std::max(box.w, box.h) * kShare, 1e-9));
    if (lines.empty()) return;
    points_ = lines.front().points;
    if (contour.closed && !points_.empty()) points_.push_back(points_.front());
    reached_.push_back(0);
    for (size_t i = 1; i < points_.size(); ++i) {
        const Vec2 d = points_[i] - points_[i - 1];
        reached_.push_back(reached_.back() + std::hypot(d.x, d.y));
    }
}

PathWay::Spot PathWay::at(double along) const {
    if (points_.size() < 2) return {points_.empty() ? Vec2{} : points_.front(), 0};
    const auto next = std::upper_bound(reached_.begin() + 1, reached_.end() - 1, along);
    const auto i = size_t(next - reached_.begin());
    const Vec2 a = points_[i - 1], b = points_[i];
    const double length = reached_[i] - reached_[i - 1];
    const double t = length > 0 ? (along - reached_[i - 1]) / length : 0;
    return {{a.x + t * (b.x - a.x), a.y + t * (b.y - a.y)},
            std::atan2(b.y - a.y, b.x - a.x) * 180 / std::numbers::pi};
}

double PathWay::nearest(Vec2 point) const {
    double best = 0, least = std::numeric_limits<double>::infinity();
    for (size_t i = 1; i < points_.size(); ++i) {
        const Vec2 a = points_[i - 1], way = points_[i] - a, to = point - a;
        const double square = way.x * way.x + way.y * way.y;
        const double t = square > 0 ? std::clamp((to.x * way.x + to.y * way.y) / square, 0.0, 1.0) : 0;
        const double away = (a + way * t - point).length();
        if (away < least) least = away, best = reached_[i - 1] + t * (reached_[i] - reached_[i - 1]);
    }
    return best;
}

Contour reversed(Contour contour) {
    std::reverse(contour.nodes.begin(), contour.nodes.end());
    for (PathNode& node : contour.nodes) std::swap(node.before, node.after);
    return contour;
}

} // namespace glyptos
