// Every blend mode against the W3C formulas in plain double arithmetic on straight colours.
#include "raster/composite.h"

#include "raster/buffer.h"

#include <QRandomGenerator>
#include <QtTest>
#include <algorithm>
#include <array>
#include <cmath>

using namespace glyptos;

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

double burn(double cb, double cs) {
    return cb >= 1 ? 1 : cs <= 0 ? 0 : 1 - std::min(1.0, (1 - cb) / cs);
}
double dodge(double cb, double cs) {
    return cb <= 0 ? 0 : cs >= 1 ? 1 : std::min(1.0, cb / (1 - cs));
}
double hardLight(double cb, double cs) {
    return cs <= 0.5 ? cb * 2 * cs : cb + (2 * cs - 1) - cb * (2 * cs - 1);
}
double softLight(double cb, double cs) {
    if (cs <= 0.5) return cb - (1 - 2 * cs) * cb * (1 - cb);
    const double g = cb <= 0.25 ? ((16 * cb - 12) * cb + 4) * cb : std::sqrt(cb);
    return cb + (2 * cs - 1) * (g - cb);
}

/// W3C Compositing and Blending Level 1, section 10.1, straight colours; and the four modes of our own.
double mixed(BlendMode mode, double cb, double cs) {
    switch (mode) {
    case BlendMode::Multiply:
        return cb * cs;
    case BlendMode::Screen:
        return cb + cs - cb * cs;
    case BlendMode::Overlay:
        return hardLight(cs, cb);
    case BlendMode::Darken:
        return std::min(cb, cs);
    case BlendMode::Lighten:
        return std::max(cb, cs);
    case BlendMode::ColourDodge:
        return dodge(cb, cs);
    case BlendMode::ColourBurn:
        return burn(cb, cs);
    case BlendMode::HardLight:
        return hardLight(cb, cs);
    case BlendMode::SoftLight:
        return softLight(cb, cs);
    case BlendMode::Difference:
        return std::abs(cb - cs);
    case BlendMode::Exclusion:
        return cb + cs - 2 * cb * cs;
    case BlendMode::Etch:
        return std::max(0.0, cb + cs - 1);
    case BlendMode::Push:
        return std::clamp(cb + 2 * cs - 1, 0.0, 1.0);
    case BlendMode::Flare:
        return cs <= 0.5 ? burn(cb, 2 * cs) : dodge(cb, 2 * cs - 1);
    case BlendMode::Divide:
        return cb <= 0 ? 0 : cs <= 0 ? 1 : std::min(1.0, cb / cs);
    default:
        return cs;
    }
}

using Three = std::array<double, 3>;

double lum(const Three& c) {
    return 0.3 * c[0] + 0.59 * c[1] + 0.11 * c[2];
}
double sat(const Three& c) {
    return *std::max_element(c.begin(), c.end()) - *std::min_element(c.begin(), c.end());
}

/// Section 10.2, as its pseudo-code says.
Three setLum(Three c, double l) {
    const double d = l - lum(c);
    for (double& v : c) v += d;
    const double L = lum(c), n = *std::min_element(c.begin(), c.end()),
                 x = *std::max_element(c.begin(), c.end());
    if (n < 0)
        for (double& v : c) v = L + (v - L) * L / (L - n);
    if (x > 1)
        for (double& v : c) v = L + (v - L) * (1 - L) / (x - L);
    return c;
}
Three setSat(Three c, double s) {
    std::array<size_t, 3> order{0, 1, 2};
    std::sort(order.begin(), order.end(), [&](size_t a, size_t b) { return c[a] < c[b]; });
    double &low = c[order[0]], &mid = c[order[1]], &high = c[order[2]];
    if (high > low) {
        mid = (mid - low) * s / (high - low);
        high = s;
    } else {
        mid = high = 0;
    }
    low = 0;
    return c;
}

Three mixedColour(BlendMode mode, const Three& cb, const Three& cs) {
    switch (mode) {
    case BlendMode::Hue:
        return setLum(setSat(cs, sat(cb)), lum(cb));
    case BlendMode::Saturation:
        return setLum(setSat(cb, sat(cs)), lum(cb));
    case BlendMode::Colour:
        return setLum(cs, lum(cb));
    case BlendMode::Luminosity:
        return setLum(cb, lum(cs));
    default:
        return {mixed(mode, cb[0], cs[0]), mixed(mode, cb[1], cs[1]), mixed(mode, cb[2], cs[2])};
    }
}

struct Pixel {
    Three c;
    double a; // straight
};

/// Shares of source and backdrop of Porter and Duff's operators, section 9.1.
std::optional<std::pair<double, double>> shares(BlendMode mode, double as, double ab) {
    switch (mode) {
    case BlendMode::DestinationIn:
        return std::pair{0.0, as};
    case BlendMode::DestinationOut:
        return std::pair{0.0, 1 - as};
    case BlendMode::SourceAtop:
        return std::pair{ab, 1 - as};
    case BlendMode::DestinationAtop:
        return std::pair{1 - ab, as};
    default:
        return std::nullopt;
    }
}

/// Compared premultiplied, so that nothing is divided by a small alpha.
Pixel composited(BlendMode mode, const Pixel& b, const Pixel& s) {
    Pixel out{};
    if (const auto share = shares(mode, s.a, b.a)) {
        out.a = s.a * share->first + b.a * share->second;
        for (size_t i = 0; i < 3; ++i) out.c[i] = s.a * s.c[i] * share->first + b.a * b.c[i] * share->second;
        return out;
    }
    if (mode == BlendMode::Plus) {
        out.a = std::min(1.0, s.a + b.a);
        for (size_t i = 0; i < 3; ++i) out.c[i] = std::min(1.0, s.a * s.c[i] + b.a * b.c[i]);
        return out;
    }
    out.a = s.a + b.a * (1 - s.a);
    const Three B = mixedColour(mode, b.c, s.c);
    for (size_t i = 0; i < 3; ++i) {
        const double cs = (1 - b.a) * s.c[i] + b.a * B[i];
        out.c[i] = s.a * cs + (1 - s.a) * b.a * b.c[i];
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
            const Pixel b{{0.2, 0.5, 0.9}, 0.8};
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
            QCOMPARE(blendModeFromId(kBlendModes[i].id), std::optional(BlendMode(i)));
        QVERIFY(!blendModeFromId("no such mode"));
    }
};

QTEST_GUILESS_MAIN(BlendTest)
#include "blend_test.moc"
