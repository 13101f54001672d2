// Moved along drawn curves while it was seen. Each pixel is swept the way that the curves run near it, every
// one weighted by its distance to the power of −4, as far as its place along the nearest curve asks for and
// less and less away from it; the mean along that way is along_ways.h. The field of ways is worked out on a
// grid of the output and is straight between its points.

#include "treat/blurs/along_ways.h"
#include "treat/kind.h"
#include "treat/vector_math.h"

namespace glyptos {
namespace {

enum { Along, Length, Begin, End, Ease, Reach };
constexpr Figure kFigures[]{
    path("along", "Along"),
    length("length", "Length", 12),
    share("begin", "Where it begins", 1),
    share("end", "Where it ends", 1),
    share("ease", "Eases at the ends", 0.25),
    length("reach", "Reaches", 40, 0.01),
};

constexpr int kGrid = 16; ///< px

std::vector<Need> needs(const Figures& f, const Place& place) {
    const double px = place.px(f.number(Length)) * std::max(f.number(Begin), f.number(End));
    if (px < 0.5) return {};
    return {{0, reachAlong(px)}};
}

/// A place on a curve: output px, the way it runs (length 1) and how far that is swept, px.
struct Station {
    Vec2 at, way;
    double sweep;
};

/// What is swept along as long as no curve was drawn: a bow across the panel.
std::vector<Contour> bowAcross(const Rect& panel) {
    const double w = panel.w / 3, h = panel.h / 3;
    return {{{{{panel.x, panel.y + 2 * h}, {}, {w, -2 * h}},
              {{panel.right(), panel.y + 2 * h}, {-w, -2 * h}, {}}},
             false}};
}

Vec2 between(const PathNode& a, const PathNode& b, double t) {
    const Vec2 p[4]{a.at, a.at + a.after, b.at + b.before, b.at};
    const double u = 1 - t;
    return p[0] * (u * u * u) + p[1] * (3 * u * u * t) + p[2] * (3 * u * t * t) + p[3] * (t * t * t);
}

/// The curve as points close to each other, output px.
std::vector<Vec2> pointsOf(const Contour& contour, const Affine& toOutput) {
    constexpr int kEach = 24;
    std::vector<Vec2> out;
    const size_t n = contour.nodes.size(), last = contour.closed ? n : n - 1;
    for (size_t i = 0; i < last; ++i)
        for (int k = 0; k < kEach; ++k)
            out.push_back(
                toOutput.map(between(contour.nodes[i], contour.nodes[(i + 1) % n], double(k) / kEach)));
    out.push_back(toOutput.map(contour.nodes[contour.closed ? 0 : n - 1].at));
    return out;
}

/// Less and less towards the ends of an open curve.
double easedAt(double t, const Contour& contour, double ease) {
    if (contour.closed || ease <= 0) return 1;
    const double in = std::clamp(std::min(t, 1 - t) / (ease / 2), 0.0, 1.0);
    return in * in * (3 - 2 * in);
}

void addStations(const Contour& contour, const Figures& f, const Place& place, std::vector<Station>& out) {
    constexpr size_t kStations = 32;
    if (contour.nodes.size() < 2) return;
    const std::vector<Vec2> points = pointsOf(contour, place.toOutput);
    std::vector<double> until{0};
    for (size_t i = 1; i < points.size(); ++i)
        until.push_back(until.back() + (points[i] - points[i - 1]).length());
    if (until.back() <= 0) return;
    const double length = place.px(f.number(Length));
    size_t part = 1;
    for (size_t k = 0; k < kStations; ++k) {
        const double t = (double(k) + 0.5) / kStations, at = t * until.back();
        while (part + 1 < points.size() && until[part] < at) ++part;
        const Vec2 step = points[part] - points[part - 1];
        const double of = std::max(step.length(), 1e-9), within = (at - until[part - 1]) / of;
        const double strength = f.number(Begin) + (f.number(End) - f.number(Begin)) * t;
        out.push_back({points[part - 1] + step * within, step * (1 / of),
                       length * strength * easedAt(t, contour, f.number(Ease))});
    }
}

/// Ways of output px at the points of a grid that has a point at every multiple of kGrid.
struct Field {
    int left, top, across;
    std::vector<Vec2> ways;
    const Vec2& at(int i, int j) const { return ways[size_t(j) * size_t(across) + size_t(i)]; }
    /// How far any goes across and down.
    Vec2 farthest() const {
        Vec2 out;
        for (const Vec2& way : ways)
            out = {std::max(out.x, std::abs(way.x)), std::max(out.y, std::abs(way.y))};
        return out;
    }
};

Vec2 wayAt(Vec2 at, const std::vector<Station>& stations, double reach) {
    std::vector<double> away;
    for (const Station& s : stations) {
        const Vec2 off = s.at - at;
        away.push_back(off.x * off.x + off.y * off.y);
    }
    const auto nearest = size_t(std::min_element(away.begin(), away.end()) - away.begin());
    const double off = std::sqrt(away[nearest]) / reach;
    if (off >= 1) return {};
    Vec2 way;
    double sweep = 0, weights = 0;
    for (size_t i = 0; i < stations.size(); ++i) {
        const Station& s = stations[i];
        const double d = away[i] + 0.01 * away[nearest] + 1, w = 1 / (d * d);
        // A way and its opposite sweep alike.
        const bool against = s.way.x * stations[nearest].way.x + s.way.y * stations[nearest].way.y < 0;
        way = way + s.way * (against ? -w : w);
        sweep += s.sweep * w, weights += w;
    }
    const double length = way.length();
    return length > 0 ? way * (sweep / weights * (1 - off * off * (3 - 2 * off)) / length) : Vec2{};
}

Field fieldOver(const IntRect& area, const std::vector<Station>& stations, double reach) {
    const auto gridAt = [](int v) { return int(std::floor(double(v) / kGrid)); };
    Field out{gridAt(area.x) * kGrid, gridAt(area.y) * kGrid, gridAt(area.right()) - gridAt(area.x) + 2, {}};
    const int down = gridAt(area.bottom()) - gridAt(area.y) + 2;
    for (int j = 0; j < down; ++j)
        for (int i = 0; i < out.across; ++i)
            out.ways.push_back(
                wayAt({double(out.left + i * kGrid), double(out.top + j * kGrid)}, stations, reach));
    return out;
}

GLYPTOS_ROWS void mixRows(const float* __restrict a, const float* __restrict b, float share,
                          float* __restrict out, size_t n) {
    for (size_t i = 0; i < n; ++i) out[i] = a[i] + (b[i] - a[i]) * share;
}

GLYPTOS_ROWS void along(float x, float y, const float* __restrict dx, const float* __restrict dy, float t,
                        float* __restrict ox, float* __restrict oy, size_t n) {
    for (size_t i = 0; i < n; ++i) ox[i] = x + float(int(i)) + dx[i] * t, oy[i] = y + dy[i] * t;
}

/// Two rows of values for the pixels of a row.
struct RowOfVectors {
    std::vector<float> x, y;
    void resize(size_t n) { x.resize(n), y.resize(n); }
};

/// The ways of a field, straight from point to point of its grid.
class FieldWays final : public Ways {
  public:
    explicit FieldWays(Field field)
        : field_(std::move(field)) {}

