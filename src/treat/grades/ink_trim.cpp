// More or less of each printing ink in each family of hue and in whites, greys and blacks. An ink is what its
// channel lacks of full light: cyan is 1 - red, and so on; black is of all three. By share, what there is of
// an ink grows by that share; by amount, that much is added to it. Families are those of families.h; whites
// are what min has over one half, blacks what max lacks of it, each doubled, and greys what lies between.

#include "treat/grades/families.h"
#include "treat/kind.h"
#include "treat/vector_math.h"

namespace glyptos {
namespace {

constexpr const char* kWays[]{"by share", "by amount"};
constexpr size_t kGroups = 9, kInks = 4;

#define GLYPTOS_FAMILY(id, label)                                                                            \
    share(id "Cyan", label ": cyan", 0, -1, 1), share(id "Magenta", label ": magenta", 0, -1, 1),            \
        share(id "Yellow", label ": yellow", 0, -1, 1), share(id "Black", label ": black", 0, -1, 1)
constexpr Figure kFigures[]{
    GLYPTOS_FAMILY("red", "Reds"),     GLYPTOS_FAMILY("yellow", "Yellows"),
    GLYPTOS_FAMILY("green", "Greens"), GLYPTOS_FAMILY("cyan", "Cyans"),
    GLYPTOS_FAMILY("blue", "Blues"),   GLYPTOS_FAMILY("magenta", "Magentas"),
    GLYPTOS_FAMILY("white", "Whites"), GLYPTOS_FAMILY("grey", "Greys"),
    GLYPTOS_FAMILY("black", "Blacks"), choice("way", "Counted", kWays),
};
#undef GLYPTOS_FAMILY
constexpr size_t kWay = kGroups * kInks;

struct Trim {
    float ink[kGroups][kInks];
    float share; // 1: by share
};

GLYPTOS_ROWS void trimRow(const ColourRow& row, const Trim& t) {
    float* channel[3] = {row.r, row.g, row.b};
    for (size_t i = 0; i < row.n; ++i) {
        const rows::Families f = rows::familiesOf(channel[0][i], channel[1][i], channel[2][i]);
        const float white = f.least > 0.5f ? 2 * f.least - 1 : 0.0f;
        const float black = f.most < 0.5f ? 1 - 2 * f.most : 0.0f;
        const float grey = 1 - rows::absolute(f.most - 0.5f) - rows::absolute(f.least - 0.5f);
        float more[kInks];
        for (size_t k = 0; k < kInks; ++k) {
            more[k] = white * t.ink[6][k] + grey * t.ink[7][k] + black * t.ink[8][k];
            for (size_t h = 0; h < 6; ++h) more[k] += f.hue[h] * t.ink[h][k];
        }
        for (size_t c = 0; c < 3; ++c) {
            const float ink = 1 - channel[c][i];
            const float added = (more[c] + more[3]) * (t.share > 0 ? ink : 1.0f);
            channel[c][i] = 1 - rows::clamp01(ink + added);
        }
    }
}

ColourOp inkTrim(const Figures& f, const Place&) {
    Trim t{};
    bool changes = false;
    for (size_t i = 0; i < kGroups * kInks; ++i) {
        t.ink[i / kInks][i % kInks] = float(f.number(i));
        changes = changes || f.number(i) != 0;
    }
    if (!changes) return {};
    t.share = f.number(kWay) == 0 ? 1.0f : 0.0f;
    return [t](const ColourRow& row) { trimRow(row, t); };
}

} // namespace

extern const TreatmentKind kInkTrim{"ink-trim", "Ink trim", TreatmentFamily::Grade, kFigures, false,
                                    false,      inkTrim};

} // namespace glyptos
