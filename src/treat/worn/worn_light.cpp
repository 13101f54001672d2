// Light that fell, or faded, on the print: dark or light corners, light that leaked in, colours bleached out.
//
// Corners: by the distance r from the middle of the panel in shares of its half sides, as the norm of degree
// 2 (round) to 8 (square), from r = size on. Leak: Schlick-screened over the picture, along one side, uneven
// by noise. Bleaching: each ink's density scaled by 1 - amount, most of magenta and yellow, on a paper of a
// colour.

#include "raster/noise.h"
#include "treat/kind.h"
#include "treat/vector_math.h"

namespace glyptos {
namespace {

enum { Amount, Size, Soft, Square, CornerColour };
constexpr Figure kCornerFigures[]{
    share("amount", "Amount", 0.5),
    share("size", "Begins at", 0.55, 0, 1.5),
    share("soft", "Softness", 0.6, 0.01, 2),
    share("square", "Square", 0),
    colour("colour", "Colour", {0.03f, 0.04f, 0.06f, 1}),
};

/// From output px to shares of the panel's half sides about its middle.
std::optional<Affine> toShares(const Place& place) {
    const auto back = place.toOutput.inverse();
    if (!back || place.panel.empty()) return std::nullopt;
    return Affine::scaling(2 / place.panel.w, 2 / place.panel.h) *
           Affine::translation(-place.panel.centre().x, -place.panel.centre().y) * *back;
}

struct Corners {
    Affine toShares;
    float amount, size, soft, degree;
    float colour[3];
};

GLYPTOS_ROWS void cornerRow(const ColourRow& row, const Corners& k, float x0, float y0) {
    float* __restrict r = row.r, * __restrict g = row.g, * __restrict b = row.b;
    const auto a = float(k.toShares.a), c = float(k.toShares.b);
    for (size_t i = 0; i < row.n; ++i) {
        const float u = rows::absolute(x0 + a * float(i)), v = rows::absolute(y0 + c * float(i));
        const float away = rows::power(rows::power(u, k.degree) + rows::power(v, k.degree), 1 / k.degree);
        const float t = rows::clamp01((away - k.size) / k.soft), share = k.amount * t * t * (3 - 2 * t);
        r[i] += (k.colour[0] - r[i]) * share;
        g[i] += (k.colour[1] - g[i]) * share;
        b[i] += (k.colour[2] - b[i]) * share;
    }
}

ColourOp corners(const Figures& f, const Place& place) {
    const auto shares = toShares(place);
    if (f.number(Amount) == 0 || !shares) return {};
    const Rgba& c = f.colour(CornerColour);
    const Corners k{*shares,
                    float(f.number(Amount)) * c.a,
                    float(f.number(Size)),
                    float(f.number(Soft)),
                    float(2 + 6 * f.number(Square)),
                    {c.r, c.g, c.b}};
    return [k](const ColourRow& row) {
        const Vec2 first = k.toShares.map({row.x + 0.5, row.y + 0.5});
        cornerRow(row, k, float(first.x), float(first.y));
    };
}

constexpr const char* kSides[]{"left", "right", "head", "foot"};
enum { LeakStrength, Side, Width, Hot, Warm, LeakSeed };
constexpr Figure kLeakFigures[]{
    share("strength", "Strength", 0.8),
    choice("side", "Comes in at the", kSides, 1),
    share("width", "Reaches", 0.45, 0.02, 1.5),
    colour("hot", "At the edge", {1, 0.85f, 0.45f, 1}),
    colour("warm", "Farther in", {0.9f, 0.25f, 0.1f, 1}),
    chance(),
};

struct Leak {
    Affine toShares;
    int side;
    float strength, width;
    float hot[3], warm[3];
    uint32_t seed;
};

void leakRow(const ColourRow& row, const Leak& k) {
    float* channel[3] = {row.r, row.g, row.b};
    for (size_t i = 0; i < row.n; ++i) {
        const Vec2 p = k.toShares.map({row.x + double(i) + 0.5, row.y + 0.5});
        const auto u = float(k.side < 2 ? p.x : p.y), v = float(k.side < 2 ? p.y : p.x);
        const float in = (k.side % 2 == 0 ? u + 1 : 1 - u) / 2; // 0 at the edge
        const float uneven = 0.35f + 1.1f * fractalNoise(v * 1.3f + 5, in * 0.8f, 3, k.seed);
        const float t = rows::clamp01(1 - in / (k.width * uneven));
        if (t <= 0) continue;
        const float light = k.strength * t * t, heat = t * t * t;
        for (int c = 0; c < 3; ++c) {
            const float over = (k.warm[c] + (k.hot[c] - k.warm[c]) * heat) * light;
            channel[c][i] = 1 - (1 - channel[c][i]) * (1 - over);
        }
    }
}

ColourOp leak(const Figures& f, const Place& place) {
    const auto shares = toShares(place);
    if (f.number(LeakStrength) == 0 || !shares) return {};
    const Rgba &hot = f.colour(Hot), &warm = f.colour(Warm);
    const Leak k{*shares,
                 int(f.number(Side)),
                 float(f.number(LeakStrength)),
                 float(f.number(Width)),
                 {hot.r, hot.g, hot.b},
                 {warm.r, warm.g, warm.b},
                 f.seed(LeakSeed) * 31u + 7u};
    return [k](const ColourRow& row) { leakRow(row, k); };
}

enum { Fade, PaperColour };
constexpr Figure kFadedFigures[]{share("amount", "Amount", 0.45),
                                 colour("paper", "Paper", {0.95f, 0.92f, 0.84f, 1})};

struct Bleached {
    float power[3], paper[3];
};

GLYPTOS_ROWS void bleachRow(const ColourRow& row, const Bleached& k) {
    float* __restrict r = row.r, * __restrict g = row.g, * __restrict b = row.b;
    for (size_t i = 0; i < row.n; ++i) {
        r[i] = k.paper[0] * rows::power(0.02f + 0.98f * r[i], k.power[0]);
        g[i] = k.paper[1] * rows::power(0.02f + 0.98f * g[i], k.power[1]);
        b[i] = k.paper[2] * rows::power(0.02f + 0.98f * b[i], k.power[2]);
    }
}

ColourOp faded(const Figures& f, const Place&) {
    const double amount = f.number(Fade);
    if (amount == 0) return {};
    const Rgba& p = f.colour(PaperColour);
    const auto towards = [&](float v) { return float(1 + (double(v) - 1) * amount); };
    const Bleached k{{float(1 - 0.4 * amount), float(1 - 0.6 * amount), float(1 - 0.7 * amount)},
                     {towards(p.r), towards(p.g), towards(p.b)}};
    return [k](const ColourRow& row) { bleachRow(row, k); };
}

} // namespace

extern const TreatmentKind kCorners{
    "corners", "Dark or light corners", TreatmentFamily::Light, kCornerFigures, false, true, corners};
extern const TreatmentKind kLightLeak{"light-leak", "Light leak", TreatmentFamily::Worn, kLeakFigures, false,
                                      true,         leak};
extern const TreatmentKind kFadedPrint{
    "faded-print", "Faded print", TreatmentFamily::Worn, kFadedFigures, false, false, faded};

} // namespace glyptos
