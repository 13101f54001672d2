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
    float middle, half, soft;
    float all;  // 1: every hue alike
    float show; // 1: the range in a tint over its greys
};

GLYPTOS_ROWS void turnHues(const ColourRow& row, const HueTurn& t) {
    float* __restrict L = row.r, * __restrict a = row.g, * __restrict b = row.b;
    for (size_t i = 0; i < row.n; ++i) {
        const float x = a[i], y = b[i], chroma = __builtin_sqrtf(x * x + y * y);
        const float within = rows::hueWeight(rows::turnOf(y, x), chroma, t.middle, t.half, t.soft);
        const float weight = t.all > 0 ? 1.0f : within;
        const float angle = t.turn * weight, c = rows::cosineOf(angle), s = rows::sineOf(angle);
        const float k = 1 + (t.chroma - 1) * weight;
        const float light = L[i] + t.lightness * weight;
        const float u = (x * c - y * s) * k, v = (x * s + y * c) * k;
        const float shown = t.show * weight; // of a verdigris over grey
        L[i] = t.show > 0 ? 0.25f + 0.5f * light + 0.15f * shown : light;
        a[i] = t.show > 0 ? -0.1f * shown : u;
        b[i] = t.show > 0 ? 0.02f * shown : v;
    }
}

ColourOp hueTurn(const Figures& f, const Place&) {
    const bool changes = f.number(Turn) != 0 || f.number(Chroma) != 0 || f.number(Lightness) != 0;
    const bool shows = f.flag(ShowRange) && f.flag(Ranged);
    if (!changes && !shows) return {};
    const double chroma = f.number(Chroma);
    const HueTurn t{float(f.number(Turn) / 360),      float(chroma > 0 ? 1 + 2 * chroma : 1 + chroma),
                    float(f.number(Lightness) * 0.5), float(f.number(Middle) / 360),
                    float(f.number(Width) / 720),     float(f.number(Soft) / 360),
                    f.flag(Ranged) ? 0.0f : 1.0f,     shows ? 1.0f : 0.0f};
    return {[t](const ColourRow& row) { turnHues(row, t); }, ColourSpace::Oklab};
}

} // namespace

extern const TreatmentKind kHueTurn{"hue-turn", "Hue turn", TreatmentFamily::Grade, kFigures, false,
                                    false,      hueTurn};

} // namespace glyptos