    void startRow(float x, float y, size_t n) override {
        const float down = (y - float(field_.top)) / kGrid;
        const int j = int(down);
        if (x != x_ || n != ways_.x.size() || (j != gridRow_ && j != gridRow_ + 1)) {
            x_ = x;
            ways_.resize(n), upper_.resize(n), lower_.resize(n);
            spread(j, upper_), spread(j + 1, lower_);
        } else if (j != gridRow_) {
            std::swap(upper_, lower_);
            spread(j + 1, lower_);
        }
        gridRow_ = j;
        y_ = y;
        const float share = down - float(j);
        mixRows(upper_.x.data(), lower_.x.data(), share, ways_.x.data(), n);
        mixRows(upper_.y.data(), lower_.y.data(), share, ways_.y.data(), n);
    }

    void at(float t, float* outX, float* outY) const override {
        along(x_, y_, ways_.x.data(), ways_.y.data(), t, outX, outY, ways_.x.size());
    }

  private:
    /// A row of the grid, between its points.
    void spread(int j, RowOfVectors& out) const {
        const float first = x_ - float(field_.left);
        const auto n = int(out.x.size());
        for (int i = 0; i < n;) {
            const float u = first + float(i);
            const int k = int(u) / kGrid, m = std::min(int(std::ceil(float((k + 1) * kGrid) - u)), n - i);
            const Vec2 &a = field_.at(k, j), &b = field_.at(k + 1, j);
            const float share = (u - float(k * kGrid)) / kGrid;
            ramp(float(a.x), float(b.x), share, out.x.data() + i, m);
            ramp(float(a.y), float(b.y), share, out.y.data() + i, m);
            i += m;
        }
    }
    static void ramp(float from, float to, float share, float* out, int n) {
        for (int i = 0; i < n; ++i) out[i] = from + (to - from) * (share + float(i) / kGrid);
    }

    Field field_;
    float x_ = 0, y_ = 0;
    int gridRow_ = -1;
    RowOfVectors upper_, lower_, ways_;
};

void draw(const AroundJob& job, Planes& out) {
    const Figures& f = job.figures;
    std::vector<Station> stations;
    for (const Contour& contour : f.path(Along)) addStations(contour, f, job.place, stations);
    if (stations.empty())
        for (const Contour& contour : bowAcross(job.place.panel))
            addStations(contour, f, job.place, stations);
    const Planes& in = job.inputs[0];
    if (stations.empty()) { // curves without length
        out = cutOut(in, out.area);
        return;
    }
    const double longest = job.place.px(f.number(Length)) * std::max(f.number(Begin), f.number(End));
    const int by = drawnAlong(longest);
    Field field = fieldOver({out.area.x - by, out.area.y - by, out.area.w + 2 * by, out.area.h + 2 * by},
                            stations, job.place.px(f.number(Reach)));
    const Vec2 farthest = field.farthest();
    if (farthest == Vec2{}) {
        out = cutOut(in, out.area);
        return;
    }
    FieldWays ways(std::move(field));
    out = meanAlong(in, out.area, longest, farthest, ways);
}

} // namespace

extern const TreatmentKind kSweepBlur{
    "sweep-blur", "Sweep blur", TreatmentFamily::Blur, kFigures, false, true, nullptr, needs, draw, "length"};

} // namespace glyptos
