#include "treat/drawn/tone.h"

namespace glyptos {

namespace {

GLYPTOS_ROWS void sumRow(const float* __restrict r, const float* __restrict g, const float* __restrict b,
                         float* __restrict out, size_t n) {
    for (size_t i = 0; i < n; ++i) out[i] = 0.2126f * r[i] + 0.7152f * g[i] + 0.0722f * b[i];
}

GLYPTOS_ROWS void shareRow(const float* __restrict alpha, float* __restrict light, size_t n) {
    for (size_t i = 0; i < n; ++i) {
        const float straight = rows::clamp01(light[i] / (alpha[i] > 1e-6f ? alpha[i] : 1.0f));
        light[i] = alpha[i] > 1e-6f ? straight : 1.0f;
    }
}

} // namespace

Plane lightOf(const Planes& planes) {
    Plane out(planes.area);
    for (int y = planes.area.y; y < planes.area.bottom(); ++y) {
        sumRow(planes.row(0, y), planes.row(1, y), planes.row(2, y), out.row(y), size_t(planes.area.w));
        shareRow(planes.row(3, y), out.row(y), size_t(planes.area.w));
    }
    return out;
}

Plane smoothLight(const Planes& input, const WideGaussian& how, const IntRect& area) {
    // Of two planes instead of four.
    Plane sum(input.area);
    for (int y = input.area.y; y < input.area.bottom(); ++y)
        sumRow(input.row(0, y), input.row(1, y), input.row(2, y), sum.row(y), size_t(input.area.w));
    Plane out = smoothed(sum, how, area);
    const Plane alpha = smoothed(input.c[3], how, area);
    for (int y = area.y; y < area.bottom(); ++y) shareRow(alpha.row(y), out.row(y), size_t(area.w));
    return out;
}

Inked inkedBy(const Rgba& ink, const Rgba& paper, bool seeThrough) {
    return {{ink.r, ink.g, ink.b}, {paper.r, paper.g, paper.b}, ink.a, seeThrough};
}

void setInked(const Inked& how, float cover, float alpha, Planes& out, int x, int y) {
    const int i = x - out.area.x;
    cover *= how.inkAlpha;
    const float shown = how.seeThrough ? alpha * cover : alpha;
    for (int c = 0; c < 3; ++c)
        out.row(c, y)[i] =
            shown * (how.seeThrough ? how.ink[c] : how.paper[c] + (how.ink[c] - how.paper[c]) * cover);
    out.row(3, y)[i] = shown;
}

} // namespace glyptos
