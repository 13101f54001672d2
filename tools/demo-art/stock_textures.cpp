// Surfaces of the harbour: wood, iron, cloth, stone, water, sand and paper.
#include "stock.h"

#include "raster/noise.h"

#include <cmath>

namespace glyptos::demo {
namespace {

using Surface = Ink (*)(float x, float y, const Ink& dark, const Ink& light, uint32_t seed);

Ink rustOf(float x, float y, const Ink& dark, const Ink& light, uint32_t seed) {
    const float big = fractalNoise(x * 5, y * 5, 6, seed),
                warp = fractalNoise(x * 9 + big * 3, y * 9, 6, seed + 1);
    const float flake = 1 - std::abs(2 * fractalNoise(x * 24 + warp * 4, y * 24, 5, seed + 2) - 1);
    Ink c = mix(dark, light, smooth(0.35f, 0.65f, big + 0.3f * (warp - 0.5f)));
    return mix(c * (0.8f + 0.4f * fractalNoise(x * 60, y * 60, 4, seed + 3)), dark * 0.4f,
               smooth(0.86f, 1.0f, flake) * 0.8f);
}

Ink planksOf(float x, float y, const Ink& dark, const Ink& light, uint32_t seed) {
    const float plank = std::floor(x * 7), edge = std::abs(x * 7 - plank - 0.5f),
                own = hashNoise(int(plank), 3, seed);
    const float grain = fractalNoise(
        x * 90 + own * 40, y * 3 + own * 9 + 0.4f * fractalNoise(x * 8, y * 2, 3, seed + 1), 5, seed + 2);
    const Ink c = mix(dark, light, 0.25f + 0.5f * grain + 0.25f * own);
    return mix(c, dark * 0.25f, smooth(0.47f, 0.495f, edge));
}

Ink ropeOf(float x, float y, const Ink& dark, const Ink& light, uint32_t seed) {
    const float lay = (x + y * 0.35f) * 9, strand = lay - std::floor(lay), row = std::floor(lay);
    const float twist = std::sin((y * 70 + row * 1.7f + strand * 3)),
                fibre = fractalNoise(x * 30, y * 160, 4, seed);
    const float bulge = std::sin(strand * 3.1416f);
    return mix(dark * 0.4f, mix(dark, light, 0.5f + 0.3f * twist + 0.3f * (fibre - 0.5f)),
               std::pow(bulge, 0.6f));
}

Ink sandOf(float x, float y, const Ink& dark, const Ink& light, uint32_t seed) {
    const float warp = fractalNoise(x * 3, y * 3, 5, seed), wave = std::sin(y * 95 + warp * 16 + x * 6);
    return mix(dark, light,
               0.5f + 0.3f * wave + 0.4f * (hashNoise(int(x * 900), int(y * 900), seed + 1) - 0.5f));
}

Ink clothOf(float x, float y, const Ink& dark, const Ink& light, uint32_t seed) {
    const float u = x * 110, v = y * 110;
    const bool over = (int(u) + int(v)) % 2 == 0;
    const float t = over ? std::sin((u - std::floor(u)) * 3.1416f) : std::sin((v - std::floor(v)) * 3.1416f);
    const float slub = fractalNoise(over ? x * 4 : x * 60, over ? y * 60 : y * 4, 4, seed),
                fold = fractalNoise(x * 2.5f, y * 2.5f, 4, seed + 1);
    return mix(dark, light, 0.2f + 0.5f * t * (0.7f + 0.5f * slub)) * (0.75f + 0.45f * fold);
}

/// Distance to the nearest and the second nearest of scattered points: cracks and cells.
std::pair<float, float> cellsAt(float x, float y, uint32_t seed) {
    float first = 9, second = 9;
    const int cx = int(std::floor(x)), cy = int(std::floor(y));
    for (int j = -1; j <= 1; ++j)
        for (int i = -1; i <= 1; ++i) {
            const float px = float(cx + i) + hashNoise(cx + i, cy + j, seed),
                        py = float(cy + j) + hashNoise(cx + i, cy + j, seed + 1);
            const float d = std::hypot(px - x, py - y);
            if (d < first)
                second = first, first = d;
            else
                second = std::min(second, d);
        }
    return {first, second};
}

Ink cracksOf(float x, float y, const Ink& dark, const Ink& light, uint32_t seed) {
    const float warp = 0.35f * fractalNoise(x * 14, y * 14, 4, seed);
    const auto [near, next] = cellsAt(x * 11 + warp, y * 11 + warp, seed + 1);
    const float gap = next - near, tone = fractalNoise(x * 50, y * 50, 5, seed + 3);
    return mix(dark * 0.5f, mix(dark, light, 0.55f + 0.45f * tone) * (0.9f + 0.2f * near),
               smooth(0.02f, 0.09f, gap));
}

Ink waterOf(float x, float y, const Ink& dark, const Ink& light, uint32_t seed) {
    const float warp = fractalNoise(x * 4, y * 4, 4, seed) * 1.4f;
    const auto [a, b] = cellsAt(x * 7 + warp, y * 7 - warp, seed + 1);
    const float net = smooth(0.22f, 0.0f, b - a), deep = fractalNoise(x * 3, y * 3, 5, seed + 4);
    return mix(mix(dark, mix(dark, light, 0.35f), deep), light, net * 0.85f);
}

Ink paintOf(float x, float y, const Ink& dark, const Ink& light, uint32_t seed) {
    const float flake = fractalNoise(x * 4, y * 7, 7, seed), rim = std::abs(flake - 0.52f);
    const Ink wood =
        mix(Ink{0.35f, 0.28f, 0.22f}, Ink{0.6f, 0.52f, 0.42f}, fractalNoise(x * 80, y * 4, 5, seed + 1));
    const Ink coat = mix(light, dark, 0.3f * fractalNoise(x * 20, y * 20, 5, seed + 2));
    return mix(mix(coat, wood, smooth(0.515f, 0.525f, flake)), dark * 0.6f, smooth(0.012f, 0.0f, rim) * 0.6f);
}

Ink sheetOf(float x, float y, const Ink& dark, const Ink& light, uint32_t seed) {
    const float tone = fractalNoise(x * 3, y * 3, 6, seed),
                fibre = fractalNoise(x * 150 + 9 * tone, y * 34, 4, seed + 1);
    const float edge = std::min(std::min(x, 1 - x), std::min(y, 1 - y));
    const Ink c = mix(light, mix(dark, light, 0.6f), tone) * (0.96f + 0.08f * fibre);
    return mix(dark, c, smooth(-0.04f, 0.15f, edge + 0.06f * (tone - 0.5f)));
}

Ink netOf(float x, float y, const Ink& dark, const Ink& light, uint32_t seed) {
    const float sag = 0.5f * fractalNoise(x * 3, y * 3, 3, seed), u = (x + y) * 13 + sag,
                v = (x - y) * 13 + sag;
    const auto cord = [](float t) { return smooth(0.09f, 0.05f, std::abs(t - std::floor(t) - 0.5f)); };
    const float twine = std::max(cord(u), cord(v)), knot = cord(u) * cord(v);
    const Ink ground = mix(dark * 0.6f, dark, fractalNoise(x * 6, y * 6, 5, seed + 1));
    return mix(ground, light * (0.75f + 0.35f * fractalNoise(x * 90, y * 90, 3, seed + 2)),
               std::max(twine, knot));
}

struct Row {
    const char* title;
    std::vector<std::string> tags;
    Surface surface;
    uint32_t dark, light;
    int width = 1100, height = 1100;
};

std::vector<Row> rows() {
    return {
        {"Rust on a hull", {"rust", "iron", "orange"}, rustOf, 0x3a4e56, 0xb05a2a, 1100, 1100},
        {"Rust, dry and red", {"rust", "iron", "red"}, rustOf, 0x5a2014, 0xd0703a, 1100, 1100},
        {"Rust, nearly black", {"rust", "iron", "dark"}, rustOf, 0x14181a, 0x5a3020, 1100, 1100},
        {"Verdigris on copper", {"copper", "verdigris", "green"}, rustOf, 0x1e6a5c, 0x9ac8b0, 1100, 1100},
        {"Jetty planks", {"wood", "planks", "grey"}, planksOf, 0x4a4640, 0xa8a090, 1100, 1100},
        {"Tarred planks", {"wood", "planks", "black"}, planksOf, 0x12100e, 0x4a3c30, 1100, 1100},
        {"Boathouse red", {"wood", "planks", "red"}, planksOf, 0x6a1e18, 0xb8483a, 1100, 1100},
        {"Hemp rope", {"rope", "hemp", "brown"}, ropeOf, 0x6a5230, 0xd8c090, 1100, 1100},
        {"Blue rope", {"rope", "blue"}, ropeOf, 0x14304e, 0x6a9ac8, 1100, 1100},
        {"Ripples in sand", {"sand", "ripple", "beach"}, sandOf, 0xa88a60, 0xecd8b0, 1100, 1100},
        {"Wet sand", {"sand", "ripple", "grey"}, sandOf, 0x5a564c, 0xa09884, 1100, 1100},
        {"Sailcloth", {"cloth", "canvas", "white"}, clothOf, 0xa8a090, 0xf0eadc, 1100, 1100},
        {"Oilskin yellow", {"cloth", "yellow"}, clothOf, 0x9a7410, 0xf0c838, 1100, 1100},
        {"Navy serge", {"cloth", "navy", "blue"}, clothOf, 0x0a1426, 0x2e4668, 1100, 1100},
        {"Salt crust", {"salt", "cracks", "white"}, cracksOf, 0x9a948a, 0xf4f0e8, 1100, 1100},
        {"Dry dock mud", {"mud", "cracks", "brown"}, cracksOf, 0x3a2e24, 0x8a7460, 1100, 1100},
        {"Glazed tile", {"tile", "cracks", "teal"}, cracksOf, 0x0e4a4a, 0x4aa8a0, 1100, 1100},
        {"Shallow water", {"water", "light", "turquoise"}, waterOf, 0x0e6a7a, 0xb8f0e8, 1100, 1100},
        {"Harbour water", {"water", "dark", "green"}, waterOf, 0x0a221e, 0x4a8a78, 1100, 1100},
        {"Peeling blue paint", {"paint", "peeling", "blue"}, paintOf, 0x1a3c5c, 0x4a86b0, 1100, 1100},
        {"Peeling white paint", {"paint", "peeling", "white"}, paintOf, 0xa8a49a, 0xf2efe8, 1100, 1100},
        {"Log-book paper", {"paper", "old", "cream"}, sheetOf, 0xb89a68, 0xf0e6d0, 1100, 1100},
        {"Blue wrapping paper", {"paper", "blue"}, sheetOf, 0x3a5a7a, 0x8aacc4, 1100, 1100},
        {"Chart paper, large", {"paper", "chart", "large"}, sheetOf, 0xc8bca0, 0xf4f0e4, 3800, 3800},
        {"Herring net", {"net", "twine", "green"}, netOf, 0x1a2e2a, 0x8ab090, 1100, 1100},
        {"Orange net", {"net", "twine", "orange"}, netOf, 0x2a2420, 0xf08030, 1100, 1100},
    };
}

} // namespace

std::vector<StockPicture> stockTextures() {
    std::vector<StockPicture> out;
    for (const Row& row : rows()) {
        const auto number = int(out.size());
        out.push_back(
            stockPicture({SourceKind::Texture, row.title, row.tags}, 40 + number, ".jpg", [row, number] {
                Canvas c(row.width, row.height);
                const uint32_t seed = 5000 + 31 * uint32_t(number);
                c.shade([&](float x, float y, const Dot&) {
                    return Dot{row.surface(x, y, hex(row.dark), hex(row.light), seed), 1};
                });
                c.grain(0.05f, seed);
                return c.jpeg(85);
            }));
    }
    return out;
}

} // namespace glyptos::demo
