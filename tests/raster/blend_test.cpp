// Every blend mode against the W3C formulas in plain double arithmetic on straight colours.
#include "raster/composite.h"

#include "raster/buffer.h"
#include "support/blend_reference.h"
#include "support/register.h"

#include <QRandomGenerator>
#include <algorithm>
#include <cmath>

using namespace glyptos;
using test::composited;

namespace {

// Error of float kernels against double: a few roundings of values up to 1.
constexpr double kTolerance = 2e-6;
// The same where a formula divides or takes a root, which enlarges the error of small figures: a tenth of a
// byte.
constexpr double kDividing = 0.1 / 255;

double toleranceOf(BlendMode mode) {
    switch (mode) {
    case BlendMode::ColourDodge:
    case BlendMode::ColourBurn:
    case BlendMode::SoftLight:
    case BlendMode::Flare:
    case BlendMode::Divide:
    case BlendMode::Hue:
    case BlendMode::Saturation:
    case BlendMode::Colour:
    case BlendMode::Luminosity:
        return kDividing;
    default:
        return kTolerance;
    }
}

struct Row {
    explicit Row(size_t n)
        : values(4 * (roundUpLanes(n) + 16)) {
        for (float& v : values) v = std::nanf(""); // what lies behind the last pixel must not matter
        for (size_t i = 0; i < 4; ++i) planes.c[i] = values.data() + i * (roundUpLanes(n) + 16);
    }
    void set(size_t i, const test::StraightPixel& p) {
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
        std::vector<std::pair<test::StraightPixel, test::StraightPixel>> cases;
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
                    test::StraightPixel s = cases[i].second;
                    s.a *= opacity;
                    const test::StraightPixel want = composited(BlendMode(m), cases[i].first, s);
                    for (size_t c = 0; c < 3; ++c)
                        QVERIFY2(std::abs(backdrop.planes.c[c][i] - want.c[c]) < toleranceOf(BlendMode(m)),
                                 kBlendModes[m].id.data());
                    QVERIFY2(std::abs(backdrop.planes.c[3][i] - want.a) < kTolerance,
                             kBlendModes[m].id.data());
                }
            }
    }

    void emptySourcesKeepTheBackdropWhereTheySaySo() {
        for (size_t m = 0; m < kBlendModeCount; ++m) {
            Row backdrop(1), source(1);
            const test::StraightPixel b{{0.2, 0.5, 0.9}, 0.8};
            backdrop.set(0, b), source.set(0, {{0.3, 0.3, 0.3}, 0});
            blendRow(BlendMode(m), backdrop.planes, source.planes, 1, 1);
            const bool kept = std::abs(backdrop.planes.c[1][0] - 0.4) < kTolerance &&
                              std::abs(backdrop.planes.c[3][0] - 0.8) < kTolerance;
            QVERIFY2(kept == kBlendModes[m].keepsBackdrop, kBlendModes[m].id.data());
        }
    }

    void anyLength() {
        QRandomGenerator random(7);
        for (const size_t n : {1, 3, 7, 15, 16, 17, 100, 256}) {
            Row backdrop(n), source(n);
            std::vector<test::StraightPixel> b, s;
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

    void straightBytesThereAndBack() {
        for (const size_t n : {1, 5, 16, 33, 256}) {
            Buffer<uint8_t> rgba(n * 4);
            for (size_t i = 0; i < n * 4; ++i)
                rgba[i] = i % 4 == 3 ? uint8_t(i * 37 | 1) : uint8_t(i * 37 + 11);
            Row row(n);
            unpackRow(rgba.data(), row.planes, n);
            QCOMPARE(row.planes.c[1][0], float(rgba[1]) / 255.0f * float(rgba[3]) / 255.0f);
            std::vector<uint8_t> straight(n * 4 + 1, 0xee);
            packStraightRgba8(row.planes, straight.data(), n);
            QVERIFY(std::equal(rgba.begin(), rgba.end(), straight.begin()));
            QCOMPARE(straight[n * 4], uint8_t(0xee));
            // From anywhere in a row on, as parts of a picture are packed.
            for (size_t first = 1; first < std::min(n, size_t(9)); ++first) {
                const RowPlanes rest{{row.planes.c[0] + first, row.planes.c[1] + first,
                                      row.planes.c[2] + first, row.planes.c[3] + first}};
                packStraightRgba8(rest, straight.data(), n - first);
                QVERIFY(std::equal(rgba.begin() + 4 * first, rgba.end(), straight.begin()));
            }
            std::vector<uint8_t> out(n * 4 + 1, 0xee);
            packBgra8(row.planes, out.data(), n);
            for (size_t i = 0; i < n; ++i)
                for (const auto& [to, from] : {std::pair{0, 2}, {1, 1}, {2, 0}})
                    QCOMPARE(int(out[4 * i + size_t(to)]),
                             int(std::lround(rgba[4 * i + size_t(from)] * rgba[4 * i + 3] / 255.0)));
            QCOMPARE(out[n * 4], uint8_t(0xee)); // nothing is written past the end
        }
    }

    void namesGoThereAndBack() {
        for (size_t i = 0; i < kBlendModeCount; ++i)
            QCOMPARE(blendModeFromId(kBlendModes[i].id), std::optional(BlendMode(i)));
        QVERIFY(!blendModeFromId("no such mode"));
    }
};

GLYPTOS_TEST(BlendTest)
#include "blend_test.moc"
