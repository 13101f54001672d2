// More or less chroma, sparing what is strong already and, where asked, the colours of skin. In Oklch: chroma
// is multiplied by 1 + amount · weight, where the weight falls from 1 for greys to 0 at a chroma of 0.25 when
// the strong are spared, and to a quarter for hues of 30…80° at middle chroma when skin is.

#include "treat/grades/hue_weight.h"
#include "treat/kind.h"

namespace glyptos {
namespace {

enum { Amount, SpareStrong, SpareSkin };
constexpr Figure kFigures[]{
    share("amount", "Amount", 0, -1, 1),
    share("spareStrong", "Spares the strong", 0.7),
    share("spareSkin", "Spares skin", 0.7),
};

struct ChromaChange {
    float amount, strong, skin;
};

GLYPTOS_ROWS void changeChroma(const ColourRow& row, const ChromaChange& t) {
    float* __restrict a = row.g, * __restrict b = row.b;
    for (size_t i = 0; i < row.n; ++i) {
        const float chroma = __builtin_sqrtf(a[i] * a[i] + b[i] * b[i]);
        const float isStrong = rows::smooth(0.0f, 0.25f, chroma);
        const float isSkin =
            rows::hueWeight(rows::turnOf(b[i], a[i]), chroma, 55 / 360.0f, 15 / 360.0f, 25 / 360.0f) *
            (1 - rows::smooth(0.12f, 0.22f, chroma));
        const float weight = (1 - t.strong * isStrong) * (1 - 0.75f * t.skin * isSkin);
        const float k = 1 + t.amount * weight;
        a[i] *= k, b[i] *= k;
    }
}

ColourOp chroma(const Figures& f, const Place&) {
    const double amount = f.number(Amount);
    if (amount == 0) return {};
    // Less goes all the way to grey: then nothing is spared at the very end.
    const double spared = amount < 0 ? 1 + amount : 1;
    const ChromaChange t{float(amount > 0 ? 1.5 * amount : amount), float(f.number(SpareStrong) * spared),
                         float(f.number(SpareSkin) * spared)};
    return {[t](const ColourRow& row) { changeChroma(row, t); }, ColourSpace::Oklab};
}

} // namespace

extern const TreatmentKind kChroma{"chroma", "Chroma", TreatmentFamily::Grade, kFigures, false,
                                   false,    chroma};

} // namespace glyptos
