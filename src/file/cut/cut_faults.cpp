#include "base/text.h"
#include "file/cut/cut_job.h"

#include <algorithm>
#include <map>

namespace glyptos {
namespace {

constexpr double kMeets = 0.01; // mm
constexpr double kCell = 5;     // mm, of the grid that neighbours are found by
constexpr size_t kMostFaults = 200;

struct Segment {
    Vec2 a, b;
};

double cross(Vec2 a, Vec2 b) {
    return a.x * b.y - a.y * b.x;
}

double dot(Vec2 a, Vec2 b) {
    return a.x * b.x + a.y * b.y;
}

bool near(Vec2 a, Vec2 b) {
    return (a - b).length() <= kMeets;
}

/// Segments of cuts that share cells of a grid.
class SegmentGrid {
  public:
    void add(const Segment& s) {
        const size_t n = segments_.size();
        segments_.push_back(s);
        // Along the segment in steps of half a cell, with the cells beside.
        const int steps = std::max(1, int(std::ceil((s.b - s.a).length() / (kCell / 2))));
        std::pair<int, int> last{1 << 30, 0};
        for (int i = 0; i <= steps; ++i) {
            const Vec2 p = s.a + (s.b - s.a) * (double(i) / steps);
            const std::pair cell{int(std::floor(p.x / kCell)), int(std::floor(p.y / kCell))};
            if (cell == last) continue;
            last = cell;
            for (int y = -1; y <= 1; ++y)
                for (int x = -1; x <= 1; ++x) {
                    auto& there = cells_[{cell.first + x, cell.second + y}];
                    if (there.empty() || there.back() != n) there.push_back(n);
                }
        }
    }
    template <class Act>
    void eachPair(const Act& act) const {
        std::map<std::pair<size_t, size_t>, bool> done;
        for (const auto& [cell, there] : cells_)
            for (size_t i = 0; i < there.size(); ++i)
                for (size_t k = i + 1; k < there.size(); ++k) {
                    const std::pair pair(std::min(there[i], there[k]), std::max(there[i], there[k]));
                    if (pair.first != pair.second && done.emplace(pair, true).second)
                        act(segments_[pair.first], segments_[pair.second]);
                }
    }

  private:
    std::vector<Segment> segments_;
    std::map<std::pair<int, int>, std::vector<size_t>> cells_;
};

/// Where two segments cross inside both; ends that touch are no crossing.
std::optional<Vec2> crossing(const Segment& s, const Segment& o) {
    const Vec2 u = s.b - s.a, v = o.b - o.a;
    const double area = cross(u, v);
    if (std::abs(area) < 1e-9 * u.length() * v.length()) return std::nullopt;
    const double t = cross(o.a - s.a, v) / area, k = cross(o.a - s.a, u) / area;
    const double ts = kMeets / std::max(u.length(), kMeets), ks = kMeets / std::max(v.length(), kMeets);
    if (t <= ts || t >= 1 - ts || k <= ks || k >= 1 - ks) return std::nullopt;
    return s.a + u * t;
}

/// A place that two segments run along together for more than a touch.
std::optional<Vec2> together(const Segment& s, const Segment& o) {
    const Vec2 u = s.b - s.a;
    const double length = u.length();
    if (length <= kMeets) return std::nullopt;
    const Vec2 way = u * (1 / length);
    if (std::abs(cross(way, o.a - s.a)) > kMeets || std::abs(cross(way, o.b - s.a)) > kMeets)
        return std::nullopt;
    const double p = dot(o.a - s.a, way), q = dot(o.b - s.a, way);
    const double from = std::max(0.0, std::min(p, q)), to = std::min(length, std::max(p, q));
    if (to - from <= 2 * kMeets) return std::nullopt;
    return s.a + way * ((from + to) / 2);
}

void addSegments(const Polyline& line, SegmentGrid& grid) {
    const size_t n = line.points.size(), last = line.closed ? n : n - 1;
    for (size_t i = 0; i < last; ++i) {
        const Segment s{line.points[i], line.points[(i + 1) % n]};
        if (!near(s.a, s.b)) grid.add(s);
    }
}

/// Ends of cuts that no other end meets.
std::vector<Vec2> looseEnds(std::vector<Vec2> ends) {
    std::sort(ends.begin(), ends.end(), [](Vec2 a, Vec2 b) { return a.x < b.x; });
    std::vector<Vec2> out;
    for (size_t i = 0; i < ends.size(); ++i) {
        bool met = false;
        for (size_t k = i; k-- > 0 && ends[i].x - ends[k].x <= kMeets;) met = met || near(ends[i], ends[k]);
        for (size_t k = i + 1; k < ends.size() && ends[k].x - ends[i].x <= kMeets; ++k)
            met = met || near(ends[i], ends[k]);
        if (!met) out.push_back(ends[i]);
    }
    return out;
}

} // namespace

std::string CutFault::sentence() const {
    const std::string place = " at " + shortNumber(at.x) + ", " + shortNumber(at.y) + " mm";
    switch (kind) {
    case Kind::Open:
        return "A cut is open" + place + ": what it goes round does not come out.";
    case Kind::Crossing:
        return "Two cuts cross" + place + ".";
    case Kind::Twice:
        return "The same stretch is cut twice" + place + ".";
    default:
        return "A line has no length" + place + ".";
    }
}

std::vector<CutFault> faultsOf(const CutJob& job) {
    std::vector<CutFault> out;
    SegmentGrid grid;
    std::vector<Vec2> ends;
    for (const ToolLine& line : job.lines) {
        if (line.tool == CutTool::Register) continue;
        const auto& points = line.line.points;
        const bool isPoint =
            std::all_of(points.begin(), points.end(), [&](Vec2 p) { return near(p, points[0]); });
        if (points.size() < 2 || isPoint) {
            if (!points.empty()) out.push_back({CutFault::Kind::Short, points[0]});
            continue;
        }
        if (line.tool != CutTool::Cut) continue;
        if (!line.line.closed && !near(points.front(), points.back()))
            ends.push_back(points.front()), ends.push_back(points.back());
        addSegments(line.line, grid);
    }
    for (const Vec2& end : looseEnds(std::move(ends))) out.push_back({CutFault::Kind::Open, end});
    grid.eachPair([&](const Segment& s, const Segment& o) {
        if (out.size() >= kMostFaults) return;
        if (const auto at = crossing(s, o))
            out.push_back({CutFault::Kind::Crossing, *at});
        else if (const auto along = together(s, o))
            out.push_back({CutFault::Kind::Twice, *along});
    });
    return out;
}

double CutJob::length(CutTool tool) const {
    double sum = 0;
    for (const ToolLine& line : lines) {
        if (line.tool != tool) continue;
        const auto& p = line.line.points;
        for (size_t i = 1; i < p.size(); ++i) sum += (p[i] - p[i - 1]).length();
        if (line.line.closed && p.size() > 1) sum += (p.front() - p.back()).length();
    }
    return sum;
}

} // namespace glyptos
