#include "raster/resample.h"

#include "support/pictures.h"

#include "raster/noise.h"
#include "support/register.h"

using namespace glyptos;
using test::pictureOf;

namespace {

constexpr int kStep16 = 257; // one step of 8 bits, in 16

Tile sampled(const Pyramid& source, const Affine& map, int w, int h, int x = 0, int y = 0) {
    Tile tile(w, h);
    resampleTile(source, map, x, y, tile);
    return tile;
}

Picture cloudy(int side) {
    return pictureOf(side, side, [&](int x, int y) {
        const auto v = [&](uint32_t seed) {
            return uint8_t(40 + 170 * fractalNoise(float(x) / 40, float(y) / 40, 5, seed));
        };
        return std::array<uint8_t, 4>{v(1), v(2), v(3), 255};
    });
}

/// Keys' cubic, written out once more by the paper.
double keys(double x) {
    x = std::abs(x);
    const double a = -0.5;
    if (x < 1) return (a + 2) * x * x * x - (a + 3) * x * x + 1;
    if (x < 2) return a * x * x * x - 5 * a * x * x + 8 * a * x - 4 * a;
    return 0;
}

} // namespace

class ResampleTest : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void wholePixelsStayExact() {
        const Pyramid p(cloudy(37));
        const Tile tile = sampled(p, Affine::translation(-5, -3), 20, 20);
        for (int y = 0; y < 20; ++y)
            for (int x = 0; x < 20; ++x)
                for (int c = 0; c < 4; ++c)
                    QCOMPARE(int(tile.row(c, y)[x]),
                             p.level(0).row<uint8_t>(y + 3)[4 * (x + 5) + c] * kStep16);
    }

    void enlargedAgainstTheFormula() {
        const Pyramid p(cloudy(24));
        const double k = 3.7;
        const Tile tile = sampled(p, Affine::scaling(k, k), 80, 80);
        for (int y = 8; y < 80; y += 7)
            for (int x = 8; x < 80; x += 5) {
                const double u = (x + 0.5) / k - 0.5, v = (y + 0.5) / k - 0.5;
                double sum = 0;
                for (int j = int(std::floor(v)) - 1; j <= int(std::floor(v)) + 2; ++j)
                    for (int i = int(std::floor(u)) - 1; i <= int(std::floor(u)) + 2; ++i)
                        sum += keys(u - i) * keys(v - j) *
                               p.level(0).row<uint8_t>(std::clamp(j, 0, 23))[4 * std::clamp(i, 0, 23)];
                QVERIFY(std::abs(tile.row(0, y)[x] / 257.0 - std::clamp(sum, 0.0, 255.0)) <
                        0.02); // of 255; float weights
            }
    }

    void turnedAgreesWithUpright() {
        // A quarter turn goes through the other code path and must give the same pixels, turned.
        const Pyramid p(cloudy(64));
        const Tile upright = sampled(p, Affine::scaling(0.8, 0.8), 40, 40);
        const Tile turned =
            sampled(p, Affine::translation(40, 0) * Affine::rotation(90) * Affine::scaling(0.8, 0.8), 40, 40);
        for (int y = 0; y < 40; ++y)
            for (int x = 0; x < 40; ++x)
                QVERIFY(std::abs(int(upright.row(1, y)[x]) - int(turned.row(1, x)[39 - y])) <
                        40); // of 65535; tabled kernel
    }

    void smallAgreesWithScaledDownLarge() {
        // What is rendered small equals what is rendered large and averaged, within 4/255 at worst and 1/255
        // on average.
        const Pyramid p(cloudy(512));
        for (const double k : {0.5, 0.31, 0.125}) {
            const int n = int(512 * k);
            const Tile small = sampled(p, Affine::scaling(k, k), std::min(n, 256), std::min(n, 256));
            double worst = 0, sum = 0;
            int count = 0;
            for (int y = 4; y < small.height - 4; ++y)
                for (int x = 4; x < small.width - 4; ++x) {
                    // The mean over the pixel's exact area, cut pixels by their share.
                    double mean = 0, weight = 0;
                    for (int j = int(y / k); j < (y + 1) / k; ++j)
                        for (int i = int(x / k); i < (x + 1) / k; ++i) {
                            const double w =
                                std::min<double>(i + 1, (x + 1) / k) - std::max<double>(i, x / k);
                            const double h =
                                std::min<double>(j + 1, (y + 1) / k) - std::max<double>(j, y / k);
                            mean += w * h * p.level(0).row<uint8_t>(j)[4 * i], weight += w * h;
                        }
                    const double off = std::abs(small.row(0, y)[x] / 257.0 - mean / weight);
                    worst = std::max(worst, off), sum += off, ++count;
                }
            QVERIFY2(worst < 4, qPrintable(QString::number(worst)));
            QVERIFY2(sum / count < 1, qPrintable(QString::number(sum / count)));
        }
    }

    void fineStripesDoNotAlias() {
        // Stripes finer than the result's pixels become grey, not bands.
        const Pyramid p(pictureOf(600, 600, [](int x, int) {
            return std::array<uint8_t, 4>{uint8_t(x % 2 ? 255 : 0), 0, 0, 255};
        }));
        const Tile tile = sampled(p, Affine::scaling(0.31, 0.31), 180, 180);
        for (int x = 4; x < 176; ++x) QVERIFY(std::abs(tile.row(0, 90)[x] / 257.0 - 127.5) < 6);
    }

    void flatColourStaysFlat() {
        const Pyramid p(pictureOf(33, 17, [](int, int) {
            return std::array<uint8_t, 4>{10, 100, 200, 255};
        }));
        for (const Affine& m : {Affine::scaling(2.3, 0.4), Affine::rotation(33) * Affine::scaling(5, 5),
                                Affine::scaling(-1.5, 1.5)}) {
            const Tile tile = sampled(p, m, 30, 30, -10, -10);
            for (int y = 0; y < 30; ++y)
                for (int x = 0; x < 30; ++x) QVERIFY(std::abs(tile.row(1, y)[x] / 257.0 - 100) < 0.01);
        }
    }

    void extremeMapsStayInRange() {
        // Squeezed, stretched and tiny beyond all reason, upright and turned: a flat colour stays that
        // colour.
        const Pyramid p(pictureOf(600, 400, [](int, int) {
            return std::array<uint8_t, 4>{200, 100, 50, 255};
        }));
        for (const double k : {1e-12, 1e-3, 0.03, 40.0, 1e7})
            for (const double squeeze : {1.0, 0.01, 1e-6})
                for (const double turn : {0.0, 33.0}) {
                    const Tile t = sampled(p,
                                           Affine::translation(3, 4) * Affine::rotation(turn) *
                                               Affine::scaling(k, k * squeeze),
                                           3, 3);
                    for (int y = 0; y < 3; ++y)
                        for (int x = 0; x < 3; ++x) QVERIFY(std::abs(t.row(0, y)[x] / 257.0 - 200) < 0.05);
                }
    }

    void tilesFarOutsideAreSafe() {
        const Pyramid p(cloudy(16));
        for (const int at : {-5000, 5000}) {
            const Tile tile = sampled(p, Affine::scaling(0.9, 0.9), 64, 64, at, at);
            const int edge = at < 0 ? 0 : 15;
            QVERIFY(std::abs(tile.row(0, 32)[32] - p.level(0).row<uint8_t>(edge)[4 * edge] * kStep16) < 300);
        }
    }

    void levels() {
        QCOMPARE(levelFor(1, 10), 0);
        QCOMPARE(levelFor(0.51, 10), 0);
        QCOMPARE(levelFor(0.5, 10), 1);
        QCOMPARE(levelFor(0.1, 10), 3);
        QCOMPARE(levelFor(1e-9, 4), 3);
        const Pyramid p(cloudy(37));
        QCOMPARE(p.level(1).width, 19);
        QCOMPARE(p.level(p.levels() - 1).width, 1);
    }
};

GLYPTOS_TEST(ResampleTest)
#include "resample_test.moc"
