// Dust and scratches of a print that was handled. One grain at most stands in each square of a grid on the
// piece, at a place, of a size and a shade by chance; scratches run along a direction, each within a strip of
// its own, here and there by noise. What is smaller than a pixel fades to its share of it.

#include "raster/noise.h"
#include "treat/kind.h"
#include "treat/vector_math.h"

namespace glyptos {
namespace {

enum { Amount, Size, Dark, Seed };
constexpr Figure kDustFigures[]{share("amount", "Amount", 0.35), length("size", "Largest", 0.9, 1e-3),
                                share("dark", "Dark ones", 0.3), chance()};

struct Dust {
    Affine toGrid;             // from output px to squares
    float amount, dark, pixel; // squares for a px
    uint32_t seed;
};

/// How much of a grain of the square (i, j) covers a point, and whether it is dark.
float grainAt(int i, int j, float u, float v, const Dust& d, bool& isDark) {
    if (hashNoise(i, j, d.seed) > d.amount) return 0;
    // Many small ones and few large.
    const float q = hashNoise(i, j, d.seed + 1), radius = 0.03f + 0.32f * q * q * q * q;
    const float x = float(i) + 0.35f + 0.3f * hashNoise(i, j, d.seed + 2),
                y = float(j) + 0.35f + 0.3f * hashNoise(i, j, d.seed + 3);
    const float turn = hashNoise(i, j, d.seed + 4), long_ = 1 + 2 * hashNoise(i, j, d.seed + 5);
    const float c = rows::cosineOf(turn), s = rows::sineOf(turn), dx = u - x, dy = v - y;
    const float along = (dx * c + dy * s) / long_, across = (dy * c - dx * s) * long_;
    const float away = std::sqrt(along * along + across * across) - radius;
    isDark = hashNoise(i, j, d.seed + 6) < d.dark;
    const float small = std::min(1.0f, radius / (0.5f * d.pixel));
    return rows::clamp01(0.5f - away / d.pixel) * small * small;
}

void dustRow(const ColourRow& row, const Dust& d) {
    float* channel[3] = {row.r, row.g, row.b};
    for (size_t k = 0; k < row.n; ++k) {
        const Vec2 p = d.toGrid.map({row.x + double(k) + 0.5, row.y + 0.5});
        const auto u = float(p.x), v = float(p.y);
        bool isDark = false;
        const float share = grainAt(floorOf(u), floorOf(v), u, v, d, isDark) * 0.85f;
        if (share <= 0) continue;
        for (float* values : channel) values[k] += ((isDark ? 0.08f : 0.93f) - values[k]) * share;
    }
}

ColourOp dust(const Figures& f, const Place& place) {
    const auto back = place.toOutput.inverse();
    if (f.number(Amount) == 0 || !back) return {};
    const double side = 3 * f.number(Size); // of a square: grains stay inside it
    const Dust d{Affine::scaling(1 / side, 1 / side) * *back, float(f.number(Amount)), float(f.number(Dark)),
                 float(1 / std::max(place.px(side), 1e-6)), f.seed(Seed) * 131u + 17u};
    return [d](const ColourRow& row) { dustRow(row, d); };
}

enum { ScratchAmount, Angle, Width, Length, ScratchDark, ScratchSeed };
constexpr Figure kScratchFigures[]{share("amount", "Amount", 0.4),       degrees("angle", "Along", 80),
                                   length("width", "Width", 0.12, 1e-4), length("length", "Length", 25, 0.01),
                                   share("dark", "Dark ones", 0.15),     chance()};

struct Scratches {
    Affine toStrips;                 // x across, in strips; y along, in lengths
    float amount, dark, half, pixel; // strips
    uint32_t seed;
};

void scratchRow(const ColourRow& row, const Scratches& s) {
    float* channel[3] = {row.r, row.g, row.b};
    for (size_t k = 0; k < row.n; ++k) {
        const Vec2 p = s.toStrips.map({row.x + double(k) + 0.5, row.y + 0.5});
        const auto u = float(p.x), v = float(p.y);
        const int32_t strip = floorOf(u);
        const float there = valueNoise(v + 37 * hashNoise(strip, 1, s.seed), float(strip) * 7.3f, s.seed + 1);
        const float seen = rows::clamp01((there - (1 - s.amount)) * 8);
        if (seen <= 0) continue;
        const float at = float(strip) + 0.3f + 0.3f * hashNoise(strip, 2, s.seed) +
                         0.1f * (valueNoise(v * 0.7f, float(strip) * 3.1f, s.seed + 2) - 0.5f);
        const float half = s.half * (0.4f + 0.6f * hashNoise(strip, 3, s.seed));
        const float cover =
            rows::clamp01((half - std::abs(u - at)) / s.pixel + 0.5f) * std::min(1.0f, 2 * half / s.pixel);
        const float share = 0.7f * seen * cover;
        const float shade = hashNoise(strip, 4, s.seed) < s.dark ? 0.08f : 0.95f;
        for (float* values : channel) values[k] += (shade - values[k]) * share;
    }
}

ColourOp scratches(const Figures& f, const Place& place) {
    const auto back = place.toOutput.inverse();
    if (f.number(ScratchAmount) == 0 || !back) return {};
    const double strip = std::max(12 * f.number(Width), f.number(Length) / 12);
    const Affine map =
        Affine::scaling(1 / strip, 1 / f.number(Length)) * Affine::rotation(90 - f.number(Angle)) * *back;
    const Scratches s{map,
                      float(f.number(ScratchAmount)),
                      float(f.number(ScratchDark)),
                      float(f.number(Width) / strip / 2),
                      float(1 / std::max(place.px(strip), 1e-6)),
                      f.seed(ScratchSeed) * 177u + 5u};
    return [s](const ColourRow& row) { scratchRow(row, s); };
}

} // namespace

extern const TreatmentKind kDust{"dust", "Dust", TreatmentFamily::Worn, kDustFigures, false, true, dust};
extern const TreatmentKind kScratches{"scratches", "Scratches", TreatmentFamily::Worn, kScratchFigures, false,
                                      true,        scratches};

} // namespace glyptos
