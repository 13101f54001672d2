// Every blend mode against the W3C formulas in plain double arithmetic on straight colours.
#include "raster/composite.h"

#include "raster/buffer.h"

#include <QRandomGenerator>
#include <QtTest>
#include <cmath>

using namespace glyptos;

namespace {

// Error of float kernels against double: a few roundings of values up to 1.
constexpr double kTolerance = 2e-6;

/// W3C Compositing and Blending Level 1, section 10.1, straight colours.
double mixed(BlendMode mode, double cb, double cs) {
    switch (mode) {
    case BlendMode::Normal:
        return cs;
    case BlendMode::Multiply:
        return cb * cs;
    case BlendMode::Screen:
        return cb + cs - cb * cs;
    case BlendMode::Overlay:
        return cb <= 0.5 ? cs * (2 * cb) : cs + (2 * cb - 1) - cs * (2 * cb - 1);
    }
    return 0;
}

struct Pixel {
    double c[3], a; // straight
};

Pixel composited(BlendMode mode, const Pixel& b, const Pixel& s) {
    Pixel out{{}, s.a + b.a * (1 - s.a)};
    for (int i = 0; i < 3; ++i) {
        const double cs = (1 - b.a) * s.c[i] + b.a * mixed(mode, b.c[i], s.c[i]);
        const double premultiplied = s.a * cs + (1 - s.a) * b.a * b.c[i];
        out.c[i] = premultiplied; // compared premultiplied, so that nothing is divided by a small alpha
    }
    return out;
}

struct Row {
    explicit Row(size_t n)
        : values(4 * (roundUpLanes(n) + 16)) {
        for (float& v : values) v = std::nanf(""); // what lies behind the last pixel must not matter
        for (size_t i = 0; i < 4; ++i) planes.c[i] = values.data() + i * (roundUpLanes(n) + 16);
    }
    void set(size_t i, const Pixel& p) {
        for (size_t c = 0; c < 3; ++c) planes.c[c][i] = float(p.c[c] * p.a);
        planes.c[3][i] = float(p.a);
    }
    Buffer<float> values;
    RowPlanes planes;
};

} // namespace

class BlendTest : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void everyModeOverAGrid() {
        const double steps[] = {0, 0.1, 0.25, 0.5, 0.500001, 0.75, 1};
        std::vector<std::pair<Pixel, Pixel>> cases;
        for (double cb : steps)
            for (double cs : steps)
                for (double ab : {0.0, 0.3, 1.0})
                    for (double as : {0.0, 0.6, 1.0})
                        cases.push_back({{{cb, 1 - cb, 0.4}, ab}, {{cs, 0.9, 1 - cs}, as}});
        for (size_t m = 0; m < kBlendModeCount; ++m)
            for (const float opacity : {1.0f, 0.35f}) {
                Row backdrop(cases.size()), source(cases.size());
                for (size_t i = 0; i < cases.size(); ++i)
                    backdrop.set(i, cases[i].first), source.set(i, cases[i].second);
                blendRow(BlendMode(m), backdrop.planes, source.planes, opacity, cases.size());
                for (size_t i = 0; i < cases.size(); ++i) {
                    Pixel s = cases[i].second;
                    s.a *= opacity;
                    const Pixel want = composited(BlendMode(m), cases[i].first, s);
                    for (size_t c = 0; c < 3; ++c)
                        QVERIFY2(std::abs(backdrop.planes.c[c][i] - want.c[c]) < kTolerance,
                                 kBlendModeNames[m].id.data());
                    QVERIFY(std::abs(backdrop.planes.c[3][i] - want.a) < kTolerance);
                }
            }
    }

    void anyLength() {
        QRandomGenerator random(7);
        for (const size_t n : {1, 3, 7, 15, 16, 17, 100, 256}) {
            Row backdrop(n), source(n);
            std::vector<Pixel> b, s;
            for (size_t i = 0; i < n; ++i) {
                const auto any = [&] { return random.generateDouble(); };
                b.push_back({{any(), any(), any()}, any()});
                s.push_back({{any(), any(), any()}, any()});
                backdrop.set(i, b[i]), source.set(i, s[i]);
            }
            blendRow(BlendMode::Overlay, backdrop.planes, source.planes, 1, n);
            for (size_t i = 0; i < n; ++i)
                QVERIFY(std::abs(backdrop.planes.c[1][i] - composited(BlendMode::Overlay, b[i], s[i]).c[1]) <
                        kTolerance);
        }
    }

    void bytesThereAndBack() {
        for (const size_t n : {1, 5, 16, 33, 256}) {
            Buffer<uint8_t> rgba(n * 4);
            for (size_t i = 0; i < n * 4; ++i) rgba[i] = uint8_t(i * 37 + 11);
            Row row(n);
            unpackRow(rgba.data(), row.planes, n);
            QCOMPARE(row.planes.c[1][0], float(rgba[1]) / 255.0f);
            std::vector<uint8_t> out(n * 4 + 1, 0xee);
            packBgra8(row.planes, out.data(), n);
            for (size_t i = 0; i < n; ++i)
                QVERIFY(out[4 * i] == rgba[4 * i + 2] && out[4 * i + 1] == rgba[4 * i + 1] &&
                        out[4 * i + 2] == rgba[4 * i] && out[4 * i + 3] == rgba[4 * i + 3]);
            QCOMPARE(out[n * 4], uint8_t(0xee)); // nothing is written past the end
        }
    }

    void namesGoThereAndBack() {
        for (size_t i = 0; i < kBlendModeCount; ++i)
            QCOMPARE(blendModeFromId(kBlendModeNames[i].id), std::optional(BlendMode(i)));
        QVERIFY(!blendModeFromId("no such mode"));
    }
};

QTEST_GUILESS_MAIN(BlendTest)
#include "blend_test.moc"
