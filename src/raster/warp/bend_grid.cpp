#include "raster/warp/bend_grid.h"

#include <array>
#include <functional>

namespace glyptos {
namespace {

double cross(Vec2 a, Vec2 b) {
    return a.x * b.y - a.y * b.x;
}

/// Slopes of the spline through evenly spaced points: C2 inside, not-a-knot at the ends.
std::vector<Vec2> splineSlopes(const std::vector<Vec2>& p) {
    const size_t n = p.size() - 1;
    std::vector<Vec2> m(n + 1);
    if (n == 1) return {p[1] - p[0], p[1] - p[0]};
    if (n == 2)
        return {(p[0] * -3 + p[1] * 4 - p[2]) * 0.5, (p[2] - p[0]) * 0.5, (p[0] - p[1] * 4 + p[2] * 3) * 0.5};
    // Rows of the system: 1 2 | 1 4 1 | … | 2 1.
    std::vector<double> above(n + 1);
    m[0] = ((p[1] - p[0]) * 5 + (p[2] - p[1])) * 0.5;
    above[0] = 2;
    for (size_t i = 1; i < n; ++i) {
        const double k = 1 / (4 - above[i - 1]);
        above[i] = k;
        m[i] = ((p[i + 1] - p[i - 1]) * 3 - m[i - 1]) * k;
    }
    const Vec2 end = ((p[n] - p[n - 1]) * 5 + (p[n - 1] - p[n - 2])) * 0.5;
    m[n] = (end - m[n - 1] * 2) * (1 / (1 - 2 * above[n - 1]));
    for (size_t i = n; i-- > 0;) m[i] = m[i] - m[i + 1] * above[i];
    return m;
}

/// Hermite's four, and their derivatives, at t.
struct Hermite {
    std::array<double, 4> value, slope; ///< of the first point, the second, the first slope, the second
    explicit Hermite(double t)
        : value{(1 + 2 * t) * (1 - t) * (1 - t), t * t * (3 - 2 * t), t * (1 - t) * (1 - t), t * t * (t - 1)}
        , slope{6 * t * (t - 1), 6 * t * (1 - t), (1 - t) * (1 - 3 * t), t * (3 * t - 2)} {}
};

bool isIn(const Vec2& a, const Vec2& b, const Vec2& c, Vec2 p) {
    const double d1 = cross(b - a, p - a), d2 = cross(c - b, p - b), d3 = cross(a - c, p - c);
    return (d1 >= 0 && d2 >= 0 && d3 >= 0) || (d1 <= 0 && d2 <= 0 && d3 <= 0);
}

constexpr int kBins = 64;

} // namespace

BendGrid evenGrid(int columns, int rows) {
    BendGrid out{columns, rows, {}};
    for (int r = 0; r <= rows; ++r)
        for (int c = 0; c <= columns; ++c)
            out.nodes.push_back({{double(c) / columns, double(r) / rows}, {}, {}});
    return out;
}

BendSurface::BendSurface(BendGrid grid)
    : grid_(std::move(grid)) {
    findSlopes();
    makeFacets();
}

void BendSurface::findSlopes() {
    const int columns = grid_.columns, rows = grid_.rows;
    corners_.resize(grid_.nodes.size());
    const auto corner = [&](int c, int r) -> Corner& {
        return corners_[size_t(r) * size_t(columns + 1) + size_t(c)];
    };
    for (size_t i = 0; i < corners_.size(); ++i) corners_[i].at = grid_.nodes[i].at;
    /// Along every row, or every column, the slopes of `of` into `into`.
    const auto along = [&](bool isRow, Vec2 Corner::*of, Vec2 Corner::*into) {
        for (int line = 0; line <= (isRow ? rows : columns); ++line) {
            std::vector<Vec2> points;
            for (int i = 0; i <= (isRow ? columns : rows); ++i)
                points.push_back((isRow ? corner(i, line) : corner(line, i)).*of);
            const auto slopes = splineSlopes(points);
            for (size_t i = 0; i < slopes.size(); ++i) {
                // The compiler writes to a copy when the choice and the member are one expression.
                Corner& c = isRow ? corner(int(i), line) : corner(line, int(i));
                c.*into = slopes[i];
            }
        }
    };
    along(true, &Corner::at, &Corner::across);
    along(false, &Corner::at, &Corner::down);
    for (size_t i = 0; i < corners_.size(); ++i) {
        corners_[i].across = grid_.nodes[i].across.value_or(corners_[i].across);
        corners_[i].down = grid_.nodes[i].down.value_or(corners_[i].down);
    }
    along(false, &Corner::across, &Corner::twist);
}

BendNode BendSurface::slopesAt(int column, int row) const {
    const Corner& c = corners_[size_t(row) * size_t(grid_.columns + 1) + size_t(column)];
    return {c.at, c.across, c.down};
}

BendSurface::Place BendSurface::at(Vec2 uv) const {
    const double x = uv.x * grid_.columns, y = uv.y * grid_.rows;
    const int column = std::clamp(int(std::floor(x)), 0, grid_.columns - 1),
              row = std::clamp(int(std::floor(y)), 0, grid_.rows - 1);
    const Hermite u(x - column), v(y - row);
    Place out;
    for (size_t i = 0; i < 2; ++i)       // across
        for (size_t j = 0; j < 2; ++j) { // down
            const Corner& c = corners_[(size_t(row) + j) * size_t(grid_.columns + 1) + size_t(column) + i];
            const auto sum = [&](const std::array<double, 4>& a, const std::array<double, 4>& b) {
                return c.at * (a[i] * b[j]) + c.across * (a[2 + i] * b[j]) + c.down * (a[i] * b[2 + j]) +
                       c.twist * (a[2 + i] * b[2 + j]);
            };
            out.at = out.at + sum(u.value, v.value);
            out.across = out.across + sum(u.slope, v.value) * grid_.columns;
            out.down = out.down + sum(u.value, v.slope) * grid_.rows;
        }
    return out;
}

void BendSurface::makeFacets() {
    // At least 32 facets each way, and 4 a cell.
    const auto count = [](int cells) { return cells * std::max(4, 32 / cells + 1); };
    const int across = count(grid_.columns), down = count(grid_.rows);
    facet_ = {(1 + 2 * kMargin) / across, (1 + 2 * kMargin) / down};
    std::vector<Vec2> points;
    int turned = 0;
    double l = 1e300, t = 1e300, r = -1e300, b = -1e300;
    for (int y = 0; y <= down; ++y)
        for (int x = 0; x <= across; ++x) {
            const Place place = at({x * facet_.x - kMargin, y * facet_.y - kMargin});
            points.push_back(place.at);
            turned += cross(place.across, place.down) < 0;
            l = std::min(l, place.at.x), r = std::max(r, place.at.x);
            t = std::min(t, place.at.y), b = std::max(b, place.at.y);
        }
    folded_ = turned != 0 && turned != int(points.size());
    bounds_ = {l, t, std::max(r - l, 1e-9), std::max(b - t, 1e-9)};
    bins_.resize(size_t(kBins) * kBins);
    for (int y = 0; y < down; ++y)
        for (int x = 0; x < across; ++x) {
            const auto point = [&](int i, int j) {
                return points[size_t(y + j) * size_t(across + 1) + size_t(x + i)];
            };
            const Facet facet{{point(0, 0), point(1, 0), point(1, 1), point(0, 1)},
                              {x * facet_.x - kMargin, y * facet_.y - kMargin}};
            Rect box;
            for (const Vec2& p : facet.corners) box = box.united({p.x, p.y, 1e-12, 1e-12});
            const size_t first = bin(box.x, box.y), last = bin(box.right(), box.bottom());
            for (size_t row = first / kBins; row <= last / kBins; ++row)
                for (size_t column = first % kBins; column <= last % kBins; ++column)
                    bins_[row * kBins + column].push_back(int(facets_.size()));
            facets_.push_back(facet);
        }
}

size_t BendSurface::bin(double x, double y) const {
    const auto place = [](double v, double from, double length) {
        return size_t(std::clamp(int((v - from) / length * kBins), 0, kBins - 1));
    };
    return place(y, bounds_.y, bounds_.h) * kBins + place(x, bounds_.x, bounds_.w);
}

Rect BendSurface::reach(const Rect& area) const {
    Rect out;
    for (const Facet& f : facets_) {
        Rect box;
        for (const Vec2& p : f.corners) box = box.united({p.x, p.y, 1e-12, 1e-12});
        // A facet is nearly flat, not quite.
        const double round = (box.w + box.h) / 8 + 1e-9;
        if (!box.grown(round).intersected(area).empty())
            out = out.united({f.uv.x, f.uv.y, facet_.x, facet_.y});
    }
    return out.empty() ? out : out.grown(facet_.x, facet_.y, facet_.x, facet_.y);
}

/// Newton's method from (u, v) on; nothing when it leads nowhere.
std::optional<Vec2> BendSurface::solved(Vec2 p, Vec2 uv) const {
    constexpr int kMost = 12;
    constexpr double kNear = 1e-7; // of the box
    for (int i = 0; i < kMost; ++i) {
        const Place now = at(uv);
        const Vec2 off = p - now.at;
        const double det = cross(now.across, now.down);
        if (!(std::abs(det) > 1e-12)) return std::nullopt;
        const Vec2 step{cross(off, now.down) / det, cross(now.across, off) / det};
        uv = uv + step;
        if (std::abs(uv.x - 0.5) > 2 || std::abs(uv.y - 0.5) > 2) return std::nullopt;
        if (std::abs(step.x) + std::abs(step.y) < kNear) break;
    }
    const bool isWithin = uv.x >= -kMargin && uv.x <= 1 + kMargin && uv.y >= -kMargin && uv.y <= 1 + kMargin;
    return isWithin && (at(uv).at - p).length() < 1e-5 ? std::optional(uv) : std::nullopt;
}

std::optional<Vec2> BendSurface::back(Vec2 p, const std::optional<Vec2>& near) const {
    if (!bounds_.grown(1e-9).contains(p)) return std::nullopt;
    if (near && !folded_)
        if (const auto uv = solved(p, *near)) return uv;
    std::optional<Vec2> creased;
    const auto& here = bins_[bin(p.x, p.y)];
    for (size_t i = here.size(); i-- > 0;) {
        const Facet& f = facets_[size_t(here[i])];
        if (!isIn(f.corners[0], f.corners[1], f.corners[2], p) &&
            !isIn(f.corners[0], f.corners[2], f.corners[3], p))
            continue;
        if (const auto uv = solved(p, f.uv + facet_ * 0.5)) return uv;
        if (!creased) creased = f.uv + facet_ * 0.5; // near enough for a facet
    }
    return creased;
}

BendGrid withCells(const BendGrid& grid, int columns, int rows) {
    const BendSurface surface(grid);
    BendGrid out = evenGrid(columns, rows);
    for (BendNode& node : out.nodes) node.at = surface.at(node.at).at;
    return out;
}

BendGrid readyBend(ReadyBend kind, double amount, double aspect, int columns, int rows) {
    const auto bent = [&](Vec2 p) -> Vec2 {
        const Vec2 c = p - Vec2{0.5, 0.5}; // from the middle
        const double pi = std::numbers::pi;
        switch (kind) {
        case ReadyBend::Arc: {
            // Round a circle above or below, whose arc through the middle keeps its length; in widths. The
            // inner edge keeps some length too.
            const double turn = amount * std::min(1.9 * pi, 1.7 / aspect);
            if (std::abs(turn) < 1e-6) return p;
            const double radius = 1 / turn, angle = c.x * turn, far = radius - c.y * aspect;
            return {0.5 + far * std::sin(angle), 0.5 + (radius - far * std::cos(angle)) / aspect};
        }
        case ReadyBend::Wave:
            return {p.x, p.y + 0.25 * amount * std::sin(2 * pi * p.x)};
        case ReadyBend::Flag:
            return {p.x + 0.04 * amount * std::sin(2 * pi * p.y + 2 * pi * p.x),
                    p.y + 0.2 * amount * p.x * std::sin(2 * pi * p.x)};
        case ReadyBend::Bulge: {
            const double k = 1 + amount * 0.5 * std::cos(pi * c.x) * std::cos(pi * c.y);
            const bool isIn = std::abs(c.x) <= 0.5 && std::abs(c.y) <= 0.5;
            return isIn ? Vec2{0.5, 0.5} + c * k : p;
        }
        case ReadyBend::FishEye: {
            // A barrel: what lies far out is drawn in.
            const double far = c.x * c.x + c.y * c.y;
            return Vec2{0.5, 0.5} + c * ((1 - 0.55 * amount * far) / (1 - 0.55 * amount * 0.25));
        }
        }
        return p;
    };
    BendGrid out = evenGrid(columns, rows);
    for (BendNode& node : out.nodes) node.at = bent(node.at);
    return out;
}

} // namespace glyptos
