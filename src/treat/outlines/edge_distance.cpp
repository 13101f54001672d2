#include "treat/outlines/edge_distance.h"

#include <cmath>

namespace glyptos {
namespace {

/// The edge nearest to each pixel: the way to a point of it, and the pixel that knows how it runs there.
struct Edges {
    int w, h;
    std::vector<float> x, y;
    std::vector<int> from;
    std::vector<Vec2> across; ///< of pixels that an edge passes: the direction to where more is covered
    Edges(int width, int height, float far)
        : w(width)
        , h(height)
        , x(size_t(width) * size_t(height), far)
        , y(x)
        , from(x.size(), -1)
        , across(x.size()) {}
    size_t at(int i, int j) const { return size_t(j) * size_t(w) + size_t(i); }
    float squared(size_t k) const { return x[k] * x[k] + y[k] * y[k]; }
    /// Takes over the edge of the neighbour that is (dx, dy) away, when that is nearer.
    void take(size_t k, int i, int j, int dx, int dy) {
        const int ni = i + dx, nj = j + dy;
        if (ni < 0 || nj < 0 || ni >= w || nj >= h) return;
        const size_t n = at(ni, nj);
        const float vx = x[n] + float(dx), vy = y[n] + float(dy);
        if (from[n] >= 0 && vx * vx + vy * vy < squared(k)) x[k] = vx, y[k] = vy, from[k] = from[n];
    }
    /// To the edge as it runs straight on for the reach of its pixel.
    float distance(size_t k) const {
        if (from[k] < 0) return std::sqrt(squared(k));
        constexpr double kHalf = 0.75;
        const Vec2 g = across[size_t(from[k])];
        const double over = double(x[k]) * g.x + double(y[k]) * g.y,
                     along = std::max(std::abs(double(x[k]) * g.y - double(y[k]) * g.x) - kHalf, 0.0);
        return float(std::hypot(over, along));
    }
};

/// From a pixel's middle to the edge that covers a share of it, along its gradient (gx, gy), a unit vector:
/// the pixel is cut by a straight line.
float depthOf(float share, float gx, float gy) {
    gx = std::abs(gx), gy = std::abs(gy);
    if (gx < gy) std::swap(gx, gy);
    const float corner = gx > 1e-6f ? 0.5f * gy / gx : 0.0f;
    if (share < corner) return 0.5f * (gx + gy) - std::sqrt(2 * gx * gy * share);
    if (share > 1 - corner) return -0.5f * (gx + gy) + std::sqrt(2 * gx * gy * (1 - share));
    return (0.5f - share) * gx;
}

bool isPartly(float v) {
    constexpr float kBit = 0.02f;
    return v > kBit && v < 1 - kBit;
}

void markEdges(const Plane& alpha, Edges& edges) {
    const IntRect& a = alpha.area;
    const auto value = [&](int i, int j) {
        return alpha.row(a.y + std::clamp(j, 0, a.h - 1))[std::clamp(i, 0, a.w - 1)];
    };
    for (int j = 0; j < a.h; ++j)
        for (int i = 0; i < a.w; ++i) {
            const float v = value(i, j), l = value(i - 1, j), r = value(i + 1, j), t = value(i, j - 1),
                        b = value(i, j + 1);
            // One that is wholly covered, or not at all, tells nothing of where between it and a half covered
            // one the edge is.
            const auto passes = [&](float other) {
                return (other >= 0.5f) != (v >= 0.5f) && (isPartly(v) || !isPartly(other));
            };
            if (!passes(l) && !passes(r) && !passes(t) && !passes(b)) continue;
            // Sobel's gradient leads to where more is covered.
            float gx = 2 * (r - l) + value(i + 1, j - 1) - value(i - 1, j - 1) + value(i + 1, j + 1) -
                       value(i - 1, j + 1);
            float gy = 2 * (b - t) + value(i - 1, j + 1) - value(i - 1, j - 1) + value(i + 1, j + 1) -
                       value(i + 1, j - 1);
            const float length = std::sqrt(gx * gx + gy * gy);
            if (length < 1e-6f) continue;
            gx /= length, gy /= length;
            const size_t k = edges.at(i, j);
            const float depth = depthOf(v, gx, gy);
            edges.x[k] = gx * depth, edges.y[k] = gy * depth;
            edges.from[k] = int(k), edges.across[k] = {double(gx), double(gy)};
        }
}

/// Down and up again, each row both ways.
void carryOn(Edges& edges) {
    for (int j = 0; j < edges.h; ++j) {
        for (int i = 0; i < edges.w; ++i) {
            const size_t k = edges.at(i, j);
            for (const auto& [dx, dy] : {std::pair{0, -1}, {-1, 0}, {-1, -1}, {1, -1}})
                edges.take(k, i, j, dx, dy);
        }
        for (int i = edges.w - 1; i >= 0; --i) edges.take(edges.at(i, j), i, j, 1, 0);
    }
    for (int j = edges.h - 1; j >= 0; --j) {
        for (int i = edges.w - 1; i >= 0; --i) {
            const size_t k = edges.at(i, j);
            for (const auto& [dx, dy] : {std::pair{0, 1}, {1, 0}, {1, 1}, {-1, 1}})
                edges.take(k, i, j, dx, dy);
        }
        for (int i = 0; i < edges.w; ++i) edges.take(edges.at(i, j), i, j, -1, 0);
    }
}

} // namespace

Plane edgeDistance(const Plane& alpha, float most) {
    const IntRect& a = alpha.area;
    Edges edges(a.w, a.h, most * 4 + 1e4f);
    markEdges(alpha, edges);
    carryOn(edges);
    Plane out(a);
    for (int j = 0; j < a.h; ++j)
        for (int i = 0; i < a.w; ++i) {
            const float side = alpha.row(a.y + j)[i] >= 0.5f ? -1.0f : 1.0f;
            out.row(a.y + j)[i] = side * std::min(edges.distance(edges.at(i, j)), most + 1);
        }
    return out;
}

Need DistanceLevel::need() const {
    return {level, int(std::ceil(reach)) + 4};
}

DistanceLevel distanceLevel(double reachPx) {
    constexpr double kFarthest = 24;
    DistanceLevel out;
    while (reachPx / std::exp2(out.level) > kFarthest) ++out.level;
    out.reach = reachPx / std::exp2(out.level) + 1;
    return out;
}

Plane distances(const Planes& input, const DistanceLevel& how, const IntRect& area) {
    Plane out = edgeDistance(input.c[3], float(how.reach) + 2);
    const auto unit = float(std::exp2(how.level));
    for (int y = out.area.y; y < out.area.bottom(); ++y)
        for (int x = 0; x < out.area.w; ++x) out.row(y)[x] *= unit;
    return resized(out, how.level, area);
}

} // namespace glyptos
