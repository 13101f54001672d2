// Photographs of the coast: sea and sky by every light, the lighthouse in them, and the night.
#include "stock.h"

#include "raster/noise.h"

#include <cmath>

namespace glyptos::demo {
namespace {

struct View {
    const char* title;
    std::vector<std::string> tags;
    int width = 1500, height = 1000;
    uint32_t high = 0, middle = 0, low = 0,
             sea = 0; ///< colours of the sky from the top down, and of the water
    float horizon = 0.62f, clouds = 0.5f, fog = 0;
    float sunX = 0.5f, sunY = 0.4f, sunSize = 0; ///< 0: no sun or moon in it
    float tower = 0;                             ///< place of the lighthouse, or 0
    float rocks = 0, stars = 0, swell = 1;
};

Ink skyOf(const View& v, float x, float y, uint32_t seed) {
    const float t = std::clamp(y / v.horizon, 0.0f, 1.0f);
    Ink sky = t < 0.55f ? mix(hex(v.high), hex(v.middle), t / 0.55f)
                        : mix(hex(v.middle), hex(v.low), (t - 0.55f) / 0.45f);
    const float warp = fractalNoise(x * 3, y * 8, 4, seed) * 0.4f;
    const float cloud =
        smooth(0.48f, 0.8f, fractalNoise(x * 2.4f + warp, y * 8 + warp, 6, seed + 1)) * v.clouds;
    sky = mix(sky, mix(hex(v.middle) * 0.75f, Ink{1, 0.97f, 0.92f}, t), cloud * 0.6f);
    const float far = std::hypot((x - v.sunX) * float(v.width) / float(v.height), y - v.sunY);
    if (v.sunSize > 0) {
        sky = sky + Ink{1, 0.86f, 0.62f} * (0.5f * std::exp(-far / (v.sunSize * 3)));
        sky = mix(sky, Ink{1, 0.96f, 0.86f}, smooth(v.sunSize * 1.03f, v.sunSize * 0.97f, far));
    }
    if (v.stars > 0 && hashNoise(int(x * 500), int(y * 500 * float(v.height) / float(v.width)), seed + 5) >
                           1 - 0.006f * v.stars)
        sky = sky + Ink{0.8f, 0.82f, 0.9f} * ((1 - cloud) * (1 - t));
    return sky;
}

Ink seaOf(const View& v, float x, float y, uint32_t seed) {
    const float down = (y - v.horizon) / (1 - v.horizon), depth = 1 / (down + 0.04f);
    const float u = (x - 0.5f) * depth * 3, w = depth * 2.2f;
    const float swell = fractalNoise(u * 1.5f, w * 6, 5, seed + 11);
    const float ripple =
        1 - std::abs(2 * fractalNoise(u * 5 + swell * 2 * v.swell, w * 16, 4, seed + 12) - 1);
    Ink sea = mix(mix(hex(v.sea), hex(v.low), 0.45f), hex(v.sea) * 0.55f, smooth(0.0f, 0.8f, down));
    sea = mix(sea, hex(v.sea) * 0.4f, smooth(0.45f, 0.75f, swell) * 0.5f * v.swell);
    sea = mix(sea, skyOf(v, x, v.horizon * (1 - 0.3f * down), seed),
              smooth(0.75f, 0.98f, ripple) * (0.6f - 0.4f * down));
    const float road = v.sunSize > 0 ? std::exp(-std::pow((x - v.sunX) / (0.05f + 0.15f * down), 2.0f)) : 0;
    return mix(sea, Ink{1, 0.93f, 0.78f}, road * smooth(0.68f, 0.95f, ripple) * 0.8f);
}

void drawTower(Canvas& c, const View& v) {
    const double x = double(v.tower), foot = double(v.horizon) + 0.06, h = 0.34,
                 w = 0.034 * double(v.height) / double(v.width) * 1.5;
    Path body;
    body.moveTo({x - w, foot}), body.lineTo({x - w * 0.62, foot - h}), body.lineTo({x + w * 0.62, foot - h}),
        body.lineTo({x + w, foot});
    const Ink light = mix(Ink{0.93f, 0.9f, 0.85f}, hex(v.low), 0.25f),
              red = mix(hex(0x9c3325), hex(v.high), 0.2f);
    c.fill(body, [&](float px, float py) {
        const bool band = std::fmod((double(py) - foot + h) / h * 3.2, 1.0) > 0.5;
        const float side = 1 - 0.55f * smooth(-0.6f, 0.9f, float((double(px) - x) / w));
        return Dot{(band ? red : light) * side, 1};
    });
    Path lamp;
    lamp.addRect({x - w * 0.5, foot - h - 0.045, w, 0.045});
    c.fill(lamp, mix(hex(0xffe2a0), Ink{1, 1, 1}, 0.3f));
    Path roof;
    roof.moveTo({x - w * 0.8, foot - h - 0.045}), roof.lineTo({x, foot - h - 0.09}),
        roof.lineTo({x + w * 0.8, foot - h - 0.045});
    c.fill(roof, hex(0x20242a));
    Path gallery;
    gallery.addRect({x - w * 0.95, foot - h - 0.006, w * 1.9, 0.014});
    c.fill(gallery, hex(0x20242a));
}

std::vector<uint8_t> shoot(const View& v, uint32_t seed) {
    Canvas c(v.width, v.height);
    c.shade([&](float x, float y, const Dot&) {
        return Dot{y < v.horizon ? skyOf(v, x, y, seed) : seaOf(v, x, y, seed), 1};
    });
    if (v.rocks > 0)
        c.shade([&](float x, float y, const Dot&) {
            const float side =
                v.tower > 0 ? std::exp(-std::pow((x - v.tower) / 0.28f, 2.0f)) : smooth(0.7f, 0.0f, x);
            const float top = v.horizon + 0.07f + 0.4f * smooth(0.35f, 0.0f, side) - v.rocks * 0.1f * side -
                              0.08f * side * fractalNoise(x * 8, 1, 6, seed + 21);
            const float stone = fractalNoise(x * 40, y * 50, 6, seed + 22);
            return Dot{mix(hex(v.sea) * 0.25f, hex(v.middle) * 0.6f, stone * 0.6f),
                       side > 0.05f ? smooth(top - 0.001f, top + 0.001f, y) * smooth(0.04f, 0.12f, side) : 0};
        });
    if (v.tower > 0) drawTower(c, v);
    if (v.fog > 0)
        c.shade([&](float x, float y, const Dot&) {
            const float bank = fractalNoise(x * 2, y * 5, 5, seed + 31);
            return Dot{mix(hex(v.low), Ink{1, 1, 1}, 0.25f),
                       v.fog * smooth(0.1f, 0.9f, bank + 0.5f - std::abs(y - v.horizon))};
        });
    c.grain(0.04f, seed);
    return c.jpeg(86);
}

std::vector<View> views() {
    std::vector<View> out;
    const auto add = [&](const char* title, std::vector<std::string> tags, uint32_t high, uint32_t middle,
                         uint32_t low, uint32_t sea) -> View& {
        View v;
        v.title = title, v.tags = std::move(tags), v.high = high, v.middle = middle, v.low = low, v.sea = sea;
        out.push_back(std::move(v));
        return out.back();
    };
    const auto sized = [](View& v, int w, int h) -> View& { return v.width = w, v.height = h, v; };
    const auto sun = [](View& v, float x, float y, float size) -> View& {
        return v.sunX = x, v.sunY = y, v.sunSize = size, v;
    };
    const auto tower = [](View& v, float x) -> View& { return v.tower = x, v.rocks = 0.6f, v; };

    sun(add("Dusk over the sound", {"sea", "dusk", "calm"}, 0x1b2a4a, 0x6d6a86, 0xf0a868, 0x1d3a4a), 0.3f,
        0.55f, 0.03f);
    sun(sized(add("Low sun, slack tide", {"sea", "sunset", "tide"}, 0x3a5a86, 0xd8a878, 0xf8d8a0, 0x2a4a5a),
              1400, 1400),
        0.5f, 0.5f, 0.05f);
    tower(
        add("Lighthouse before rain", {"lighthouse", "rain", "grey"}, 0x3c444c, 0x6a747a, 0xaab0ae, 0x2c3a40),
        0.7f)
        .clouds = 1;
    tower(sun(add("Lighthouse at first light", {"lighthouse", "dawn", "pink"}, 0x50608e, 0xc890a0, 0xf8c8b0,
                  0x3a4a6a),
              0.25f, 0.56f, 0.025f),
          0.66f);
    tower(sized(add("The tower, upright", {"lighthouse", "tower", "blue"}, 0x2a62a8, 0x6aa0d0, 0xc8e0ea,
                    0x1e5a7a),
                1000, 1500),
          0.5f)
        .clouds = 0.3f;
    add("Fog on the sound", {"fog", "white", "quiet"}, 0xb8bec0, 0xc8cccc, 0xdcdedc, 0x8a9698).fog = 0.85f;
    tower(add("Lighthouse in fog", {"lighthouse", "fog", "quiet"}, 0x98a2a6, 0xb4bcbc, 0xd0d4d0, 0x748488),
          0.4f)
        .fog = 0.7f;
    auto& storm = add("Storm coming in", {"storm", "sea", "dark"}, 0x14181c, 0x2c343a, 0x6a7474, 0x18242a);
    storm.clouds = 1, storm.swell = 2;
    auto& north = sized(
        add("Northern night", {"night", "stars", "sky"}, 0x060a18, 0x12203a, 0x2a4a5a, 0x0a1420), 1200, 1600);
    north.stars = 1, north.clouds = 0.15f, north.horizon = 0.8f;
    sun(add("Moon road", {"moon", "night", "sea"}, 0x070c1a, 0x14243c, 0x2c4458, 0x0b1826), 0.55f, 0.22f,
        0.05f)
        .stars = 0.5f;
    add("Noon, no wind", {"sea", "noon", "blue", "calm"}, 0x2a78c8, 0x78b4e4, 0xd0e8f0, 0x1a6a8a).clouds =
        0.4f;
    add("Green water", {"sea", "green", "wave"}, 0x7a9a96, 0xa8c0b4, 0xd8e0cc, 0x1e6a52).swell = 1.8f;
    sun(add("Amber evening", {"sunset", "amber", "warm"}, 0x6a3a2a, 0xd08038, 0xfcd070, 0x5a3a24), 0.7f,
        0.45f, 0.06f);
    sun(sized(add("Red sky at night", {"sunset", "red", "sailor"}, 0x4a1420, 0xb83428, 0xf89858, 0x38141e),
              1400, 1400),
        0.4f, 0.57f, 0.04f);
    add("Violet hour", {"dusk", "violet", "calm"}, 0x2a1e4a, 0x6a4a86, 0xd8a0b8, 0x241c3e).clouds = 0.6f;
    auto& winter = add("Winter light", {"winter", "pale", "cold"}, 0xa8bccc, 0xc8d6de, 0xf0eee4, 0x6a8494);
    winter.rocks = 0.5f, winter.clouds = 0.8f;
    tower(sun(add("Keeper's evening", {"lighthouse", "evening", "keeper"}, 0x243a5a, 0x8a7a8a, 0xf4b880,
                  0x1c303e),
              0.2f, 0.5f, 0.035f),
          0.78f);
    tower(sized(add("Tower and stars", {"lighthouse", "night", "stars"}, 0x080c1c, 0x16243e, 0x30485a,
                    0x0a1622),
                1000, 1500),
          0.42f)
        .stars = 1;
    add("Rocks at low water", {"rocks", "shore", "low tide"}, 0x6a8aa0, 0xa8bcc4, 0xe0dcd0, 0x3c5660).rocks =
        1;
    auto& squall = add("Squall line", {"storm", "cloud", "grey"}, 0x20282e, 0x58646a, 0xc0c4bc, 0x2a383e);
    squall.clouds = 1, squall.horizon = 0.78f;
    sun(sized(add("Sun through haze", {"sun", "haze", "yellow"}, 0xc8a860, 0xe8cc88, 0xf8e8b8, 0x8a7440),
              1400, 1400),
        0.5f, 0.35f, 0.07f)
        .fog = 0.35f;
    sized(add("Wide sound", {"sea", "panorama", "wide"}, 0x345a7c, 0x88a8b8, 0xe8dcc4, 0x24485a), 2000, 800)
        .clouds = 0.7f;
    sun(sized(add("Wide dusk", {"dusk", "panorama", "wide"}, 0x20244a, 0x74507a, 0xf49a68, 0x1c2440), 2000,
              800),
        0.62f, 0.57f, 0.03f);
    tower(sized(add("Lighthouse for a sleeve", {"lighthouse", "large", "dusk"}, 0x16284a, 0x55708a, 0xf2b67c,
                    0x14303e),
                3800, 3800),
          0.64f)
        .clouds = 0.7f;
    sun(sized(add("Sea for a sleeve", {"sea", "large", "dawn"}, 0x30487a, 0xb090a0, 0xfad0a8, 0x284660), 3800,
              3800),
        0.4f, 0.54f, 0.04f);
    auto& aurora = add("Green night", {"night", "aurora", "green"}, 0x06121a, 0x10483e, 0x3a9a6a, 0x0a221e);
    aurora.stars = 1, aurora.clouds = 0.9f, aurora.horizon = 0.8f;
    sun(add("Copper swell", {"sea", "copper", "swell"}, 0x503028, 0xa86848, 0xe8b080, 0x4a2a20), 0.35f, 0.5f,
        0.03f)
        .swell = 2.2f;
    tower(add("Lighthouse on a blue day", {"lighthouse", "blue", "summer"}, 0x1e6cc0, 0x6cb0e8, 0xd4ecf4,
              0x126080),
          0.3f)
        .clouds = 0.5f;
    sized(add("Pale strand", {"shore", "pale", "square"}, 0xc4ccc8, 0xd8dad0, 0xf0eada, 0x98a8a0), 1200, 1200)
        .fog = 0.3f;
    sized(add("Dark water", {"sea", "dark", "square"}, 0x0c1218, 0x1a262e, 0x3a4a50, 0x081016), 1200, 1200)
        .swell = 2;
    return out;
}

} // namespace

std::vector<StockPicture> stockPhotos() {
    std::vector<StockPicture> out;
    for (const View& v : views()) {
        const auto number = int(out.size());
        out.push_back(stockPicture({SourceKind::Photo, v.title, v.tags}, number, ".jpg",
                                   [v, number] { return shoot(v, 1000 + 97 * uint32_t(number)); }));
    }
    return out;
}

} // namespace glyptos::demo
