// Pictures for tests of what is tilted, bent and kneaded, and what is seen of them.
#pragma once

#include "raster/warp/remap.h"
#include "support/pictures.h"

#include <QTest>
#include <cmath>
#include <random>

namespace glyptos::test {

inline constexpr int kWide = 480, kHigh = 360;
inline constexpr Rect kBox{0, 0, kWide, kHigh};

/// Smooth colours, told for any place, 0…255.
inline std::array<double, 3> smoothAt(double x, double y) {
    return {127 + 100 * std::sin(x / 37), 127 + 100 * std::cos(y / 29), 127 + 90 * std::sin((x + y) / 53)};
}

inline Picture smoothPicture() {
    return pictureOf(kWide, kHigh, [](int x, int y) {
        const auto c = smoothAt(x + 0.5, y + 0.5);
        return std::array<uint8_t, 4>{uint8_t(std::lround(c[0])), uint8_t(std::lround(c[1])),
                                      uint8_t(std::lround(c[2])), 255};
    });
}

/// Noise of every alpha: nothing that a filter could get right by luck.
inline Picture noise(int width, int height, bool opaque) {
    std::mt19937 random(5);
    return pictureOf(width, height, [&](int, int) {
        const auto v = [&] { return uint8_t(random()); };
        return std::array<uint8_t, 4>{v(), v(), v(), opaque ? uint8_t(255) : v()};
    });
}

/// Worst and mean distance of opaque pixels from smoothAt(truth(x, y)); at least `least` of them are there.
inline void compare(const Picture& out, const std::function<std::optional<Vec2>(Vec2)>& truth, int least) {
    double worst = 0, sum = 0;
    int count = 0;
    for (int y = 0; y < out.height; ++y)
        for (int x = 0; x < out.width; ++x) {
            const auto p = truth({x + 0.5, y + 0.5});
            const auto there = pixel(out, x, y);
            if (!p || !kBox.grown(-3).contains(*p)) {
                if (!p || !kBox.grown(3).contains(*p)) QCOMPARE(there[3], 0);
                continue;
            }
            QCOMPARE(there[3], 255);
            const auto c = smoothAt(p->x, p->y);
            for (size_t i = 0; i < 3; ++i) {
                worst = std::max(worst, std::abs(c[i] - there[i]));
                sum += std::abs(c[i] - there[i]), ++count;
            }
        }
    QVERIFY2(count / 3 >= least, qPrintable(QString::number(count)));
    qInfo("off by %.2f at worst, %.2f on average", worst, sum / count);
    QVERIFY(worst <= 2);
    QVERIFY(sum / count <= 0.3);
}

inline double psnr(const Picture& a, const Picture& b) {
    double sum = 0;
    for (int y = 0; y < a.height; ++y)
        for (int x = 0; x < a.width; ++x)
            for (size_t c = 0; c < 3; ++c) {
                const double d = pixel(a, x, y)[c] - pixel(b, x, y)[c];
                sum += d * d;
            }
    return 10 * std::log10(255 * 255 / std::max(sum / (3.0 * a.width * a.height), 1e-9));
}

inline Mapping kneaded(const KneadField& field) {
    return Mapping(KneadStage{std::make_shared<const KneadField>(field), kBox});
}

inline KneadTip tip(KneadWay way, double radius, double strength = 1) {
    KneadTip out;
    out.way = way;
    out.radius = radius / kWide;
    out.strength = strength;
    out.height = double(kHigh) / kWide;
    out.holdEdges = false;
    return out;
}

/// A straight stroke told in `moves` moves, px.
inline KneadField stroke(const KneadField& before, const KneadTip& how, Vec2 from, Vec2 to, int moves) {
    KneadStroke out(before, how);
    for (int i = 0; i <= moves; ++i) out.moveTo((from + (to - from) * (double(i) / moves)) * (1.0 / kWide));
    out.finish();
    return out.field();
}

/// Where what is seen at p was, px.
inline Vec2 sourceOf(const KneadField& field, Vec2 p) {
    const double step = double(kWide) / field.across;
    return p + field.shiftAt(p * (1 / step)) * step;
}

} // namespace glyptos::test
