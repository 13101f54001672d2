// The grain of film: value noise of a size on the piece, of one tone or for each channel, more of it where
// asked in the middle tones. Chance by place on the piece, so that it is the same at every zoom; where a
// grain is smaller than a pixel it fades to what is left of it on average.

#include "treat/kind.h"
#include "treat/surfaces/surface_noise.h"

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
GLYPTOS_IN_ROWS float grainAt(float x, float y, uint32_t seed) {
    constexpr float kShown = 2; // grains too small to be seen are made weaker as a whole
    const rows::Lattice one{seed, -1, -1, kShown}, two{seed + 1, -1, -1, kShown};
    return 1.3f *
           (0.65f * rows::noise(x, y, one) + 0.35f * rows::noise(2.03f * x + 7, 2.03f * y + 3, two) - 0.5f);
}

struct Grain {
    Affine toGrain; // from output px to grains
    float amount, coloured, middles;
    uint32_t seed;
};

/// A row of grain that begins at (x, y) and goes on by (dx, dy).
struct GrainRow {
    float x, y, dx, dy;
};

GLYPTOS_ROWS void grainRow(const GrainRow& row, uint32_t seed, float* __restrict out, size_t n) {
    const float x = row.x, y = row.y, dx = row.dx, dy = row.dy;
    for (size_t i = 0; i < n; ++i) {
        const auto k = float(int32_t(i));
        out[i] = grainAt(x + dx * k, y + dy * k, seed);
    }
}

/// How much of it each pixel takes: more in the middle tones, where that is asked for.
GLYPTOS_ROWS void shareRow(const ColourRow& row, float amount, float middles, float* __restrict out) {
    const float* __restrict r = row.r, * __restrict g = row.g, * __restrict b = row.b;
    for (size_t i = 0; i < row.n; ++i) {
        const float luma = rows::clamp01(0.2126f * r[i] + 0.7152f * g[i] + 0.0722f * b[i]);
        out[i] = amount * (1 - middles * (1 - 4 * luma * (1 - luma)));
    }
}

GLYPTOS_ROWS void addRow(const float* __restrict one, const float* __restrict own, float coloured,
                         const float* __restrict share, float* __restrict out, size_t n) {
    for (size_t i = 0; i < n; ++i)
        out[i] = rows::clamp01(out[i] + share[i] * (one[i] + (own[i] - one[i]) * coloured));
}

void addGrain(const ColourRow& row, const Grain& g) {
    constexpr size_t kMost = 1024;
    float one[kMost], own[kMost], share[kMost];
    const Vec2 first = g.toGrain.map({row.x + 0.5, row.y + 0.5});
    const GrainRow at{float(first.x), float(first.y), float(g.toGrain.a), float(g.toGrain.b)};
    shareRow(row, g.amount, g.middles, share);
    grainRow(at, g.seed, one, row.n);
    float* channel[3] = {row.r, row.g, row.b};
    for (uint32_t c = 0; c < 3; ++c) {
        if (g.coloured > 0) grainRow(at, g.seed + 101 * (c + 1), own, row.n);
        addRow(one, g.coloured > 0 ? own : one, g.coloured, share, channel[c], row.n);
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
