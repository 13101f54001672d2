// The grain of film: value noise of a size on the piece, of one tone or for each channel, more of it where
// asked in the middle tones. Chance by place on the piece, so that it is the same at every zoom; where a
// grain is smaller than a pixel it fades to what is left of it on average.

#include "raster/noise.h"
#include "treat/kind.h"
#include "treat/vector_math.h"

namespace glyptos {
namespace {

enum { Amount, Size, Coloured, Middles, Seed };
constexpr Figure kFigures[]{
    share("amount", "Amount", 0.15),
    length("size", "Size", 0.25, 1e-4),
    share("coloured", "Coloured", 0),
    share("middles", "More in the middles", 0.6),
    chance(),
};

/// Two octaves about 0; its standard deviation is about ¼.
float grainAt(float x, float y, uint32_t seed) {
    return 1.3f * (0.65f * valueNoise(x, y, seed) +
                   0.35f * valueNoise(2.03f * x + 7, 2.03f * y + 3, seed + 1) - 0.5f);
}

struct Grain {
    Affine toGrain; // from output px to grains
    float amount, coloured, middles;
    uint32_t seed;
};

void addGrain(const ColourRow& row, const Grain& g) {
    float* channel[3] = {row.r, row.g, row.b};
    for (size_t i = 0; i < row.n; ++i) {
        if (row.alpha[i] <= 0) continue;
        const Vec2 at = g.toGrain.map({double(row.x) + double(i) + 0.5, row.y + 0.5});
        const auto x = float(at.x), y = float(at.y);
        const float luma = rows::clamp01(0.2126f * row.r[i] + 0.7152f * row.g[i] + 0.0722f * row.b[i]);
        const float here = g.amount * (1 - g.middles * (1 - 4 * luma * (1 - luma)));
        const float one = grainAt(x, y, g.seed);
        for (uint32_t c = 0; c < 3; ++c) {
            float v = one;
            if (g.coloured > 0) v += (grainAt(x, y, g.seed + 101 * (c + 1)) - one) * g.coloured;
            channel[c][i] = rows::clamp01(channel[c][i] + here * v);
        }
    }
}

ColourOp grain(const Figures& f, const Place& place) {
    const auto back = place.toOutput.inverse();
    if (f.number(Amount) == 0 || !back) return {};
    const double size = f.number(Size), px = place.px(size);
    // The mean of k² independent grains varies by 1/k.
    const double left = px < 1 ? px : 1;
    const Grain g{Affine::scaling(1 / size, 1 / size) * *back, float(f.number(Amount) * left),
                  float(f.number(Coloured)), float(f.number(Middles)), f.seed(Seed) * 7919u};
    return [g](const ColourRow& row) { addGrain(row, g); };
}

} // namespace

extern const TreatmentKind kGrain{"grain", "Grain", TreatmentFamily::Worn, kFigures, false, true, grain};

} // namespace glyptos
