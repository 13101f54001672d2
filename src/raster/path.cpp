#include "raster/path.h"

#include <cmath>
#include <span>

namespace glyptos {
namespace {

constexpr double kFlatness =
    0.01; // px: 2.5/255 of coverage at worst, where a chord is farthest from its curve

/// Accumulates, for each pixel, the signed area that edges leave to their right, as differences along the
/// row; a running sum turns them into coverage. After R. Levien, "Inside the fastest font renderer in the
/// world" (2016).
class AreaAccumulator {
  public:
    AreaAccumulator(int width, int height)
        : width_(width)
        , height_(height)
        , cells_(size_t(width + 2) * size_t(height)) {
        std::fill(cells_.begin(), cells_.end(), 0.0f);
    }

    void line(Vec2 p, Vec2 q) {
        if (p.y == q.y || !std::isfinite(p.x + p.y + q.x + q.y)) return;
        const double sign = p.y < q.y ? 1 : -1;
        if (sign < 0) std::swap(p, q);
        if (q.y <= 0 || p.y >= height_) return;
        const double slope = (q.x - p.x) / (q.y - p.y);
        if (p.y < 0) p = {p.x - p.y * slope, 0};
        if (q.y > height_) q = {q.x - (q.y - height_) * slope, double(height_)};
        splitAtSides(p, q, sign);
    }

    /// Draws what of a curve can be seen in the simplest way that leaves the same area: whether the curve
    /// between such points must be followed.
    bool follows(std::initializer_list<Vec2> points) {
        double l = points.begin()->x, t = points.begin()->y, r = l, b = t;
        for (const Vec2& p : points) {
            l = std::min(l, p.x), r = std::max(r, p.x);
            t = std::min(t, p.y), b = std::max(b, p.y);
        }
        if (b <= 0 || t >= height_ || l >= width_) return false; // leaves nothing
        if (r > 0) return true;
        line(*points.begin(), *(points.end() - 1)); // left of all: only its height counts
        return false;
    }

    Buffer<float> take() {
        Buffer<float> out(size_t(width_) * size_t(height_));
        for (int y = 0; y < height_; ++y) {
            float sum = 0;
            const float* cell = cells_.data() + size_t(y) * size_t(width_ + 2);
            for (int x = 0; x < width_; ++x) {
                sum += cell[x];
                const float area = std::min(std::abs(sum), 1.0f);
                out[size_t(y) * size_t(width_) + size_t(x)] = area < 1e-5f       ? 0.0f
                                                              : area > 1 - 1e-5f ? 1.0f
                                                                                 : area;
            }
        }
        return out;
    }

  private:
    /// What lies left of the grid counts as lying on its left side, what lies right of it does not count.
    void splitAtSides(Vec2 p, Vec2 q, double sign) {
        for (const double side : {0.0, double(width_)}) {
            if ((p.x < side) == (q.x < side)) continue;
            const double y = p.y + (side - p.x) * (q.y - p.y) / (q.x - p.x);
            if (y <= p.y || y >= q.y) continue;
            splitAtSides(p, {side, y}, sign);
            splitAtSides({side, y}, q, sign);
            return;
        }
        const double middle = (p.x + q.x) / 2;
        if (middle >= width_) return;
        if (middle <= 0) p.x = q.x = 0;
        inside(p, q, sign);
    }

    void inside(Vec2 p, Vec2 q, double sign) {
        const double slope = (q.x - p.x) / (q.y - p.y);
        const int last = std::min(static_cast<int>(std::ceil(q.y)), height_);
        double x = p.x;
        for (int y = std::max(0, static_cast<int>(p.y)); y < last; ++y) {
            const double top = std::max(p.y, double(y)), bottom = std::min(q.y, double(y + 1)),
                         dy = bottom - top;
            if (dy <= 0) continue;
            const double next = x + slope * dy;
            rowSpan(y, std::clamp(std::min(x, next), 0.0, double(width_)),
                    std::clamp(std::max(x, next), 0.0, double(width_)), dy * sign);
            x = next;
        }
    }

    /// One edge inside one row, from x0 to x1, of signed height d.
    void rowSpan(int y, double x0, double x1, double d) {
        float* cell = cells_.data() + size_t(y) * size_t(width_ + 2);
        const int first = static_cast<int>(x0), last = static_cast<int>(std::ceil(x1));
        if (last <= first + 1) {
            const double middle = (x0 + x1) / 2 - first;
            cell[first] += float(d * (1 - middle));
            cell[first + 1] += float(d * middle);
            return;
        }
        const double inv = 1 / (x1 - x0), left = 1 - (x0 - first), right = x1 - (last - 1);
        const double a0 = 0.5 * inv * left * left, an = 0.5 * inv * right * right;
        cell[first] += float(d * a0);
        if (last == first + 2) {
            cell[first + 1] += float(d * (1 - a0 - an));
        } else {
            const double a1 = inv * (left + 0.5);
            cell[first + 1] += float(d * (a1 - a0));
            for (int x = first + 2; x < last - 1; ++x) cell[x] += float(d * inv);
            cell[last - 1] += float(d * (1 - (a1 + (last - first - 3) * inv) - an));
        }
        cell[last] += float(d * an);
    }

