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
    hue("shadowHue", "Shadows: hue", 240),
    share("shadowTint", "Shadows: tint", 0),
    share("shadowLight", "Shadows: light", 0, -1, 1),
    hue("middleHue", "Middles: hue", 90),
    share("middleTint", "Middles: tint", 0),
    share("middleLight", "Middles: light", 0, -1, 1),
    hue("lightHue", "Lights: hue", 60),
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
    float low, high, steep; // borders, and one over their width
};

/// How much of a lightness belongs to shadows and lights; the rest is the middles'.
struct Shares {
    float shadow, middle, light;
    GLYPTOS_IN_ROWS float of(const float (&parts)[3]) const {
        return parts[0] * shadow + parts[1] * middle + parts[2] * light;
    }
};

GLYPTOS_IN_ROWS Shares sharesOf(const Tints& t, float L) {
    const float light = rows::clamp01((L - t.high) * t.steep + 0.5f),
                dark = rows::clamp01((t.low - L) * t.steep + 0.5f);
    const float lights = light * light * (3 - 2 * light),
                shadows = dark * dark * (3 - 2 * dark) * (1 - lights);
    return {shadows, 1 - lights - shadows, lights};
}

GLYPTOS_ROWS void tintKeeping(const ColourRow& row, const Tints& t) {
    float* __restrict L = row.r, * __restrict a = row.g, * __restrict b = row.b;
    for (size_t i = 0; i < row.n; ++i) {
        const Shares share = sharesOf(t, L[i]);
        L[i] += share.of(t.light), a[i] += share.of(t.u), b[i] += share.of(t.v);
    }
}

GLYPTOS_ROWS void tintFreely(const ColourRow& row, const Tints& t) {
    float* __restrict r = row.r, * __restrict g = row.g, * __restrict b = row.b;
    for (size_t i = 0; i < row.n; ++i) {
        const Shares share = sharesOf(t, rows::labOf(r[i], g[i], b[i]).L);
        rows::Lab lab = rows::labOf(r[i] + share.of(t.r), g[i] + share.of(t.g), b[i] + share.of(t.b));
        lab.L += share.of(t.light);
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
    t.steep = float(1 / f.number(Soft));
    if (f.flag(Keep)) return {[t](const ColourRow& row) { tintKeeping(row, t); }, ColourSpace::Oklab};
    return [t](const ColourRow& row) { tintFreely(row, t); };
}

} // namespace

extern const TreatmentKind kThreeWayTint{
    "three-way-tint", "Three-way tint", TreatmentFamily::Grade, kFigures, false, false, threeWayTint, nullptr,
    nullptr,          "shadowTint"};

} // namespace glyptos
