// Everything in one hue: Oklch hue and chroma are set, lightness is kept and moved. Chroma falls towards
// black and white, where sRGB shows none: it is multiplied by 1 - (2L - 1)^4.

#include "treat/kind.h"
#include "treat/vector_math.h"

namespace glyptos {
namespace {

enum { Hue, Chroma, Lightness };
constexpr Figure kFigures[]{
    degrees("hue", "Hue", 75, 0, 360),
    share("chroma", "Chroma", 0.25),
    share("lightness", "Lightness", 0, -1, 1),
};

struct Tint {
    float a, b, lightness;
};

GLYPTOS_ROWS void tintRow(const ColourRow& row, const Tint& t) {
    float* __restrict r = row.r, * __restrict g = row.g, * __restrict b = row.b;
    for (size_t i = 0; i < row.n; ++i) {
        const float L = rows::clamp01(rows::labOf(r[i], g[i], b[i]).L + t.lightness);
        const float off = 2 * L - 1, k = 1 - off * off * off * off;
        const rows::Linear out = rows::fromLab({L, t.a * k, t.b * k});
        r[i] = rows::clamp01(rows::toEncoded(out.r));
        g[i] = rows::clamp01(rows::toEncoded(out.g));
        b[i] = rows::clamp01(rows::toEncoded(out.b));
    }
}

ColourOp oneHueTint(const Figures& f, const Place&) {
    const double angle = f.number(Hue) * M_PI / 180, chroma = 0.32 * f.number(Chroma);
    const Tint t{float(chroma * std::cos(angle)), float(chroma * std::sin(angle)),
                 float(0.5 * f.number(Lightness))};
    return [t](const ColourRow& row) { tintRow(row, t); };
}

} // namespace

extern const TreatmentKind kOneHueTint{
    "one-hue-tint", "One-hue tint", TreatmentFamily::Grade, kFigures, false, false, oneHueTint, nullptr,
    nullptr,        "chroma"};

} // namespace glyptos
