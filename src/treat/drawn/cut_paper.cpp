// The picture as papers laid on each other, the darkest at the bottom, each cut along a level of the smoothed
// lightness and casting a small shadow on those beneath. Levels are edges of even width whatever the
// lightness does there: it is divided by how steep it is.

#include "treat/drawn/paper_cuts.h"

namespace glyptos {
namespace {

constexpr Figure kFigures[]{
    whole("papers", "Papers", 2, 8, 4),
    colour("dark", "Darkest", {0.09f, 0.16f, 0.24f, 1}),
    colour("middle", "Between", {0.78f, 0.34f, 0.22f, 1}),
    colour("light", "Lightest", {0.96f, 0.88f, 0.7f, 1}),
    length("plain", "How plainly cut", 3, 0.01),
    share("closely", "Follows the edge", 0.3),
    share("lighter", "Lighter or darker", 0, -1, 1),
    share("shadow", "Shadows", 0.45),
    length("shadowSize", "Size of shadows", 0.6),
    degrees("direction", "Shadows fall", 60),
};
enum { Papers, Dark, Middle, Light, Plain, Closely, Lighter, Shadow, ShadowSize, Direction };

WideGaussian plainOf(const Figures& f, const Place& place) {
    return wideGaussian(std::max(place.px(f.number(Plain)) / 2, 0.06));
}
WideGaussian closeOf(const Figures& f, const Place& place) {
    return wideGaussian(std::max(place.px(f.number(Plain)) / 10, 0.06));
}

struct Cast {
    int dx, dy;
    double sigma;
    int reach() const { return std::max(std::abs(dx), std::abs(dy)) + gaussianReach(sigma); }
};
Cast castOf(const Figures& f, const Place& place) {
    constexpr double kSoftest = 6;
    if (f.number(Shadow) == 0) return {0, 0, 0.05};
    const Vec2 way = place.way(f.number(Direction), f.number(ShadowSize) / 2);
    return {int(std::lround(way.x)), int(std::lround(way.y)),
            std::clamp(place.px(f.number(ShadowSize)) / 3, 0.05, kSoftest)};
}

int around(const Figures& f, const Place& place) {
    return castOf(f, place).reach() + 1;
}

std::vector<Need> needs(const Figures& f, const Place& place) {
    const int px = around(f, place);
    return {grownBy(plainOf(f, place).need(), px), grownBy(closeOf(f, place).need(), px), {0, 0}};
}

/// What is cut along: the smooth lightness, with as much of the finer one as is asked for.
Plane cutLight(const AroundJob& job, const IntRect& area) {
    const auto closely = float(job.figures.number(Closely));
    Plane out = smoothLight(job.inputs[0], plainOf(job.figures, job.place), area);
    if (closely == 0) return out;
    const Plane close = smoothLight(job.inputs[1], closeOf(job.figures, job.place), area);
    for (size_t i = 0; i < out.values.size(); ++i)
        out.values.data()[i] += (close.values.data()[i] - out.values.data()[i]) * closely;
    return out;
}

GLYPTOS_ROWS void layRow(float* __restrict v, const float* __restrict on, const float* __restrict dark,
                         float colour, float shadow, size_t n) {
    for (size_t i = 0; i < n; ++i) {
        const float under = v[i] * (1 - shadow * dark[i]);
        v[i] = under + (colour - under) * on[i];
    }
}

void layPaper(const Plane& cover, const Plane& shade, const Rgba& paper, float shadow, Planes& out) {
    const float colour[3]{paper.r, paper.g, paper.b};
    for (int y = out.area.y; y < out.area.bottom(); ++y)
        for (int c = 0; c < 3; ++c)
            layRow(out.row(c, y), cover.row(y) + (out.area.x - cover.area.x), shade.row(y), colour[c], shadow,
                   size_t(out.area.w));
}

void draw(const AroundJob& job, Planes& out) {
    const Figures& f = job.figures;
    const IntRect& area = out.area;
    const int by = around(f, job.place);
    const IntRect wide{area.x - by, area.y - by, area.w + 2 * by, area.h + 2 * by};
    const Plane light = cutLight(job, wide);
    const Cast cast = castOf(f, job.place);
    const auto shadow = float(f.number(Shadow));
    const std::vector<Rgba> papers = paperColours(f);
    const std::vector<float> levels = paperLevels(f);
    const IntRect cut{wide.x + 1, wide.y + 1, wide.w - 2, wide.h - 2};
    for (int c = 0; c < 3; ++c)
        std::fill_n(out.c[c].values.data(), out.c[c].values.size(),
                    c == 0   ? papers[0].r
                    : c == 1 ? papers[0].g
                             : papers[0].b);
    for (size_t k = 0; k < levels.size(); ++k) {
        const Plane cover = coverAbove(light, levels[k], cut);
        Plane shade = gaussian(cover, {area.x - cast.dx, area.y - cast.dy, area.w, area.h}, cast.sigma);
        shade.area = area;
        layPaper(cover, shade, papers[k + 1], shadow, out);
    }
    out.c[3] = copyOf(job.inputs[2]).c[3];
    for (int c = 0; c < 3; ++c)
        for (size_t i = 0; i < out.c[c].values.size(); ++i)
            out.c[c].values.data()[i] *= out.c[3].values.data()[i];
}

/// `here` must have a value on both sides.
GLYPTOS_ROWS void coverRow(const float* __restrict up, const float* __restrict here,
                           const float* __restrict down, float level, float* __restrict out, size_t n) {
    for (size_t i = 0; i < n; ++i) {
        const float dx = here[i + 1] - here[ptrdiff_t(i) - 1], dy = down[i] - up[i];
        const float steep = 0.5f * __builtin_sqrtf(dx * dx + dy * dy);
        out[i] = rows::clamp01((here[i] - level) / (steep > 1e-4f ? steep : 1e-4f) + 0.5f);
    }
}

} // namespace

std::vector<Rgba> paperColours(const Figures& f) {
    const int n = int(f.number(Papers));
    const Oklab dark = toOklab(f.colour(Dark)), middle = toOklab(f.colour(Middle)),
                light = toOklab(f.colour(Light));
    std::vector<Rgba> out;
    for (int k = 0; k < n; ++k) {
        const float t = 2 * float(k) / float(n - 1), u = t < 1 ? t : t - 1;
        const Oklab &a = t < 1 ? dark : middle, &b = t < 1 ? middle : light;
        out.push_back(toRgba(Oklab{a.L + (b.L - a.L) * u, a.a + (b.a - a.a) * u, a.b + (b.b - a.b) * u}));
    }
    return out;
}

std::vector<float> paperLevels(const Figures& f) {
    const int n = int(f.number(Papers));
    std::vector<float> out;
    // Lighter papers get more room by a power, which leaves black and white where they are.
    for (int k = 1; k < n; ++k)
        out.push_back(float(std::pow(double(k) / n, std::exp2(2 * f.number(Lighter)))));
    return out;
}

Plane paperLight(const Planes& whole, const Figures& f, const Place& place) {
    const auto smoothTo = [&](double sigma) { return lightOf(smoothedWhole(whole, std::max(sigma, 0.06))); };
    Plane out = smoothTo(place.px(f.number(Plain)) / 2);
    const auto closely = float(f.number(Closely));
    if (closely == 0) return out;
    const Plane close = smoothTo(place.px(f.number(Plain)) / 10);
    for (size_t i = 0; i < out.values.size(); ++i)
        out.values.data()[i] += (close.values.data()[i] - out.values.data()[i]) * closely;
    return out;
}

Plane coverAbove(const Plane& light, float level, const IntRect& area) {
    Plane out(area);
    const auto at = [&](int y) { return light.row(y) + (area.x - light.area.x); };
    for (int y = area.y; y < area.bottom(); ++y)
        coverRow(at(y - 1), at(y), at(y + 1), level, out.row(y), size_t(area.w));
    return out;
}

extern const TreatmentKind kCutPaper{
    "cut-paper", "Cut paper", TreatmentFamily::Drawn, kFigures, false, false, nullptr, needs, draw, "plain"};

} // namespace glyptos
