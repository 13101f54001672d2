// Tones in few steps, in two, and turned round.
//
// Poster: each channel to the nearest of n levels, over a border of `soft` of a step's width. Threshold: luma
// (ITU-R BT.709, encoded) at or above the border is light, over a soft width. Inversion: 1 - v of each
// channel, or Oklab lightness alone.

#include "treat/grades/channel_tables.h"
#include "treat/vector_math.h"

namespace glyptos {
namespace {

enum { Levels, Soft };
constexpr Figure kPosterFigures[]{whole("levels", "Levels", 2, 64, 5), share("soft", "Soft borders", 0)};

/// Exact where a table of tones could miss the borders.
GLYPTOS_ROWS void posterRow(float* values, size_t n, float steps, float soft) {
    for (size_t i = 0; i < n; ++i) {
        const float at = rows::clamp01(values[i]) * steps;
        const auto below = float(int(at));
        const float t = at - below;
        const float half = 0.5f * soft;
        const float rise =
            half > 1e-3f ? rows::smooth(0.5f - half, 0.5f + half, t) : (t < 0.5f ? 0.0f : 1.0f);
        values[i] = (below + rise) / steps;
    }
}

ColourOp poster(const Figures& f, const Place&) {
    const auto steps = float(f.number(Levels) - 1), soft = float(f.number(Soft));
    return [=](const ColourRow& row) {
        for (float* values : {row.r, row.g, row.b}) posterRow(values, row.n, steps, soft);
    };
}

enum { Border, Edge, Dark, Light };
constexpr Figure kThresholdFigures[]{share("border", "Border", 0.5), share("soft", "Soft edge", 0.02),
                                     colour("dark", "Dark", {0, 0, 0, 1}),
                                     colour("light", "Light", {1, 1, 1, 1})};

struct Split {
    float border, half;
    float dark[3], light[3];
};

GLYPTOS_ROWS void splitRow(const ColourRow& row, const Split& s) {
    float* __restrict r = row.r, * __restrict g = row.g, * __restrict b = row.b;
    for (size_t i = 0; i < row.n; ++i) {
        const float luma = 0.2126f * r[i] + 0.7152f * g[i] + 0.0722f * b[i];
        const float t = s.half > 1e-4f ? rows::smooth(s.border - s.half, s.border + s.half, luma)
                                       : (luma < s.border ? 0.0f : 1.0f);
        r[i] = s.dark[0] + (s.light[0] - s.dark[0]) * t;
        g[i] = s.dark[1] + (s.light[1] - s.dark[1]) * t;
        b[i] = s.dark[2] + (s.light[2] - s.dark[2]) * t;
    }
}

ColourOp threshold(const Figures& f, const Place&) {
    const Rgba &d = f.colour(Dark), &l = f.colour(Light);
    const Split s{float(f.number(Border)), float(f.number(Edge) / 2), {d.r, d.g, d.b}, {l.r, l.g, l.b}};
    return [s](const ColourRow& row) { splitRow(row, s); };
}

enum { Alone };
constexpr Figure kInversionFigures[]{flag("lightness", "Lightness alone", false)};

GLYPTOS_ROWS void invertRow(float* values, size_t n) {
    for (size_t i = 0; i < n; ++i) values[i] = 1 - values[i];
}

GLYPTOS_ROWS void invertLightness(const ColourRow& row) {
    float* __restrict r = row.r, * __restrict g = row.g, * __restrict b = row.b;
    for (size_t i = 0; i < row.n; ++i) {
        rows::Lab lab = rows::labOf(r[i], g[i], b[i]);
        lab.L = 1 - lab.L;
        const rows::Linear out = rows::fromLab(lab);
        r[i] = rows::clamp01(rows::toEncoded(out.r));
        g[i] = rows::clamp01(rows::toEncoded(out.g));
        b[i] = rows::clamp01(rows::toEncoded(out.b));
    }
}

ColourOp inversion(const Figures& f, const Place&) {
    if (f.flag(Alone)) return invertLightness;
    return [](const ColourRow& row) {
        for (float* values : {row.r, row.g, row.b}) invertRow(values, row.n);
    };
}

} // namespace

extern const TreatmentKind kPoster{"poster", "Poster levels", TreatmentFamily::Grade, kPosterFigures, false,
                                   false,    poster};
extern const TreatmentKind kThreshold{
    "threshold", "Threshold", TreatmentFamily::Grade, kThresholdFigures, false, false, threshold};
extern const TreatmentKind kInversion{
    "inversion", "Inversion", TreatmentFamily::Grade, kInversionFigures, false, false, inversion};

} // namespace glyptos
