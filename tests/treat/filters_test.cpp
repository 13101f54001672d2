// Gaussians of any width against direct convolution; exact distances; nothing beyond the regions that are
// asked for.
#include "support/register.h"
#include "treat/filters.h"
#include "treat/outlines/edge_distance.h"
#include "treat/vector_math.h"
#include "treat/whole.h"

#include <QRandomGenerator>

using namespace glyptos;

namespace {

/// Edges, a slope and noise, premultiplied, with holes.
Planes someArt(int w, int h) {
    Planes out({0, 0, w, h});
    QRandomGenerator chance(11);
    for (int y = 0; y < h; ++y)
        for (int x = 0; x < w; ++x) {
            const float noise = float(chance.generateDouble());
            const float alpha = (x / 40 + y / 50) % 5 == 0 ? 0.0f : (x > w / 2 ? 1.0f : 0.6f);
            out.row(3, y)[x] = alpha;
            out.row(0, y)[x] = alpha * ((x / 23) % 2 != 0 ? 0.9f : 0.1f);
            out.row(1, y)[x] = alpha * float(y) / float(h);
            out.row(2, y)[x] = alpha * noise;
        }
    return out;
}

/// In double, every sample within four sigma, the nearest pixel beyond the edge; row after column.
std::vector<double> direct(const Plane& in, double sigma) {
    const int w = in.area.w, h = in.area.h, reach = int(std::ceil(4 * sigma));
    std::vector<double> kernel, across(size_t(w) * size_t(h)), out(across.size());
    double sum = 0;
    for (int i = -reach; i <= reach; ++i)
        kernel.push_back(std::exp(-i * i / (2 * sigma * sigma))), sum += kernel.back();
    for (double& k : kernel) k /= sum;
    const auto at = [&](int x, int y) { return size_t(y) * size_t(w) + size_t(x); };
    for (int y = 0; y < h; ++y)
        for (int x = 0; x < w; ++x)
            for (int i = -reach; i <= reach; ++i)
                across[at(x, y)] +=
                    kernel[size_t(i + reach)] * double(in.row(y)[std::clamp(x + i, 0, w - 1)]);
    for (int y = 0; y < h; ++y)
        for (int x = 0; x < w; ++x)
            for (int i = -reach; i <= reach; ++i)
                out[at(x, y)] += kernel[size_t(i + reach)] * across[at(x, std::clamp(y + i, 0, h - 1))];
    return out;
}

} // namespace

class FiltersTest : public QObject {
    Q_OBJECT

  private Q_SLOTS:
    void aGaussianOfAnyWidth_data() {
        QTest::addColumn<double>("sigma");
        for (const double sigma : {0.3, 0.9, 2.0, 5.0, 5.99, 6.0, 9.0, 25.0, 47.0, 100.0})
            QTest::newRow(qPrintable(QString::number(sigma))) << sigma;
    }
    void aGaussianOfAnyWidth() {
        QFETCH(double, sigma);
        const Planes art = someArt(331, 257), soft = smoothedWhole(art, sigma);
        for (int c = 0; c < 4; ++c) {
            const auto wanted = direct(art.c[c], sigma);
            double error = 0;
            for (int y = 0; y < art.area.h; ++y)
                for (int x = 0; x < art.area.w; ++x) {
                    const double off = double(soft.row(c, y)[x]) - wanted[size_t(y) * 331 + size_t(x)];
                    error += off * off;
                }
            const double psnr = -10 * std::log10(error / (331 * 257) + 1e-12);
            QVERIFY2(psnr >= 50, qPrintable(QString("channel %1: %2 dB").arg(c).arg(psnr)));
        }
    }

    void partsAreThoseOfTheWhole() {
        const Planes art = someArt(300, 200), whole = smoothedWhole(art, 11);
        const WideGaussian how = wideGaussian(11);
        // Beyond the edge the nearest pixel, as for the whole: a part well inside needs none.
        const IntRect part{120, 80, 57, 33};
        Plane half = halved(art.c[0]);
        for (int level = 1; level < how.level; ++level) half = halved(half);
        const Plane alone = smoothed(half, how, part);
        for (int y = part.y; y < part.bottom(); ++y)
            for (int x = part.x; x < part.right(); ++x)
                QVERIFY(std::abs(alone.at(x, y) - whole.c[0].at(x, y)) < 1e-5f);
    }

