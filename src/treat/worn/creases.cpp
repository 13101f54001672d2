// What handling leaves on paper: a fold, and the ring that a record wears into its sleeve. Both lighten the
// ink to paper where noise says that it came off; the fold also shades both sides of its line.

#include "raster/noise.h"
#include "treat/kind.h"
#include "treat/vector_math.h"

namespace glyptos {
namespace {

/// Mixes a pixel towards paper.
void wear(const ColourRow& row, size_t i, const float (&paper)[3], float share) {
    row.r[i] += (paper[0] - row.r[i]) * share;
    row.g[i] += (paper[1] - row.g[i]) * share;
    row.b[i] += (paper[2] - row.b[i]) * share;
}

/// How much ink came off at a place of the piece: none but for specks at small `amount`s.
float wornAt(float x, float y, float amount, uint32_t seed) {
    const float n = fractalNoise(x, y, 5, seed);
    return rows::smooth(0.98f - 0.75f * amount, 1.08f - 0.75f * amount, n + 0.12f * amount);
}

enum { Middle, Angle, Width, Depth, Wear, FoldPaper, FoldSeed };
constexpr Figure kFoldFigures[]{
    point("middle", "Through"),
    degrees("angle", "Runs along", 90),
    length("width", "Width", 1.6, 0.01),
    share("depth", "Shading", 0.5),
    share("wear", "Ink off", 0.5),
    colour("paper", "Paper", {0.93f, 0.91f, 0.86f, 1}),
    chance(),
};

struct Fold {
    Affine map; ///< from output px to units along and across it
    float width, depth, wear, grain;
    float paper[3];
    uint32_t seed;
};

void foldRow(const ColourRow& row, const Fold& k) {
    for (size_t i = 0; i < row.n; ++i) {
        const Vec2 at = k.map.map({row.x + double(i) + 0.5, row.y + 0.5});
        const float across = float(at.y) / k.width, near = std::exp(-across * across);
        if (near < 1e-3f) continue;
        // A dark side and a light side, steepest on the line.
        const float shade = k.depth * 1.4f * across * near;
        for (float* v : {row.r + i, row.g + i, row.b + i})
            *v = shade < 0 ? *v * (1 + shade) : *v + (1 - *v) * shade * 0.6f;
        const float tight = near * near * near;
        wear(row, i, k.paper, wornAt(float(at.x) / k.grain, float(at.y) / k.grain, k.wear * tight, k.seed));
    }
}

ColourOp fold(const Figures& f, const Place& place) {
    const auto back = place.toOutput.inverse();
    if (!back || (f.number(Depth) == 0 && f.number(Wear) == 0)) return {};
    const Vec2 middle = place.at(kFoldFigures[Middle], f.point(Middle));
    const Rgba& p = f.colour(FoldPaper);
    const Fold k{Affine::rotation(-f.number(Angle)) * Affine::translation(-middle.x, -middle.y) * *back,
                 float(f.number(Width)),
                 float(f.number(Depth)),
                 float(f.number(Wear)),
                 float(f.number(Width) / 2),
                 {p.r, p.g, p.b},
                 f.seed(FoldSeed) * 29u};
    return [k](const ColourRow& row) { foldRow(row, k); };
}

enum { RingMiddle, Diameter, RingWidth, Amount, RingPaper, RingSeed };
constexpr Figure kRingFigures[]{
    point("middle", "About"),
    share("diameter", "Diameter", 0.9, 0.05, 2),
    length("width", "Width", 3, 0.01),
    share("amount", "Amount", 0.5),
    colour("paper", "Paper", {0.93f, 0.91f, 0.86f, 1}),
    chance(),
};

struct Ring {
    Affine map; ///< from output px to units about its middle
    float radius, width, amount;
    float paper[3];
    uint32_t seed;
};

void ringRow(const ColourRow& row, const Ring& k) {
    for (size_t i = 0; i < row.n; ++i) {
        const Vec2 at = k.map.map({row.x + double(i) + 0.5, row.y + 0.5});
        const float x = float(at.x), y = float(at.y), off = (std::sqrt(x * x + y * y) - k.radius) / k.width;
        const float near = std::exp(-off * off);
        if (near < 5e-3f) continue;
        // Worn here and there along the ring.
        const float part = fractalNoise(x / (9 * k.width), y / (9 * k.width), 3, k.seed + 3);
        const float amount = k.amount * near * (0.45f + 1.1f * part);
        wear(row, i, k.paper,
             std::min(0.25f * amount + wornAt(1.6f * x / k.width, 1.6f * y / k.width, amount, k.seed), 1.0f));
    }
}

ColourOp ring(const Figures& f, const Place& place) {
    const auto back = place.toOutput.inverse();
    if (!back || f.number(Amount) == 0) return {};
    const Vec2 middle = place.at(kRingFigures[RingMiddle], f.point(RingMiddle));
    const Rgba& p = f.colour(RingPaper);
    const Ring k{Affine::translation(-middle.x, -middle.y) * *back,
                 float(f.number(Diameter) * std::min(place.panel.w, place.panel.h) / 2),
                 float(f.number(RingWidth)),
                 float(f.number(Amount)),
                 {p.r, p.g, p.b},
                 f.seed(RingSeed) * 43u};
    return [k](const ColourRow& row) { ringRow(row, k); };
}

} // namespace

extern const TreatmentKind kFold{
    "fold", "Fold", TreatmentFamily::Worn, kFoldFigures, false, true, fold, nullptr, nullptr, "width"};
extern const TreatmentKind kRingWear{
    "ring-wear", "Ring wear", TreatmentFamily::Worn, kRingFigures, false, true, ring, nullptr,
    nullptr,     "amount"};

} // namespace glyptos
