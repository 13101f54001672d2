#include "raster/stroke.h"

#include <cmath>
#include <numbers>

namespace glyptos {
namespace {

constexpr double kMitreLimit = 4;
constexpr double kArrow = 3; // widths

Vec2 unit(Vec2 v) {
    const double n = v.length();
    return n > 0 ? v * (1 / n) : Vec2{};
}

/// To the right of the way, as seen with y downwards.
Vec2 side(Vec2 way) {
    return {-way.y, way.x};
}

double cross(Vec2 a, Vec2 b) {
    return a.x * b.y - a.y * b.x;
}

double dot(Vec2 a, Vec2 b) {
    return a.x * b.x + a.y * b.y;
}

/// Adds polygons that all run the same way round, so that overlaps count once.
class Pieces {
  public:
    Pieces(double half, double tolerance)
        : half_(half)
        , step_(half > tolerance ? 2 * std::acos(1 - tolerance / half) : 1.0) {}

    void polygon(const std::vector<Vec2>& points) {
        double area = 0;
        for (size_t i = 0; i < points.size(); ++i) area += cross(points[i], points[(i + 1) % points.size()]);
        const size_t n = points.size();
        for (size_t i = 0; i < n; ++i) {
            const Vec2 p = area >= 0 ? points[i] : points[n - 1 - i];
            i == 0 ? out_.moveTo(p) : out_.lineTo(p);
        }
    }

    /// A wedge of a circle about `at`, from direction `from` over `angle` radians.
    void wedge(Vec2 at, Vec2 from, double angle) {
        const int n = std::max(1, static_cast<int>(std::ceil(std::abs(angle) / step_)));
        std::vector<Vec2> points{at};
        for (int i = 0; i <= n; ++i) {
            const double a = angle * i / n, s = std::sin(a), k = std::cos(a);
            points.push_back(at + Vec2{from.x * k - from.y * s, from.x * s + from.y * k} * half_);
        }
        polygon(points);
    }

    void segment(Vec2 a, Vec2 b) {
        const Vec2 off = side(unit(b - a)) * half_;
        polygon({a + off, b + off, b - off, a - off});
    }

    void join(Vec2 at, Vec2 in, Vec2 out, LineJoin kind) {
        const double turn = std::atan2(cross(in, out), dot(in, out));
        if (std::abs(turn) < 1e-9) return;
        // The gap opens on the outer side of the bend.
        const Vec2 outer = side(in) * (turn > 0 ? -1 : 1), next = side(out) * (turn > 0 ? -1 : 1);
        if (kind == LineJoin::Round) return wedge(at, outer, turn);
        std::vector<Vec2> points{at, at + outer * half_, at + next * half_};
        const double spread = std::cos(turn / 2); // half width over mitre length
        if (kind == LineJoin::Mitre && spread * kMitreLimit >= 1)
            points.insert(points.begin() + 2, at + unit(outer + next) * (half_ / spread));
        polygon(points);
    }

    /// The end of a line at `at` that was going along `way`.
    void cap(Vec2 at, Vec2 way, LineCap kind) {
        const Vec2 off = side(way);
        if (kind == LineCap::Round) wedge(at, off * -1, std::numbers::pi);
        if (kind == LineCap::Square)
            polygon({at + off * half_, at + (off + way) * half_, at + (way - off) * half_, at - off * half_});
        if (kind == LineCap::Arrow) {
            const Vec2 foot = at - way * (2 * half_ * kArrow);
            polygon({at, foot + off * (half_ * kArrow), foot - off * (half_ * kArrow)});
        }
    }

    Path take() { return std::move(out_); }

  private:
    double half_, step_;
    Path out_;
};

std::vector<Vec2> withoutRepeats(const Polyline& line) {
    std::vector<Vec2> out;
    for (const Vec2& p : line.points)
        if (out.empty() || (p - out.back()).length() > 1e-9) out.push_back(p);
    while (line.closed && out.size() > 1 && (out.back() - out.front()).length() <= 1e-9) out.pop_back();
    return out;
}

/// An arrow's tip must not be blunted by the end of the line under it: the line stops inside the head.
void shorten(std::vector<Vec2>& points, double by) {
    while (points.size() > 2 && (points[0] - points[1]).length() <= by) {
        by -= (points[0] - points[1]).length();
        points.erase(points.begin());
    }
    const double length = (points[1] - points[0]).length();
    points[0] = points[0] + (points[1] - points[0]) * std::min(0.999, by / std::max(length, 1e-12));
}

} // namespace

std::vector<Polyline> flattened(const Path& path, double tolerance) {
    std::vector<Polyline> out;
    const auto chords = [&](double bend) {
        return std::clamp(static_cast<int>(std::ceil(std::sqrt(bend / tolerance))), 1, 500);
    };
    const Vec2* p = path.points().data();
    for (const Path::Verb verb : path.verbs()) {
        if (verb == Path::Verb::Move) {
            out.push_back({{*p++}, false});
            continue;
        }
        if (out.empty()) out.push_back({{Vec2{}}, false});
        std::vector<Vec2>& points = out.back().points;
        const Vec2 a = points.back();
        if (verb == Path::Verb::Line) {
            points.push_back(*p++);
        } else if (verb == Path::Verb::Quad) {
            const int n = chords((a - p[0] * 2 + p[1]).length() / 4);
            for (int i = 1; i <= n; ++i) {
                const double t = double(i) / n, s = 1 - t;
                points.push_back(a * (s * s) + p[0] * (2 * s * t) + p[1] * (t * t));
            }
            p += 2;
        } else {
            const int n =
                chords(0.75 * std::max((a - p[0] * 2 + p[1]).length(), (p[0] - p[1] * 2 + p[2]).length()));
            for (int i = 1; i <= n; ++i) {
                const double t = double(i) / n, s = 1 - t;
                points.push_back(a * (s * s * s) + p[0] * (3 * s * s * t) + p[1] * (3 * s * t * t) +
                                 p[2] * (t * t * t));
            }
            p += 3;
        }
    }
    for (Polyline& line : out)
        line.closed = line.points.size() > 2 && (line.points.front() - line.points.back()).length() < 1e-9;
    return out;
}

Path strokeOutline(const std::vector<Polyline>& lines, const StrokeShape& shape, double tolerance) {
    Pieces pieces(shape.width / 2, tolerance);
    for (const Polyline& line : lines) {
        std::vector<Vec2> points = withoutRepeats(line);
        if (points.size() < 2) continue;
        if (!line.closed) {
            pieces.cap(points.front(), unit(points[0] - points[1]), shape.startCap);
            pieces.cap(points.back(), unit(points.back() - points[points.size() - 2]), shape.endCap);
            const double inside = shape.width * kArrow * 0.8;
            if (shape.startCap == LineCap::Arrow) shorten(points, inside);
            if (shape.endCap == LineCap::Arrow) {
                std::reverse(points.begin(), points.end());
                shorten(points, inside);
                std::reverse(points.begin(), points.end());
            }
        }
        const size_t n = points.size(), segments = line.closed ? n : n - 1;
        for (size_t i = 0; i < segments; ++i) {
            pieces.segment(points[i], points[(i + 1) % n]);
            if (i + 1 < segments || line.closed)
                pieces.join(points[(i + 1) % n], unit(points[(i + 1) % n] - points[i]),
                            unit(points[(i + 2) % n] - points[(i + 1) % n]), shape.join);
        }
    }
    return pieces.take();
}

} // namespace glyptos