    void distancesToADisc() {
        // Its cover, from 8 × 8 samples a pixel.
        constexpr int kSide = 120;
        constexpr double kRadius = 30.3, kMiddle = 59.7;
        Planes disc({0, 0, kSide, kSide});
        disc.clear();
        for (int y = 0; y < kSide; ++y)
            for (int x = 0; x < kSide; ++x) {
                int inside = 0;
                for (int s = 0; s < 64; ++s)
                    inside += std::hypot(x + (s % 8 + 0.5) / 8 - kMiddle, y + (s / 8 + 0.5) / 8 - kMiddle) <
                              kRadius;
                disc.row(3, y)[x] = float(inside) / 64;
            }
        const Plane away = edgeDistance(disc.c[3], 60);
        double worst = 0;
        for (int y = 0; y < kSide; ++y)
            for (int x = 0; x < kSide; ++x) {
                const double wanted = std::hypot(x + 0.5 - kMiddle, y + 0.5 - kMiddle) - kRadius;
                if (wanted > -25 && wanted < 40)
                    worst = std::max(worst, std::abs(double(away.row(y)[x]) - wanted));
            }
        QVERIFY2(worst < 0.15, qPrintable(QString::number(worst)));
    }

    void vectorFunctionsAreThoseOfTheLibrary() {
        QRandomGenerator chance(5);
        for (int i = 0; i < 20000; ++i) {
            const float x = float(std::exp(chance.generateDouble() * 20 - 14)),
                        t = float(chance.generateDouble() * 4 - 2);
            QVERIFY(std::abs(rows::log2(x) - std::log2(x)) < 2e-6f);
            QVERIFY(std::abs(rows::exp2(t) / std::exp2(t) - 1) < 1e-6f);
            QVERIFY(std::abs(rows::cubeRoot(x) / std::cbrt(x) - 1) < 2e-6f &&
                    std::abs(rows::cubeRoot(-x) + std::cbrt(x)) < 2e-6f * std::cbrt(x));
            QVERIFY(std::abs(rows::sineOf(t) - std::sin(t * 6.283185307f)) < 4e-6f);
            const float u = float(chance.generateDouble());
            QVERIFY(std::abs(rows::toEncoded(rows::toLinear(u)) - u) < 2e-6f);
            const float a = std::cos(u * 6.283185307f), b = std::sin(u * 6.283185307f);
            const float turn = rows::turnOf(b, a);
            QVERIFY(std::abs(turn - u) < 4e-6f || std::abs(std::abs(turn - u) - 1) < 4e-6f);
        }
        QVERIFY(rows::cubeRoot(0) == 0 && rows::toLinear(0) == 0 && rows::toEncoded(0) == 0);
    }

    void meansAlongWaysAreTheSameInCellsOfAnySize_data() {
        QTest::addColumn<QByteArray>("kind");
        QTest::addColumn<QByteArray>("figure");
        QTest::addColumn<double>("value");
        QTest::newRow("across") << QByteArray("angle-blur") << QByteArray("angle") << 0.0;
        QTest::newRow("down") << QByteArray("angle-blur") << QByteArray("angle") << 90.0;
        QTest::newRow("aslant") << QByteArray("angle-blur") << QByteArray("angle") << 151.0;
        QTest::newRow("turning") << QByteArray("turning-blur") << QByteArray("turn") << 20.0;
        QTest::newRow("turning far") << QByteArray("turning-blur") << QByteArray("turn") << 200.0;
        QTest::newRow("rushing") << QByteArray("rushing-blur") << QByteArray("amount") << 0.4;
        QTest::newRow("along a bow") << QByteArray("sweep-blur") << QByteArray("reach") << 90.0;
        QTest::newRow("all over") << QByteArray("sweep-blur") << QByteArray("reach") << 900.0;
    }
    /// What is read beyond a cell is just what its own ways need.
    void meansAlongWaysAreTheSameInCellsOfAnySize() {
        QFETCH(QByteArray, kind);
        QFETCH(QByteArray, figure);
        QFETCH(double, value);
        const Planes art = someArt(330, 270);
        const TreatmentKind& treatment = *treatmentKind(kind.constData());
        Figures figures(treatment.figures, 1);
        if (kind != "turning-blur" && kind != "rushing-blur") figures.set(treatment.find("length"), 70.0);
        figures.set(treatment.find(figure.constData()), value);
        const Place place{{}, {0, 0, 330, 270}, 1};
        const Planes whole = treatedWhole(treatment, figures, place, art, 400);
        float worst = 0, changed = 0;
        for (const int cell : {37, 128}) {
            const Planes parts = treatedWhole(treatment, figures, place, art, cell);
            for (int c = 0; c < 4; ++c)
                for (int y = 0; y < 270; ++y)
                    for (int x = 0; x < 330; ++x) {
                        worst = std::max(worst, std::abs(parts.row(c, y)[x] - whole.row(c, y)[x]));
                        changed = std::max(changed, std::abs(art.row(c, y)[x] - whole.row(c, y)[x]));
                    }
        }
        QVERIFY2(worst < 1e-4f && changed > 0.2f, qPrintable(QString::number(worst)));
    }
};

GLYPTOS_TEST(FiltersTest)
#include "filters_test.moc"