    int width_, height_;
    Buffer<float> cells_;
};

/// Number of chords that keep a curve of second difference `bend` within kFlatness (Wang's bound).
int chords(double bend) {
    return std::clamp(static_cast<int>(std::ceil(std::sqrt(bend / kFlatness))), 1, 500);
}

void quad(AreaAccumulator& area, Vec2 a, Vec2 b, Vec2 c) {
    if (!area.follows({a, b, c})) return;
    const int n = chords((a - b * 2 + c).length() / 4);
    Vec2 from = a;
    for (int i = 1; i <= n; ++i) {
        const double t = double(i) / n, s = 1 - t;
        const Vec2 to = i == n ? c : a * (s * s) + b * (2 * s * t) + c * (t * t);
        area.line(from, to);
        from = to;
    }
}

void cubic(AreaAccumulator& area, Vec2 a, Vec2 b, Vec2 c, Vec2 d) {
    if (!area.follows({a, b, c, d})) return;
    const int n = chords(0.75 * std::max((a - b * 2 + c).length(), (b - c * 2 + d).length()));
    Vec2 from = a;
    for (int i = 1; i <= n; ++i) {
        const double t = double(i) / n, s = 1 - t;
        const Vec2 to =
            i == n ? d : a * (s * s * s) + b * (3 * s * s * t) + c * (3 * s * t * t) + d * (t * t * t);
        area.line(from, to);
        from = to;
    }
}

} // namespace

void Path::addRect(const Rect& r) {
    moveTo({r.x, r.y});
    lineTo({r.right(), r.y});
    lineTo({r.right(), r.bottom()});
    lineTo({r.x, r.bottom()});
}

void Path::append(const Path& other, const Affine& map) {
    verbs_.insert(verbs_.end(), other.verbs_.begin(), other.verbs_.end());
    for (const Vec2& p : other.points_) points_.push_back(map.map(p));
}

void Path::reserve(size_t verbs, size_t points) {
    verbs_.reserve(verbs_.size() + verbs), points_.reserve(points_.size() + points);
}

Rect Path::bounds() const {
    if (points_.empty()) return {};
    double l = points_[0].x, t = points_[0].y, r = l, b = t;
    for (const Vec2& p : points_) {
        l = std::min(l, p.x), r = std::max(r, p.x);
        t = std::min(t, p.y), b = std::max(b, p.y);
    }
    return {l, t, r - l, b - t};
}

namespace {

/// One contour of a path: its verbs behind the first move, and all its points, mapped.
struct MappedContour {
    std::span<const Path::Verb> verbs;
    std::span<const Vec2> points;

    /// A closed contour counts only where it lies: what is above, below or at either side leaves nothing.
    bool reaches(int width, int height) const {
        double l = points[0].x, t = points[0].y, r = l, b = t;
        for (const Vec2& p : points) {
            l = std::min(l, p.x), r = std::max(r, p.x);
            t = std::min(t, p.y), b = std::max(b, p.y);
        }
        return !(r <= 0 || l >= width || b <= 0 || t >= height); // also where they are no numbers
    }

    void addTo(AreaAccumulator& area) const {
        const Vec2* p = points.data();
        const Vec2 start = *p++;
        Vec2 at = start;
        for (const Path::Verb verb : verbs) {
            if (verb == Path::Verb::Line)
                area.line(at, p[0]), at = p[0], p += 1;
            else if (verb == Path::Verb::Quad)
                quad(area, at, p[0], p[1]), at = p[1], p += 2;
            else
                cubic(area, at, p[0], p[1], p[2]), at = p[2], p += 3;
        }
        area.line(at, start);
    }
};

size_t pointsOf(Path::Verb verb) {
    return verb == Path::Verb::Cubic ? 3 : verb == Path::Verb::Quad ? 2 : 1;
}

} // namespace

Buffer<float> coverage(const Path& path, const Affine& toPixels, int width, int height) {
    AreaAccumulator area(width, height);
    const std::span<const Path::Verb> verbs = path.verbs();
    std::vector<Vec2> mapped;
    size_t point = 0;
    for (size_t i = 0; i < verbs.size();) {
        const size_t moves = verbs[i] == Path::Verb::Move;
        mapped.assign(1 - moves, Vec2{}); // what begins without a move begins at the origin
        size_t end = i + moves, count = moves;
        for (; end < verbs.size() && verbs[end] != Path::Verb::Move; ++end) count += pointsOf(verbs[end]);
        for (size_t k = 0; k < count; ++k) mapped.push_back(toPixels.map(path.points()[point + k]));
        const MappedContour contour{verbs.subspan(i + moves, end - i - moves), mapped};
        if (contour.reaches(width, height)) contour.addTo(area);
        point += count, i = end;
    }
    return area.take();
}

} // namespace glyptos
