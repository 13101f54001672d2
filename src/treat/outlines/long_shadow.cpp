// The whole way that what shows would leave when it was pushed to a side: the greatest alpha along it, found
// by doubling: what covers 2k px of the way is the greater of two that cover k. It fades by e^-(5 · fade)
// over its length.

#include "treat/filters.h"
#include "treat/outlines/laying.h"

namespace glyptos {
namespace {

enum { Colour, Opacity, Direction, Length, Fade };
constexpr Figure kFigures[]{
    colour("colour", "Colour", {0.78f, 0.27f, 0.17f, 1}),
    share("strength", "Strength", 1),
    degrees("direction", "Falls towards", 45),
    length("length", "Length", 12),
    share("fade", "Fades", 0),
};

std::vector<Need> needs(const Figures& f, const Place& place) {
    if (f.number(Opacity) == 0 || f.number(Length) == 0) return {};
    return {{0, int(std::ceil(place.px(f.number(Length)))) + 2}};
}

float sampled(const Plane& plane, double x, double y) {
    const int l = int(std::floor(x)), t = int(std::floor(y));
    if (l < plane.area.x || t < plane.area.y || l + 1 >= plane.area.right() || t + 1 >= plane.area.bottom())
        return 0;
    const auto fx = float(x - l), fy = float(y - t);
    const float *upper = plane.row(t) + (l - plane.area.x), *lower = plane.row(t + 1) + (l - plane.area.x);
    const float a = upper[0] + (upper[1] - upper[0]) * fx, b = lower[0] + (lower[1] - lower[0]) * fx;
    return a + (b - a) * fy;
}

void draw(const AroundJob& job, Planes& out) {
    const Figures& f = job.figures;
    const double length = job.place.px(f.number(Length));
    const Vec2 whole = job.place.way(f.number(Direction), f.number(Length));
    const Vec2 way = whole * (1 / std::max(whole.length(), 1e-9));
    const double faint = 5 * f.number(Fade) / std::max(length, 1e-9);
    Plane reached = gaussian(job.inputs[0].c[3], job.inputs[0].area, 0);
    // Steps of at most a pixel at first, so that nothing is missed, and whole lengths at the end.
    const int doublings = std::max(0, int(std::ceil(std::log2(std::max(length, 1.0)))));
    for (int i = 0; i < doublings; ++i) {
        const double step = length / std::exp2(doublings - i);
        const auto left = float(std::exp(-faint * step));
        Plane next(reached.area);
        for (int y = next.area.y; y < next.area.bottom(); ++y)
            for (int x = 0; x < next.area.w; ++x)
                next.row(y)[x] =
                    std::max(reached.row(y)[x],
                             left * sampled(reached, next.area.x + x - way.x * step, y - way.y * step));
        reached = std::move(next);
    }
    out = cutOut(job.inputs[0], out.area);
    layUnder({reached, f.colour(Colour), float(f.number(Opacity))}, out);
}

} // namespace

extern const TreatmentKind kLongShadow{
    "long-shadow", "Long shadow", TreatmentFamily::Outline, kFigures, true, false, nullptr, needs,
    draw,          "length"};

} // namespace glyptos
