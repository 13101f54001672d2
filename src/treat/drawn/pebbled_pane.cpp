// What shows, seen through a pane of pebbles: each bends the light towards its middle, which lies at a chance
// place in its cell (surfaces/surface_noise.h), the more the nearer it is. Pebbles smaller than two pixels
// bend nothing.

#include "treat/kind.h"
#include "treat/sampled.h"
#include "treat/surfaces/surface_noise.h"

namespace glyptos {
namespace {

enum { Size, Strength, Seed };
constexpr Figure kFigures[]{length("size", "Size of a pebble", 4, 0.01),
                            share("strength", "Bends by", 0.6, -2, 2), chance()};

/// How far the farthest middle of a cell is, in cells.
constexpr double kFarthest = 1.5;

std::vector<Need> needs(const Figures& f, const Place& place) {
    const double px = place.px(f.number(Size));
    if (f.number(Strength) == 0 || px < 1) return {};
    return {{0, int(std::ceil(kFarthest * px * std::abs(f.number(Strength)))) + 2}};
}

struct Pane {
    rows::Lattice lattice;
    float strength;
};

/// Ways to where each pixel of a row is seen, in cells; u, v: where it is.
GLYPTOS_ROWS void bendRow(float u, float v, float du, float dv, const Pane& pane, float* __restrict toU,
                          float* __restrict toV, size_t n) {
    const rows::Lattice l = pane.lattice;
    const float strength = pane.strength * rows::shownOf(l);
    for (size_t i = 0; i < n; ++i) {
        const float x = u + du * float(int32_t(i)), y = v + dv * float(int32_t(i));
        const rows::CellPoint at = rows::cellPointAt(x, y, l);
        // All of it at the middle of a pebble, nothing where two meet.
        const float inside = rows::clamp01(2 * (at.second - at.nearest));
        toU[i] = at.toX * strength * inside, toV[i] = at.toY * strength * inside;
    }
}

void draw(const AroundJob& job, Planes& out) {
    const Figures& f = job.figures;
    const double size = f.number(Size);
    const Affine onto = job.place.toOutput * Affine::scaling(size, size);
    const Affine map = onto.inverse().value_or(Affine{});
    const Pane pane{{f.seed(Seed) * 71u, -1, -1, float(job.place.px(size))}, float(f.number(Strength))};
    const auto n = size_t(out.area.w);
    std::vector<float> toU(n), toV(n);
    for (int y = out.area.y; y < out.area.bottom(); ++y) {
        const Vec2 first = map.map({out.area.x + 0.5, y + 0.5});
        bendRow(float(first.x), float(first.y), float(map.a), float(map.b), pane, toU.data(), toV.data(), n);
        for (size_t i = 0; i < n; ++i) {
            const Vec2 way = onto.mapVector({double(toU[i]), double(toV[i])});
            const Sample s = sampledAt(job.inputs[0], float(out.area.x) + float(i) + 0.5f + float(way.x),
                                       float(y) + 0.5f + float(way.y));
            for (int c = 0; c < 4; ++c) out.row(c, y)[i] = s.c[c];
        }
    }
}

} // namespace

extern const TreatmentKind kPebbledPane{
    "pebbled-pane", "Pebbled pane", TreatmentFamily::Drawn, kFigures, false, true, nullptr, needs,
    draw,           "size"};

} // namespace glyptos
