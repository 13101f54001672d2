// The layer printed in two or three inks that do not quite meet. Each pixel's colour, as densities -ln c, is
// told as amounts of the inks that come nearest to it (least squares, none negative); each ink is moved by
// its own way, and they are printed over each other on paper: the colours multiply. Each ink keeps the edge
// it is moved with.

#include "treat/filters.h"
#include "treat/vector_math.h"

namespace glyptos {
namespace {

enum {
    First,
    Second,
    Third,
    Three,
    PaperColour,
    Direction,
    Distance,
    ThirdDirection,
    ThirdDistance,
    SeeThrough
};
constexpr Figure kFigures[]{
    colour("first", "First ink", {0.08f, 0.2f, 0.32f, 1}),
    colour("second", "Second ink", {0.84f, 0.3f, 0.2f, 1}),
    colour("third", "Third ink", {0.95f, 0.75f, 0.2f, 1}),
    flag("three", "Three inks", false),
    colour("paper", "Paper", {0.96f, 0.93f, 0.86f, 1}),
    degrees("direction", "Second off towards", 25),
    length("distance", "Second off by", 0.8),
    degrees("thirdDirection", "Third off towards", 200),
    length("thirdDistance", "Third off by", 0.5),
    flag("seeThrough", "No paper", true),
};

struct Shift {
    int dx, dy;
    int reach() const { return std::max(std::abs(dx), std::abs(dy)); }
};

Shift shiftOf(const Figures& f, const Place& place, size_t direction, size_t distance) {
    const Vec2 way = place.way(f.number(direction), f.number(distance));
    return {int(std::lround(way.x)), int(std::lround(way.y))};
}

std::vector<Need> needs(const Figures& f, const Place& place) {
    const int reach = std::max(shiftOf(f, place, Direction, Distance).reach(),
                               f.flag(Three) ? shiftOf(f, place, ThirdDirection, ThirdDistance).reach() : 0);
    return {{0, reach}};
}

using Density = std::array<float, 3>;

Density densityOf(const Rgba& c) {
    const auto one = [](float v) { return -std::log(std::max(v, 0.02f)); };
    return {one(c.r), one(c.g), one(c.b)};
}

float dot(const Density& a, const Density& b) {
    return a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
}

/// Amounts 0…1 of the inks whose densities add up nearest to one: by turns, each as the others leave it.
template <size_t N>
std::array<float, N> amountsOf(const Density& wanted, const std::array<Density, N>& inks) {
    std::array<float, N> out{};
    for (int round = 0; round < 12; ++round)
        for (size_t i = 0; i < N; ++i) {
            Density left = wanted;
            for (size_t j = 0; j < N; ++j)
                for (size_t c = 0; c < 3 && j != i; ++c) left[c] -= out[j] * inks[j][c];
            out[i] = std::clamp(dot(left, inks[i]) / std::max(dot(inks[i], inks[i]), 1e-6f), 0.0f, 1.0f);
        }
    return out;
}

/// What the inks are at a pixel of the layer, times its alpha.
std::array<float, 3> inksAt(const Planes& in, int x, int y, const std::array<Density, 3>& inks, bool three) {
    const float alpha = in.c[3].at(x, y);
    if (alpha <= 0) return {};
    const Density wanted =
        densityOf({in.c[0].at(x, y) / alpha, in.c[1].at(x, y) / alpha, in.c[2].at(x, y) / alpha, 1});
    std::array<float, 3> out{};
    if (three) {
        out = amountsOf<3>(wanted, inks);
    } else {
        const auto two = amountsOf<2>(wanted, {inks[0], inks[1]});
        out = {two[0], two[1], 0};
    }
    for (float& v : out) v *= alpha;
    return out;
}

void draw(const AroundJob& job, Planes& out) {
    const Figures& f = job.figures;
    const Planes& in = job.inputs[0];
    const bool three = f.flag(Three), seeThrough = f.flag(SeeThrough);
    const std::array<Density, 3> inks{densityOf(f.colour(First)), densityOf(f.colour(Second)),
                                      densityOf(f.colour(Third))};
    Plane amounts[3]{Plane(in.area), Plane(in.area), Plane(in.area)};
    for (int y = in.area.y; y < in.area.bottom(); ++y)
        for (int x = in.area.x; x < in.area.right(); ++x) {
            const auto a = inksAt(in, x, y, inks, three);
            for (size_t i = 0; i < 3; ++i) amounts[i].row(y)[x - in.area.x] = a[i];
        }
    const Shift shifts[3]{{0, 0},
                          shiftOf(f, job.place, Direction, Distance),
                          shiftOf(f, job.place, ThirdDirection, ThirdDistance)};
    const Rgba& paper = f.colour(PaperColour);
    const float ground[3]{paper.r, paper.g, paper.b};
    for (int y = out.area.y; y < out.area.bottom(); ++y)
        for (int i = 0; i < out.area.w; ++i) {
            const int x = out.area.x + i;
            float density[3]{}, through = 1;
            for (size_t k = 0; k < (three ? 3U : 2U); ++k) {
                const float a = amounts[k].at(x - shifts[k].dx, y - shifts[k].dy);
                for (size_t c = 0; c < 3; ++c) density[c] += a * inks[k][c];
                through *= 1 - a;
            }
            const float own = in.c[3].at(x, y);
            // Without paper: as covering as the inks are, in the colour that they have on white.
            const float cover = seeThrough ? 1 - through : std::max(own, 1 - through);
            for (int c = 0; c < 3; ++c) {
                const float printed = std::exp(-density[c]);
                const float shown = seeThrough
                                        ? rows::clamp01(cover > 1e-6f ? (printed - through) / cover : 0.0f)
                                        : ground[c] * printed;
                out.row(c, y)[i] = shown * cover;
            }
            out.row(3, y)[i] = cover;
        }
}

} // namespace

extern const TreatmentKind kOutOfRegister{
    "out-of-register", "Out of register", TreatmentFamily::Drawn, kFigures, true, false, nullptr, needs, draw,
    "distance"};

} // namespace glyptos
