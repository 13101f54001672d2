// A tint each for shadows, middles and lights. What belongs to which is told by Oklab lightness with smooth
// borders; the shares of the three add up to one. A tint adds to the encoded colour the way from grey to its
// hue (Oklch lightness 0.7, chroma 0.15); lightness is then put back where it is to be kept, and moved by
// what each part asks for.

#include "color/oklab.h"
#include "treat/kind.h"
#include "treat/vector_math.h"

namespace glyptos {
namespace {

enum {
    ShadowHue,
    ShadowTint,
    ShadowLight,
    MiddleHue,
    MiddleTint,
    MiddleLight,
    LightHue,
    LightTint,
    LightLight,
    Low,
    High,
    Soft,
    Keep
};
constexpr Figure kFigures[]{
    degrees("shadowHue", "Shadows: hue", 240, 0, 360),
    share("shadowTint", "Shadows: tint", 0),
    share("shadowLight", "Shadows: light", 0, -1, 1),
    degrees("middleHue", "Middles: hue", 90, 0, 360),
    share("middleTint", "Middles: tint", 0),
    share("middleLight", "Middles: light", 0, -1, 1),
    degrees("lightHue", "Lights: hue", 60, 0, 360),
    share("lightTint", "Lights: tint", 0),
    share("lightLight", "Lights: light", 0, -1, 1),
    share("low", "Shadows end at", 0.35),
    share("high", "Lights begin at", 0.7),
    share("soft", "Soft borders", 0.2, 0.01, 1),
    flag("keep", "Keep lightness", true),
};

struct Tints {
    float r[3], g[3], b[3]; // shadows, middles, lights: what is added to encoded colours,
    float u[3], v[3];       // or to a and b of Oklab
    float light[3];
    float low, high, half; // borders, and half their width
};

/// How much of a lightness belongs to shadows, middles and lights.
inline void shareOut(const Tints& t, float L, float (&share)[3]) {
    share[2] = rows::smooth(t.high - t.half, t.high + t.half, L);
    share[0] = (1 - rows::smooth(t.low - t.half, t.low + t.half, L)) * (1 - share[2]);
    share[1] = 1 - share[2] - share[0];
}

inline float sumOf(const float (&parts)[3], const float (&share)[3]) {
    return parts[0] * share[0] + parts[1] * share[1] + parts[2] * share[2];
}

GLYPTOS_ROWS void tintKeeping(const ColourRow& row, const Tints& t) {
    float *r = row.r, *g = row.g, *b = row.b;
    for (size_t i = 0; i < row.n; ++i) {
        const rows::Lab lab = rows::labOf(r[i], g[i], b[i]);
        float share[3];
        shareOut(t, lab.L, share);
        const rows::Linear out = rows::fromLab(
            {lab.L + sumOf(t.light, share), lab.a + sumOf(t.u, share), lab.b + sumOf(t.v, share)});
        r[i] = rows::clamp01(rows::toEncoded(out.r));
        g[i] = rows::clamp01(rows::toEncoded(out.g));
        b[i] = rows::clamp01(rows::toEncoded(out.b));
    }
}

GLYPTOS_ROWS void tintFreely(const ColourRow& row, const Tints& t) {
    float *r = row.r, *g = row.g, *b = row.b;
    for (size_t i = 0; i < row.n; ++i) {
        float share[3];
        shareOut(t, rows::labOf(r[i], g[i], b[i]).L, share);
        rows::Lab lab =
            rows::labOf(r[i] + sumOf(t.r, share), g[i] + sumOf(t.g, share), b[i] + sumOf(t.b, share));
        lab.L += sumOf(t.light, share);
        const rows::Linear out = rows::fromLab(lab);
        r[i] = rows::clamp01(rows::toEncoded(out.r));
        g[i] = rows::clamp01(rows::toEncoded(out.g));
        b[i] = rows::clamp01(rows::toEncoded(out.b));
    }
}

ColourOp threeWayTint(const Figures& f, const Place&) {
    bool changes = false;
    Tints t{};
    for (size_t part = 0; part < 3; ++part) {
        const double hue = f.number(ShadowHue + 3 * part), tint = f.number(ShadowTint + 3 * part),
                     light = f.number(ShadowLight + 3 * part);
        const Rgba full = toRgba(toOklab(Oklch{0.7, 0.15, hue})), grey = toRgba(toOklab(Oklch{0.7, 0, 0}));
        const Oklab pure = toOklab(Oklch{0.7, 0.15, hue});
        t.r[part] = float(tint) * (full.r - grey.r), t.g[part] = float(tint) * (full.g - grey.g);
        t.b[part] = float(tint) * (full.b - grey.b), t.light[part] = float(0.3 * light);
        t.u[part] = float(tint) * pure.a, t.v[part] = float(tint) * pure.b;
        changes = changes || tint != 0 || light != 0;
    }
    if (!changes) return {};
    t.low = float(f.number(Low)), t.high = float(std::max(f.number(High), f.number(Low)));
    t.half = float(f.number(Soft) / 2);
    if (f.flag(Keep)) return [t](const ColourRow& row) { tintKeeping(row, t); };
    return [t](const ColourRow& row) { tintFreely(row, t); };
}

} // namespace

extern const TreatmentKind kThreeWayTint{
    "three-way-tint", "Three-way tint", TreatmentFamily::Grade, kFigures, false, false, threeWayTint};

} // namespace glyptos
