// Sea and sky at dusk, the moon, the beam of light, and gulls.
#include "canvas.h"

#include "raster/noise.h"

#include <cmath>

namespace glyptos::demo {
namespace {

constexpr float kHorizon = 0.66f;

Ink skyAt(float x, float y) {
    const float t = y / kHorizon;
    const Ink stops[] = {hex(0x101d35), hex(0x1c3450), hex(0x3c6479),
                         hex(0x8fa39a), hex(0xe9b27f), hex(0xf3c894)};
    const float at[] = {0, 0.35f, 0.62f, 0.8f, 0.94f, 1};
    Ink sky = stops[5];
    for (int i = 0; i < 5; ++i)
        if (t >= at[i] && t < at[i + 1]) sky = mix(stops[i], stops[i + 1], (t - at[i]) / (at[i + 1] - at[i]));
    // Long clouds, lit from below near the horizon.
    const float warp = fractalNoise(x * 3, y * 9, 4, 5) * 0.35f;
    const float cloud = smooth(0.5f, 0.78f, fractalNoise(x * 2.2f + warp, y * 11 + warp * 2, 6, 11)) *
                        smooth(0.15f, 0.55f, t);
    const Ink lit = mix(hex(0x2b4157), hex(0xf6cfa0), smooth(0.45f, 1.0f, t));
    const float wisps =
        smooth(0.55f, 0.85f, fractalNoise(x * 6 + warp * 4, y * 34, 5, 23)) * smooth(0.4f, 0.8f, t) * 0.5f;
    sky = mix(mix(sky, lit, cloud * 0.55f), hex(0xffe2b8), wisps * 0.4f);
    // A few stars high up.
    const auto sx = static_cast<int>(x * 420), sy = static_cast<int>(y * 420);
    if (hashNoise(sx, sy, 77) > 0.9965f) {
        const float dx = x * 420 - float(sx) - 0.5f, dy = y * 420 - float(sy) - 0.5f;
        sky = sky +
              Ink{1, 1, 0.9f} * (smooth(0.22f, 0.02f, std::hypot(dx, dy)) * smooth(0.55f, 0.1f, t) * 0.8f);
    }
    return sky;
}

Ink seaAt(float x, float y) {
    const float down = (y - kHorizon) / (1 - kHorizon);
    const float depth = 1 / (down + 0.035f);
    const float u = (x - 0.5f) * depth * 3.2f, v = depth * 2.4f;
    const float swell = fractalNoise(u * 1.6f, v * 6, 5, 31);
    const float ripple = 1 - std::abs(2 * fractalNoise(u * 5 + swell * 2, v * 17 + swell * 3, 4, 41) - 1);
    Ink sea = mix(hex(0x6d8a88), hex(0x0e2530), smooth(0.0f, 0.55f, down));
    sea = mix(sea, hex(0x06141c), smooth(0.5f, 0.75f, swell) * 0.6f);
    const Ink glow = skyAt(x, kHorizon * (1 - 0.28f * down) - 0.004f);
    sea = mix(sea, glow, smooth(0.78f, 0.98f, ripple) * (0.62f - 0.4f * down));
    // The moon's road on the water.
    const float road = std::exp(-std::pow((x - 0.63f) / (0.05f + 0.16f * down), 2.0f));
    return mix(sea, hex(0xf7e4bd), road * smooth(0.7f, 0.95f, ripple) * 0.75f);
}

float ridge(float x, float base, float height, float rough, uint32_t seed) {
    return base - height * fractalNoise(x * rough, 0.5f, 6, seed);
}

} // namespace

DemoPicture seaAndSky() {
    Canvas c(3400, 3400);
    c.shade([](float x, float y, const Dot&) { return Dot{y < kHorizon ? skyAt(x, y) : seaAt(x, y), 1}; });
    // Headlands, the farther the paler.
    const Ink tones[] = {hex(0x8a8f8b), hex(0x4e6470), hex(0x223a48)};
    for (int i = 0; i < 3; ++i)
        c.shade([&, i](float x, float y, const Dot&) {
            const float side = i == 1 ? smooth(0.55f, 0.0f, x) : smooth(0.35f, 1.0f, x);
            const float top = ridge(x, kHorizon + 0.012f, (0.13f - 0.02f * float(i)) * side + 0.002f,
                                    4.0f + 2.0f * float(i), 51 + 7 * uint32_t(i));
            const float inside = y < kHorizon ? smooth(top - 0.0006f, top + 0.0006f, y) : 0.0f;
            return Dot{
                mix(tones[i], hex(0xe7b98d), smooth(0.5f, 1.0f, y / kHorizon) * (0.25f - 0.08f * float(i))),
                inside * (side > 0.02f ? 1.0f : 0.0f)};
        });
    // Rocks in front, on which the lighthouse stands.
    c.shade([](float x, float y, const Dot&) {
        const float hill = 0.115f * smooth(0.72f, 0.24f, x) * smooth(-0.25f, 0.2f, x) + 0.03f;
        const float top = 0.9f - hill - 0.05f * fractalNoise(x * 9, 2.5f, 6, 91);
        const float inside = smooth(top - 0.0008f, top + 0.0008f, y);
        const float stone = fractalNoise(x * 42, y * 60, 6, 97),
                    crack = 1 - std::abs(2 * fractalNoise(x * 18 + stone, y * 30, 5, 99) - 1);
        Ink rock = mix(hex(0x0b1a22), hex(0x1f3a44), stone * smooth(top + 0.12f, top, y));
        rock = mix(rock, hex(0xd9a877), smooth(top + 0.018f, top, y) * smooth(0.35f, 0.75f, stone) * 0.55f);
        return Dot{mix(rock, hex(0x050d12), smooth(0.9f, 1.0f, crack) * 0.7f), inside};
    });
    c.grain(0.03f, 7);
    return {"sea-and-sky.jpg", c.jpeg(92)};
}

DemoPicture moon() {
    Canvas c(1500, 1500);
    c.shade([](float x, float y, const Dot&) {
        const float r = std::hypot(x - 0.5f, y - 0.5f) / 0.36f;
        const float glow = 0.4f * std::exp(-std::max(0.0f, r - 1) * 5.5f) * smooth(1.38f, 1.0f, r);
        const float disc = smooth(1.004f, 0.996f, r);
        const float seas = smooth(0.46f, 0.64f, fractalNoise(x * 5 + 3, y * 5, 6, 201)),
                    fine = fractalNoise(x * 40, y * 40, 5, 203);
        Ink face = mix(hex(0xf6e7c4), hex(0xcdb98f), seas * 0.8f);
        for (int i = 0; i < 60; ++i) {
            const float cx = hashNoise(i, 1, 9), cy = hashNoise(i, 2, 9),
                        cr = 0.006f + 0.03f * std::pow(hashNoise(i, 3, 9), 3.0f);
            const float d = std::hypot(x - cx, y - cy) / cr;
            if (d < 1.3f)
                face = face * (1 - 0.12f * smooth(1.0f, 0.7f, d)) +
                       Ink{1, 0.95f, 0.8f} * (0.12f * std::exp(-std::pow((d - 1) * 6, 2.0f)));
        }
        face = (face + Ink{1, 1, 1} * ((fine - 0.5f) * 0.12f)) * (1 - 0.22f * smooth(0.4f, 1.0f, r));
        return disc > 0 ? Dot{face, std::max(disc, glow)} : Dot{hex(0xf6dfae), glow};
    });
    return {"moon.png", c.png()};
}

DemoPicture beam() {
    Canvas c(1800, 900);
    c.shade([](float x, float y, const Dot&) {
        const float spread = 0.02f + 0.46f * (1 - x), off = std::abs(y - 0.5f) / spread;
        const float dust = 0.75f + 0.5f * (fractalNoise(x * 7, y * 9, 5, 301) - 0.5f);
        return Dot{hex(0xffe9b4),
                   smooth(1.0f, 0.25f, off) * std::pow(x, 1.4f) * dust * 0.85f * smooth(1.0f, 0.985f, x)};
    });
    return {"beam.png", c.png()};
}

DemoPicture gulls() {
    const char* bird = "M0 0C-8-9-20-12-32-8C-23-7-14-3-8 3C-4 6 4 6 8 3C14-4 24-9 34-11C22-14 8-9 0 0Z";
    std::string svg = "<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"640\" height=\"360\" viewBox=\"0 0 "
                      "640 360\" fill=\"#f3ead6\">\n";
    const double places[][4] = {{150, 120, 1.5, -12}, {300, 70, 1.0, 8},    {390, 170, 1.9, -4},
                                {520, 110, 0.8, 14},  {250, 240, 0.9, -18}, {480, 270, 1.2, 5},
                                {90, 260, 0.6, 10}};
    for (const auto& p : places)
        svg += " <path d=\"" + std::string(bird) + "\" transform=\"translate(" + std::to_string(int(p[0])) +
               " " + std::to_string(int(p[1])) + ") rotate(" + std::to_string(int(p[3])) + ") scale(" +
               std::to_string(p[2]).substr(0, 4) + ")\"/>\n";
    svg += "</svg>\n";
    return {"gulls.svg", {svg.begin(), svg.end()}};
}

} // namespace glyptos::demo
