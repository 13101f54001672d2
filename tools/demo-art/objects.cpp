// The lighthouse, the rope, and the keeper.
#include "canvas.h"

#include "raster/noise.h"

#include <cmath>

namespace glyptos::demo {
namespace {

Path polygon(std::initializer_list<Vec2> points) {
    Path path;
    bool first = true;
    for (const Vec2& p : points) {
        if (first)
            path.moveTo(p);
        else
            path.lineTo(p);
        first = false;
    }
    return path;
}

/// Light on an upright round thing: u runs -1…1 across it, lit from the right.
float roundLight(float u) {
    return 0.34f + 0.66f * smooth(-1.1f, 0.75f, u) - 0.25f * smooth(0.8f, 1.0f, u);
}

} // namespace

DemoPicture lighthouse() {
    Canvas c(1000, 2400);
    const auto halfAt = [](float y) { return 0.155f + 0.125f * smooth(0.2f, 1.05f, y); }; // of the tower
    Path tower;
    tower.moveTo({0.5 - halfAt(0.27f), 0.27});
    for (int i = 1; i <= 40; ++i)
        tower.lineTo({0.5 - halfAt(0.27f + 0.73f * float(i) / 40), 0.27 + 0.73 * i / 40});
    for (int i = 40; i >= 0; --i)
        tower.lineTo({0.5 + halfAt(0.27f + 0.73f * float(i) / 40), 0.27 + 0.73 * i / 40});
    c.fill(tower, [&](float x, float y) {
        const float u = (x - 0.5f) / halfAt(y), curve = y + 0.012f * (1 - u * u);
        const bool red = (curve > 0.40f && curve < 0.545f) || (curve > 0.70f && curve < 0.845f);
        const float row = std::floor(curve * 58), course = std::abs(curve * 58 - row - 0.5f);
        const float joint = smooth(0.44f, 0.5f, course), wear = fractalNoise(x * 30, y * 60, 6, 401);
        const float streak =
            smooth(0.55f, 0.8f, fractalNoise(x * 60, y * 3, 4, 405)) * smooth(0.25f, 0.6f, wear);
        Ink paint = red ? mix(hex(0xc8452b), hex(0x9c2f20), wear) : mix(hex(0xf4ecd9), hex(0xd8cbb0), wear);
        paint = mix(paint, hex(0x7d4a2e), streak * 0.35f);
        paint = paint * (1 - 0.14f * joint);
        return Dot{paint * roundLight(u), 1};
    });
    for (const float y : {0.34f, 0.615f, 0.90f}) {
        Path window;
        window.addRect({0.47, y, 0.06, 0.028});
        c.fill(window, hex(0x13232c));
        Path sill;
        sill.addRect({0.46, y + 0.028, 0.08, 0.005});
        c.fill(sill, hex(0x8d8574));
    }
    // Gallery, lantern room and dome.
    c.fill(polygon({{0.285, 0.258}, {0.715, 0.258}, {0.675, 0.282}, {0.325, 0.282}}), [](float x, float) {
        return Dot{hex(0x33454c) * (0.5f + roundLight((x - 0.5f) / 0.22f)), 1};
    });
    for (int i = 0; i <= 16; ++i) {
        Path post;
        post.addRect({0.29 + 0.42 * i / 16 - 0.002, 0.218, 0.004, 0.042});
        c.fill(post, hex(0x1b2a30));
    }
    for (const double y : {0.217, 0.237}) {
        Path rail;
        rail.addRect({0.285, y, 0.43, 0.0035});
        c.fill(rail, hex(0x1b2a30));
    }
    Path room;
    room.addRect({0.375, 0.135, 0.25, 0.123});
    c.fill(room, [](float x, float y) {
        const float d = std::hypot((x - 0.5f) * 1.0f, (y - 0.19f) * 2.4f);
        return Dot{mix(hex(0xfff6d2), hex(0xc9822c), smooth(0.0f, 0.16f, d)), 1};
    });
    for (int i = 0; i <= 5; ++i) {
        Path bar;
        bar.addRect({0.375 + 0.05 * i - 0.004, 0.135, 0.008, 0.123});
        c.fill(bar, hex(0x1b2a30));
    }
    Path dome;
    dome.moveTo({0.345, 0.137});
    dome.cubicTo({0.36, 0.085}, {0.44, 0.062}, {0.5, 0.058});
    dome.cubicTo({0.56, 0.062}, {0.64, 0.085}, {0.655, 0.137});
    c.fill(dome, [](float x, float y) {
        return Dot{mix(hex(0xb63d27), hex(0x7e2619), fractalNoise(x * 40, y * 40, 4, 411)) *
                       (0.35f + 0.8f * roundLight((x - 0.5f) / 0.16f)),
                   1};
    });
    Path vane;
    vane.addRect({0.494, 0.018, 0.012, 0.044});
    c.fill(vane, hex(0x1b2a30));
    c.grain(0.035f, 12);
    return {"lighthouse.png", c.png()};
}

DemoPicture rope() {
    Canvas c(2400, 420);
    Path body;
    body.addRect({0, 0.22, 1, 0.56});
    c.fill(body, [](float x, float y) {
        const float v = (y - 0.5f) / 0.28f, turn = x * 46 + v * 0.9f,
                    strand = std::abs(turn - std::floor(turn) - 0.5f) * 2;
        const float fibre = fractalNoise(x * 320 + v * 9, y * 46 - x * 130, 4, 501);
        const float light = (1 - 0.75f * v * v) * (0.35f + 0.65f * smooth(1.0f, 0.35f, strand));
        return Dot{mix(hex(0x7b5f3a), hex(0xe2c893), fibre) * light,
                   smooth(1.02f, 0.9f, std::abs(v) + 0.1f * strand)};
    });
    return {"rope.png", c.png()};
}

DemoPicture keeper() {
    Canvas c(2400, 2400);
    // A lamp-lit room: warm light from the left, dark to the right.
    c.shade([](float x, float y, const Dot&) {
        const float d = std::hypot(x - 0.08f, y - 0.42f), mist = fractalNoise(x * 3, y * 3, 6, 601);
        return Dot{mix(mix(hex(0xf4c884), hex(0xa8592f), smooth(0.0f, 0.5f, d)), hex(0x14242c),
                       smooth(0.25f, 1.05f, d + (mist - 0.5f) * 0.25f)),
                   1};
    });
    // Coat.
    Path coat;
    coat.moveTo({0.24, 1});
    coat.cubicTo({0.26, 0.86}, {0.36, 0.8}, {0.46, 0.77});
    coat.cubicTo({0.56, 0.74}, {0.66, 0.74}, {0.74, 0.78});
    coat.cubicTo({0.88, 0.83}, {0.94, 0.92}, {0.96, 1});
    const auto cloth = [](float x, float y) {
        const float weave = fractalNoise(x * 160, y * 160, 3, 611);
        return Dot{mix(hex(0x1b3038), hex(0x0a161b), smooth(0.3f, 0.8f, x)) * (0.8f + 0.4f * weave), 1};
    };
    c.fill(coat, cloth);
    // Hair behind the head, blown to the right.
    const auto lock = [&](int i, double spread, const Ink& tone, uint32_t seed) {
        const double a = hashNoise(i, 1, seed), b = hashNoise(i, 2, seed), k = hashNoise(i, 3, seed);
        const Vec2 root{0.5 + 0.14 * a, 0.24 + 0.3 * b};
        const Vec2 tip{0.78 + spread * (0.3 * k - 0.05), root.y - 0.16 + 0.34 * b + 0.12 * (k - 0.5)};
        const Path path =
            stroke({root, root + Vec2{0.1, -0.08 + 0.05 * k}, tip + Vec2{-0.14, 0.1 * (k - 0.3)}, tip},
                   {0.0006, 0.0042, 0.0004});
        c.fill(path, mix(tone, hex(0xe8d9bd), float(k) * 0.5f), 0.85f);
    };
    for (int i = 0; i < 260; ++i) lock(i, 1.0, hex(0x4a3a2e), 71);
    // Profile, looking left into the light.
    Path face;
    face.moveTo({0.62, 0.2});
    face.cubicTo({0.5, 0.17}, {0.4, 0.22}, {0.375, 0.32});
    face.cubicTo({0.37, 0.36}, {0.382, 0.375}, {0.372, 0.395});
    face.cubicTo({0.35, 0.43}, {0.325, 0.465}, {0.318, 0.485});
    face.cubicTo({0.316, 0.5}, {0.345, 0.505}, {0.352, 0.515});
    face.cubicTo({0.338, 0.53}, {0.335, 0.545}, {0.348, 0.552});
    face.cubicTo({0.338, 0.56}, {0.338, 0.578}, {0.352, 0.59});
    face.cubicTo({0.352, 0.63}, {0.36, 0.67}, {0.41, 0.685});
    face.cubicTo({0.45, 0.69}, {0.49, 0.68}, {0.52, 0.7});
    face.lineTo({0.5, 0.82});
    face.lineTo({0.72, 0.82});
    face.cubicTo({0.7, 0.7}, {0.72, 0.6}, {0.74, 0.48});
    face.cubicTo({0.76, 0.32}, {0.72, 0.22}, {0.62, 0.2});
    c.fill(face, [](float x, float y) {
        const float line = 0.335f + 0.05f * std::abs(y - 0.5f) / 0.2f;
        const float skin = fractalNoise(x * 90, y * 90, 5, 621), lit = smooth(0.2f, 0.0f, x - line);
        Ink tone = mix(hex(0x3a241b), hex(0xf2b67c), lit);
        tone = mix(tone, hex(0x1a1412), smooth(0.46f, 0.7f, x) * 0.8f);
        return Dot{tone * (0.85f + 0.3f * skin), 1};
    });
    // Eye, brow, the hollow of the cheek.
    c.fill(stroke({{0.378, 0.424}, {0.392, 0.414}, {0.41, 0.416}, {0.425, 0.428}}, {0.004, 0.009, 0.002}),
           hex(0x1a0f0b), 0.95f);
    c.fill(stroke({{0.372, 0.394}, {0.395, 0.376}, {0.425, 0.378}, {0.452, 0.398}}, {0.004, 0.017, 0.003}),
           hex(0x5c4a3c), 0.95f);
    c.fill(stroke({{0.4, 0.475}, {0.425, 0.5}, {0.43, 0.53}, {0.415, 0.56}}, {0.002, 0.008, 0.002}),
           hex(0x2a1812), 0.4f);
    c.fill(stroke({{0.335, 0.49}, {0.345, 0.48}, {0.358, 0.485}, {0.366, 0.495}}, {0.001, 0.005, 0.001}),
           hex(0x2a1812), 0.55f);
    // Beard and hair over it, strand by strand.
    for (int i = 0; i < 900; ++i) {
        const double a = hashNoise(i, 1, 81), b = hashNoise(i, 2, 81), k = hashNoise(i, 3, 81);
        const Vec2 root{0.345 + 0.17 * a, 0.548 + 0.055 * b + 0.1 * a * a};
        const Vec2 tip = root + Vec2{-0.012 + 0.08 * k + 0.06 * a, 0.1 + 0.11 * b};
        const float lit = smooth(0.5f, 0.33f, float(root.x));
        c.fill(stroke({root, root + Vec2{-0.014, 0.04}, tip + Vec2{-0.03, -0.03}, tip},
                      {0.0008, 0.0028, 0.0003}),
               mix(hex(0x57493d), hex(0xf6dcae), lit * float(0.4 + 0.6 * k)), 0.8f);
    }
    for (int i = 0; i < 420; ++i) lock(i, 0.9, hex(0x77665a), 91);
    // Cap.
    Path cap;
    cap.moveTo({0.345, 0.318});
    cap.cubicTo({0.35, 0.2}, {0.46, 0.13}, {0.58, 0.135});
    cap.cubicTo({0.7, 0.14}, {0.76, 0.21}, {0.755, 0.3});
    cap.cubicTo({0.62, 0.27}, {0.46, 0.28}, {0.345, 0.318});
    c.fill(cap, [](float x, float y) {
        const float rib = 0.5f + 0.5f * std::sin(x * 190 + y * 30);
        return Dot{mix(hex(0x4f6f7a), hex(0x10202a), smooth(0.36f, 0.66f, x)) *
                       (0.75f + 0.25f * rib + 0.2f * fractalNoise(x * 120, y * 120, 3, 631)),
                   1};
    });
    c.fill(stroke({{0.335, 0.33}, {0.43, 0.285}, {0.62, 0.27}, {0.765, 0.315}}, {0.05, 0.056, 0.05}),
           [](float x, float y) {
               const float rib = 0.5f + 0.5f * std::sin(x * 260 + y * 90);
               return Dot{mix(hex(0x6a8791), hex(0x14262f), smooth(0.36f, 0.6f, x)) * (0.7f + 0.3f * rib), 1};
           });
    for (int i = 0; i < 70; ++i) {
        const double a = hashNoise(i, 4, 95), k = hashNoise(i, 5, 95);
        const Vec2 root{0.6 + 0.14 * a, 0.33 + 0.08 * k}, tip{0.9 + 0.12 * k, 0.2 + 0.36 * a};
        c.fill(stroke({root, root + Vec2{0.1, -0.03}, tip + Vec2{-0.1, 0.08 * (k - 0.5)}, tip},
                      {0.0005, 0.0026, 0.0002}),
               mix(hex(0x8b7a68), hex(0xf0d9ae), float(k)), 0.8f);
    }
    c.grain(0.05f, 14);
    return {"keeper.jpg", c.jpeg(91)};
}

} // namespace glyptos::demo
