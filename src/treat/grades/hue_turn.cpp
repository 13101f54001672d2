// Hues turned, with their chroma and lightness: all of them, or those of a range. In Oklch; a chroma that
// sRGB cannot show is cut where it is encoded.

#include "treat/grades/hue_weight.h"
#include "treat/kind.h"

namespace glyptos {
namespace {

enum { Turn, Chroma, Lightness, Ranged, Middle, Width, Soft, ShowRange };
constexpr Figure kFigures[]{
    degrees("turn", "Turn", 0, -180, 180),     share("chroma", "Chroma", 0, -1, 1),
    share("lightness", "Lightness", 0, -1, 1), flag("ranged", "Of a range of hues", false),
    hue("middle", "Middle hue", 50),           degrees("width", "Width", 60, 0, 360),
    degrees("soft", "Soft edges", 30, 0, 180), passingFlag("showRange", "Show the range as a tint"),
};

struct HueTurn {
    float turn, chroma, lightness; // turns; what chroma is multiplied by; what is added to L
};

struct HueRange {
    float middle, half, soft; // turns
    bool shown;
};

/// How much a colour of Oklab belongs to the range.
GLYPTOS_IN_ROWS float weightOf(const HueRange& range, float a, float b) {
    return rows::hueWeight(rows::turnOf(b, a), __builtin_sqrtf(a * a + b * b), range.middle, range.half,
                           range.soft);
}

GLYPTOS_ROWS void turnAll(const ColourRow& row, const HueTurn& t) {
    float* __restrict L = row.r, * __restrict a = row.g, * __restrict b = row.b;
    const float c = rows::cosineOf(t.turn) * t.chroma, s = rows::sineOf(t.turn) * t.chroma;
    for (size_t i = 0; i < row.n; ++i) {
        const float x = a[i], y = b[i];
        L[i] += t.lightness, a[i] = x * c - y * s, b[i] = x * s + y * c;
    }
}

GLYPTOS_ROWS void turnRange(const ColourRow& row, const HueTurn& t, const HueRange& range) {
    float* __restrict L = row.r, * __restrict a = row.g, * __restrict b = row.b;
    for (size_t i = 0; i < row.n; ++i) {
        const float x = a[i], y = b[i], weight = weightOf(range, x, y);
        const float angle = t.turn * weight, c = rows::cosineOf(angle), s = rows::sineOf(angle);
        const float k = 1 + (t.chroma - 1) * weight;
        L[i] += t.lightness * weight, a[i] = (x * c - y * s) * k, b[i] = (x * s + y * c) * k;
    }
}

/// The range in a verdigris over greys, lit as it will be.
GLYPTOS_ROWS void showRange(const ColourRow& row, const HueTurn& t, const HueRange& range) {
    float* __restrict L = row.r, * __restrict a = row.g, * __restrict b = row.b;
    for (size_t i = 0; i < row.n; ++i) {
        const float weight = weightOf(range, a[i], b[i]);
        L[i] = 0.25f + 0.5f * (L[i] + t.lightness * weight) + 0.15f * weight;
        a[i] = -0.1f * weight, b[i] = 0.02f * weight;
    }
}

ColourOp hueTurn(const Figures& f, const Place&) {
    const bool changes = f.number(Turn) != 0 || f.number(Chroma) != 0 || f.number(Lightness) != 0;
    const bool shows = f.flag(ShowRange) && f.flag(Ranged);
    if (!changes && !shows) return {};
    const double chroma = f.number(Chroma);
    const HueTurn t{float(f.number(Turn) / 360), float(chroma > 0 ? 1 + 2 * chroma : 1 + chroma),
                    float(f.number(Lightness) * 0.5)};
    if (!f.flag(Ranged)) return {[t](const ColourRow& row) { turnAll(row, t); }, ColourSpace::Oklab};
    const HueRange range{float(f.number(Middle) / 360), float(f.number(Width) / 720),
                         float(f.number(Soft) / 360), shows};
    return {[t, range](const ColourRow& row) {
                if (range.shown)
                    showRange(row, t, range);
                else
                    turnRange(row, t, range);
            },
            ColourSpace::Oklab};
}

} // namespace

extern const TreatmentKind kHueTurn{"hue-turn", "Hue turn", TreatmentFamily::Grade, kFigures, false,
                                    false,      hueTurn};

} // namespace glyptos
