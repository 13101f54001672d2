// Rust, paper, the harbour wall, and a chart.
#include "canvas.h"

#include "raster/noise.h"

#include <cmath>

namespace glyptos::demo {

DemoPicture rust() {
    Canvas c(2600, 2600);
    c.shade([](float x, float y, const Dot&) {
        const float big = fractalNoise(x * 5, y * 5, 6, 701),
                    warp = fractalNoise(x * 9 + big * 3, y * 9, 6, 703);
        const float flake = 1 - std::abs(2 * fractalNoise(x * 26 + warp * 4, y * 26, 5, 705) - 1),
                    run = fractalNoise(x * 50, y * 3 + warp, 4, 707);
        Ink iron = mix(hex(0x35505a), hex(0x5f7d80), warp);
        const Ink red = mix(hex(0x8a3a1c), hex(0xd9833b), fractalNoise(x * 60, y * 60, 5, 709));
        iron = mix(iron, red, smooth(0.42f, 0.6f, big + 0.25f * (warp - 0.5f)));
        iron = mix(iron, hex(0x3a1a10), smooth(0.86f, 1.0f, flake) * 0.8f);
        return Dot{mix(iron, hex(0xb4622c), smooth(0.6f, 0.8f, run) * 0.45f), 1};
    });
    c.grain(0.08f, 21);
    return {"rust.jpg", c.jpeg(90)};
}

DemoPicture paper() {
    Canvas c(2600, 2600);
    c.shade([](float x, float y, const Dot&) {
        const float tone = fractalNoise(x * 3, y * 3, 6, 721),
                    fibre = fractalNoise(x * 160 + 9 * tone, y * 34, 4, 723),
                    speck = hashNoise(int(x * 900), int(y * 900), 725);
        Ink sheet = mix(hex(0xefe6d2), hex(0xdccdb0), tone);
        sheet = sheet * (0.965f + 0.07f * fibre);
        const float edge = std::min(std::min(x, 1 - x), std::min(y, 1 - y));
        sheet = mix(hex(0xb39a70), sheet, smooth(-0.05f, 0.16f, edge + 0.05f * (tone - 0.5f)));
        return Dot{speck > 0.9985f ? sheet * 0.8f : sheet, 1};
    });
    c.grain(0.03f, 22);
    return {"paper.jpg", c.jpeg(90)};
}

DemoPicture harbourWall() {
    Canvas c(3200, 2600);
    c.shade([](float x, float y, const Dot&) {
        const float wobble = 0.006f * fractalNoise(x * 14, y * 14, 4, 741);
        const float row = (y + wobble) * 9, line = std::floor(row), shift = hashNoise(0, int(line), 743);
        const float column = (x + wobble) * 6 + shift * 3, stone = std::floor(column);
        const float ex = std::min(column - stone, 1 - column + stone) / 6,
                    ey = std::min(row - line, 1 - row + line) / 9;
        const float edge = std::min(ex, ey), own = hashNoise(int(stone), int(line), 745);
        const float grit = fractalNoise(x * 130, y * 130, 6, 747), pit = fractalNoise(x * 30, y * 30, 5, 749);
        Ink face = mix(hex(0x6c7274), hex(0xa19a8a), own) * (0.6f + 0.55f * grit);
        face = face * (0.8f + 0.35f * pit);
        face = mix(hex(0x20292b), face, smooth(0.002f, 0.012f, edge));
        const float weed = smooth(0.62f, 0.95f, y + 0.25f * (fractalNoise(x * 12, y * 6, 5, 751) - 0.5f));
        face = mix(face, mix(hex(0x1f3325), hex(0x4d6a3a), grit), weed * 0.8f);
        return Dot{face * (1 - 0.35f * y), 1};
    });
    c.grain(0.05f, 23);
    return {"harbour-wall.jpg", c.jpeg(89)};
}

DemoPicture chart() {
    Canvas c(2600, 2600);
    c.shade([](float x, float y, const Dot&) {
        const float height = fractalNoise(x * 2.6f + 4, y * 2.6f, 7, 761) + 0.34f * (x - 0.55f),
                    fibre = fractalNoise(x * 150, y * 40, 4, 763);
        const bool land = height > 0.56f;
        Ink sheet = land ? mix(hex(0xe3cf9f), hex(0xd2b980), smooth(0.56f, 0.8f, height))
                         : mix(hex(0xdfe6dc), hex(0x9dbcc0), smooth(0.56f, 0.25f, height));
        const auto contour = [&](float step, float width) {
            const float v = height / step, near = std::abs(v - std::floor(v + 0.5f)) * step;
            return smooth(width, width * 0.3f, near);
        };
        sheet = mix(sheet, hex(0x5b8791), (land ? 0.0f : 0.45f) * contour(0.035f, 0.0011f));
        sheet = mix(sheet, hex(0x8a6f3c), (land ? 0.4f : 0.0f) * contour(0.03f, 0.001f));
        sheet = mix(sheet, hex(0x2b3f45), smooth(0.0022f, 0.0008f, std::abs(height - 0.56f)));
        const auto grid = [](float v, float n) {
            return smooth(0.0008f, 0.0003f, std::abs(v * n - std::floor(v * n + 0.5f)) / n);
        };
        sheet = mix(sheet, hex(0x6f6a60), 0.4f * std::max(grid(x, 6), grid(y, 6)));
        return Dot{sheet * (0.95f + 0.07f * fibre), 1};
    });
    // Compass rose, with a scale ring.
    const Vec2 centre{0.26, 0.72};
    for (int i = 0; i < 32; ++i) {
        const double turn = 11.25 * i,
                     length = i % 8 == 0   ? 0.15
                              : i % 4 == 0 ? 0.11
                              : i % 2 == 0 ? 0.08
                                           : 0.06,
                     width = i % 4 == 0 ? 0.016 : 0.008;
        const Affine m = Affine::translation(centre.x, centre.y) * Affine::rotation(turn);
        Path dark, light;
        dark.moveTo(m.map({0, -length})), dark.lineTo(m.map({width, -width * 1.6})),
            dark.lineTo(m.map({0, 0}));
        light.moveTo(m.map({0, -length})), light.lineTo(m.map({-width, -width * 1.6})),
            light.lineTo(m.map({0, 0}));
        c.fill(dark, hex(0x8f2f20), 0.85f);
        c.fill(light, hex(0x2b3f45), 0.8f);
    }
    c.shade([&](float x, float y, const Dot&) {
        const float r = std::hypot(x - float(centre.x), y - float(centre.y)),
                    angle = std::atan2(y - float(centre.y), x - float(centre.x)) * 57.29578f / 5;
        const float ring = std::max(smooth(0.0014f, 0.0006f, std::abs(r - 0.175f)),
                                    smooth(0.0014f, 0.0006f, std::abs(r - 0.19f)));
        const float tick =
            r > 0.175f && r < 0.19f ? smooth(0.12f, 0.06f, std::abs(angle - std::floor(angle + 0.5f))) : 0.0f;
        return Dot{hex(0x2b3f45), std::max(ring, tick) * 0.8f};
    });
    c.grain(0.025f, 24);
    return {"chart.jpg", c.jpeg(90)};
}

} // namespace glyptos::demo
