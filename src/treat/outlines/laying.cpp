#include "treat/outlines/laying.h"

namespace glyptos {
namespace {

const float* channelsOf(const Rgba& c, float (&out)[3]) {
    out[0] = c.r, out[1] = c.g, out[2] = c.b;
    return out;
}

template <class Act>
void eachPixel(const Tint& tint, Planes& planes, Act act) {
    float rgb[3];
    channelsOf(tint.colour, rgb);
    for (int y = planes.area.y; y < planes.area.bottom(); ++y) {
        const float* cover = tint.cover.row(y) + (planes.area.x - tint.cover.area.x);
        float* alpha = planes.row(3, y);
        float* colour[3] = {planes.row(0, y), planes.row(1, y), planes.row(2, y)};
        for (int x = 0; x < planes.area.w; ++x)
            act(x, colour, alpha, std::clamp(cover[x], 0.0f, 1.0f) * tint.colour.a * tint.opacity, rgb);
    }
}

} // namespace

void layUnder(const Tint& tint, Planes& over) {
    eachPixel(tint, over, [](int x, float* const* c, float* alpha, float share, const float* rgb) {
        const float through = (1 - alpha[x]) * share;
        for (int k = 0; k < 3; ++k) c[k][x] += rgb[k] * through;
        alpha[x] += through;
    });
}

void layInside(const Tint& tint, Planes& on) {
    eachPixel(tint, on, [](int x, float* const* c, const float* alpha, float share, const float* rgb) {
        for (int k = 0; k < 3; ++k) c[k][x] += (rgb[k] * alpha[x] - c[k][x]) * share;
    });
}

void layOver(const Tint& tint, Planes& on) {
    eachPixel(tint, on, [](int x, float* const* c, float* alpha, float share, const float* rgb) {
        for (int k = 0; k < 3; ++k) c[k][x] += (rgb[k] - c[k][x]) * share;
        alpha[x] += (1 - alpha[x]) * share;
    });
}

} // namespace glyptos
