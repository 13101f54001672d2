#include "treat/surfaces/surface.h"

#include "treat/light/relief.h"

namespace glyptos {
namespace {

enum { Scale, Turn, Low, Middle, High, Contrast, Relief, Direction_, Repeats, Seed };

/// From output px to units of the scale about the panel's middle.
Affine toSurface(const Figures& f, const Place& place) {
    const double k = 1 / f.number(Scale);
    const Vec2 middle = place.panel.centre();
    return Affine::rotation(-f.number(Turn)) * Affine::scaling(k, k) *
           Affine::translation(-middle.x, -middle.y) * place.toOutput.inverse().value_or(Affine{});
}

Plane heightsOver(const AroundJob& job, SurfaceHeights heights, const IntRect& area) {
    constexpr int32_t kPeriod = 8, kEverywhere = -1;
    const Figures& f = job.figures;
    const Affine map = toSurface(f, job.place);
    const int32_t mask = f.flag(Repeats) ? kPeriod - 1 : kEverywhere;
    const rows::Lattice lattice{f.seed(Seed) * 131u + 17u, mask, mask, float(job.place.px(f.number(Scale)))};
    Plane out(area);
    for (int y = area.y; y < area.bottom(); ++y) {
        const Vec2 first = map.map({area.x + 0.5, y + 0.5});
        heights({float(first.x), float(first.y), float(map.a), float(map.b), lattice}, out.row(y),
                size_t(area.w));
    }
    return out;
}

/// Three colours, sharper or softer between, and the light from one side.
struct Colouring {
    float low[3], middle[3], high[3];
    float gain, tall;
    Direction light;
};

Colouring colouringOf(const Figures& f, const Place& place) {
    constexpr double kTallest = 0.12, kElevation = 0.7; // of the scale; of the light, radians
    const Rgba &a = f.colour(Low), &b = f.colour(Middle), &c = f.colour(High);
    const Vec2 from = place.way(f.number(Direction_), 1);
    const double length = std::max(from.length(), 1e-9), flat = std::cos(kElevation) / length;
    return {{a.r, a.g, a.b},
            {b.r, b.g, b.b},
            {c.r, c.g, c.b},
            float(std::exp2(2 * f.number(Contrast))),
            float(f.number(Relief) * kTallest * place.px(f.number(Scale))),
            {float(from.x * flat), float(from.y * flat), float(std::sin(kElevation))}};
}

GLYPTOS_ROWS void colourRow(const float* __restrict height, const float* __restrict slopeX,
                            const float* __restrict slopeY, const float* __restrict alpha,
                            float* __restrict r, float* __restrict g, float* __restrict b, size_t n,
                            const Colouring& k) {
    const float gain = k.gain, tall = k.tall;
    const Direction light = k.light;
    const float *low = k.low, *middle = k.middle, *high = k.high;
    for (size_t i = 0; i < n; ++i) {
        const float t = rows::clamp01(0.5f + (height[i] - 0.5f) * gain);
        const float lower = t < 0.5f ? 2 * t : 1.0f, upper = t > 0.5f ? 2 * t - 1 : 0.0f;
        const Direction normal = unit(-slopeX[i] * tall, -slopeY[i] * tall, 1);
        const float towards = normal.x * light.x + normal.y * light.y + normal.z * light.z;
        const float lit = (towards > 0 ? towards : 0.0f) / light.z;
        const auto shown = [&](int c) {
            const float own = low[c] + (middle[c] - low[c]) * lower + (high[c] - middle[c]) * upper;
            const float up = own + (1 - own) * (1 - 1 / (lit > 1 ? lit : 1.0f));
            return rows::clamp01(lit > 1 ? up : own * lit) * alpha[i];
        };
        r[i] = shown(0), g[i] = shown(1), b[i] = shown(2);
    }
}

} // namespace

std::vector<Need> surfaceNeeds(const Figures&, const Place&) {
    return {{0, 0}};
}

void drawSurface(const AroundJob& job, SurfaceHeights heights, Planes& out) {
    const IntRect& area = out.area;
    // Over a length of the surface, so that it is lit alike at every zoom.
    constexpr double kStep = 0.01; // of its scale
    const int by = std::clamp(int(std::lround(kStep * job.place.px(job.figures.number(Scale)))), 1, 64);
    const Plane height =
        heightsOver(job, heights, {area.x - by, area.y - by, area.w + 2 * by, area.h + 2 * by});
    const Slopes slopes = slopesOf(height, area, by);
    const Colouring colouring = colouringOf(job.figures, job.place);
    out.c[3] = copyOf(job.inputs[0]).c[3];
    for (int y = area.y; y < area.bottom(); ++y)
        colourRow(height.row(y) + by, slopes.x.row(y), slopes.y.row(y), out.row(3, y), out.row(0, y),
                  out.row(1, y), out.row(2, y), size_t(area.w), colouring);
}

} // namespace glyptos
