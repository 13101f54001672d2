// Out of focus: every point becomes the shape of the lens's opening, a disc or a polygon, in linear light;
// lights above a border count more, so that they show that shape. Rows of the opening are runs, so that each
// is the difference of two sums along the row.

#include "treat/filters.h"
#include "treat/vector_math.h"

#include <numbers>

namespace glyptos {
namespace {

enum { Radius, Blades, Turn, Lights, Border };
constexpr Figure kFigures[]{
    length("radius", "Radius", 3),           whole("blades", "Blades (2: round)", 2, 12, 2),
    degrees("turn", "Turned by", 0),         share("lights", "Lights shine", 0.5, 0, 4),
    share("border", "Lights begin at", 0.8),
};
constexpr double kWidest = 14; // px of a level

int levelOf(double radiusPx) {
    int level = 0;
    while (radiusPx / std::exp2(level) > kWidest) ++level;
    return level;
}

std::vector<Need> needs(const Figures& f, const Place& place) {
    const double radius = place.px(f.number(Radius));
    if (radius < 0.3) return {};
    const int level = levelOf(radius);
    return {{level, int(std::ceil(radius / std::exp2(level))) + 5}};
}

/// Of each row of the opening, from -reach to reach, where it begins and ends; empty ones end where they
/// begin.
struct Opening {
    int reach;
    std::vector<std::pair<float, float>> runs;
    float area = 0;
};

Opening openingOf(double radius, int blades, double turn) {
    Opening out{int(std::ceil(radius)), {}, 0};
    std::vector<Vec2> corners;
    for (int i = 0; i < (blades < 3 ? 64 : blades); ++i) {
        const double a = turn + 2 * std::numbers::pi * i / (blades < 3 ? 64 : blades);
        corners.push_back({radius * std::cos(a), radius * std::sin(a)});
    }
    for (int y = -out.reach; y <= out.reach; ++y) {
        double from = 1e9, to = -1e9;
        for (size_t i = 0; i < corners.size(); ++i) {
            const Vec2 a = corners[i], b = corners[(i + 1) % corners.size()];
            if ((a.y <= y) == (b.y <= y)) continue;
            const double x = a.x + (b.x - a.x) * (y - a.y) / (b.y - a.y);
            from = std::min(from, x), to = std::max(to, x);
        }
        if (from > to) from = to = 0;
        out.runs.emplace_back(float(from), float(to));
        out.area += float(to - from);
    }
    return out;
}

/// Linear light, premultiplied, times a weight that grows from the border on.
void toWeightedLight(Planes& planes, float lights, float border) {
    for (int y = planes.area.y; y < planes.area.bottom(); ++y)
        for (int x = 0; x < planes.area.w; ++x) {
            const float alpha = planes.row(3, y)[x];
            if (alpha <= 0) continue;
            float linear[3];
            for (int c = 0; c < 3; ++c)
                linear[c] = rows::toLinear(rows::clamp01(planes.row(c, y)[x] / alpha));
            const float light =
                rows::toEncoded(0.2126f * linear[0] + 0.7152f * linear[1] + 0.0722f * linear[2]);
            const float weight = 1 + 16 * lights * rows::smooth(border, 1.0f, light);
            for (int c = 0; c < 3; ++c) planes.row(c, y)[x] = linear[c] * alpha * weight;
            planes.row(3, y)[x] = alpha;
        }
}

Plane throughOpening(const Plane& in, const Opening& opening, const IntRect& area) {
    Plane out(area);
    const int y0 = area.y - opening.reach, y1 = area.bottom() + opening.reach;
    std::vector<std::vector<double>> sums(static_cast<size_t>(y1 - y0));
    for (int y = y0; y < y1; ++y) {
        auto& sum = sums[size_t(y - y0)];
        sum.resize(size_t(in.area.w) + 1);
        const float* row = in.row(y);
        for (int x = 0; x < in.area.w; ++x) sum[size_t(x) + 1] = sum[size_t(x)] + double(row[x]);
    }
    const auto upTo = [](const std::vector<double>& sum, double x) {
        const auto i = size_t(x);
        return sum[i] + (sum[i + 1] - sum[i]) * (x - double(i));
    };
    for (int y = area.y; y < area.bottom(); ++y)
        for (int x = 0; x < area.w; ++x) {
            double total = 0;
            const double middle = area.x - in.area.x + x + 0.5;
            for (int dy = -opening.reach; dy <= opening.reach; ++dy) {
                const auto [from, to] = opening.runs[size_t(dy + opening.reach)];
                if (from == to) continue;
                const auto& sum = sums[size_t(y + dy - y0)];
                total += upTo(sum, middle + double(to)) - upTo(sum, middle + double(from));
            }
            out.row(y)[x] = float(total / double(opening.area));
        }
    return out;
}

void draw(const AroundJob& job, Planes& out) {
    const Figures& f = job.figures;
    const double radius = job.place.px(f.number(Radius));
    const int level = levelOf(radius);
    const double unit = std::exp2(level);
    const auto lights = float(f.number(Lights)), border = float(std::min(f.number(Border), 0.99));
    Planes in = copyOf(job.inputs[0]);
    toWeightedLight(in, lights, border);
    const Vec2 axis = job.place.way(f.number(Turn), 1);
    const Opening opening =
        openingOf(std::max(radius / unit, 0.3), int(f.number(Blades)), std::atan2(axis.y, axis.x));
    const IntRect inner{in.area.x + opening.reach + 1, in.area.y + opening.reach + 1,
                        in.area.w - 2 * opening.reach - 2, in.area.h - 2 * opening.reach - 2};
    for (int c = 0; c < 4; ++c) out.c[c] = resized(throughOpening(in.c[c], opening, inner), level, out.area);
    for (int y = out.area.y; y < out.area.bottom(); ++y)
        for (int x = 0; x < out.area.w; ++x) {
            const float alpha = rows::clamp01(out.row(3, y)[x]);
            for (int c = 0; c < 3; ++c) {
                float& v = out.row(c, y)[x];
                v = alpha > 0 ? alpha * rows::clamp01(rows::toEncoded(rows::clamp01(v / alpha))) : 0;
            }
            out.row(3, y)[x] = alpha;
        }
}

} // namespace

extern const TreatmentKind kLensBlur{
    "lens-blur", "Lens blur", TreatmentFamily::Blur, kFigures, false, false, nullptr, needs, draw};

} // namespace glyptos
