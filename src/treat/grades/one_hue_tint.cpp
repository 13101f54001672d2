// Everything in one hue: Oklch hue and chroma are set, lightness is kept and moved. Chroma falls towards
// black and white, where sRGB shows none: it is multiplied by 1 - (2L - 1)^4.

#include "treat/kind.h"
#include "treat/vector_math.h"

namespace glyptos {
namespace {

enum { Hue, Chroma, Lightness };
constexpr Figure kFigures[]{
    hue("hue", "Hue", 75),
    share("chroma", "Chroma", 0.25),
    share("lightness", "Lightness", 0, -1, 1),
};

struct Tint {
    float a, b, lightness;
};

GLYPTOS_ROWS void tintRow(const ColourRow& row, const Tint& t) {
    float* __restrict L = row.r, * __restrict a = row.g, * __restrict b = row.b;
    for (size_t i = 0; i < row.n; ++i) {
        const float light = rows::clamp01(L[i] + t.lightness);
        const float off = 2 * light - 1, k = 1 - off * off * off * off;
        L[i] = light, a[i] = t.a * k, b[i] = t.b * k;
    }
}

ColourOp oneHueTint(const Figures& f, const Place&) {
    const double angle = f.number(Hue) * M_PI / 180, chroma = 0.32 * f.number(Chroma);
    const Tint t{float(chroma * std::cos(angle)), float(chroma * std::sin(angle)),
                 float(0.5 * f.number(Lightness))};
    return {[t](const ColourRow& row) { tintRow(row, t); }, ColourSpace::Oklab};
}

} // namespace

extern const TreatmentKind kOneHueTint{
    "one-hue-tint", "One-hue tint", TreatmentFamily::Grade, kFigures, false, false, oneHueTint, nullptr,
    nullptr,        "chroma"};

} // namespace glyptos
