// Greys mixed by families of hue: what is grey stays as light as it is; what belongs to a family becomes as
// light as that family's figure says, 0 being black and 1 white for its full colour (families.h).

#include "treat/grades/families.h"
#include "treat/kind.h"
#include "treat/vector_math.h"

namespace glyptos {
namespace {

// Standards: luma of the full colours (ITU-R BT.709).
constexpr Figure kFigures[]{
    share("red", "Reds", 0.2126, -1, 2),     share("yellow", "Yellows", 0.9278, -1, 2),
    share("green", "Greens", 0.7152, -1, 2), share("cyan", "Cyans", 0.7874, -1, 2),
    share("blue", "Blues", 0.0722, -1, 2),   share("magenta", "Magentas", 0.2848, -1, 2),
};

struct Weights {
    float w[6];
};

GLYPTOS_ROWS void mixRow(const ColourRow& row, const Weights& weights) {
    float* __restrict r = row.r, * __restrict g = row.g, * __restrict b = row.b;
    const float* w = weights.w;
    for (size_t i = 0; i < row.n; ++i) {
        const rows::Families f = rows::familiesOf(r[i], g[i], b[i]);
        const float grey = f.least + f.hue[0] * w[0] + f.hue[1] * w[1] + f.hue[2] * w[2] + f.hue[3] * w[3] +
                           f.hue[4] * w[4] + f.hue[5] * w[5];
        r[i] = g[i] = b[i] = rows::clamp01(grey);
    }
}

ColourOp monoMix(const Figures& f, const Place&) {
    Weights weights{};
    for (size_t i = 0; i < 6; ++i) weights.w[i] = float(f.number(i));
    return [weights](const ColourRow& row) { mixRow(row, weights); };
}

} // namespace

extern const TreatmentKind kMonoMix{"mono-mix", "Mono mix", TreatmentFamily::Grade, kFigures, false,
                                    false,      monoMix};

} // namespace glyptos
