// Linear light, soft edges and outlines with a width, against plain formulas.
#include "raster/blur.h"
#include "raster/light.h"
#include "raster/stroke.h"
#include "support/register.h"

using namespace glyptos;

namespace {

double decoded(double v) {
    return v <= 0.04045 ? v / 12.92 : std::pow((v + 0.055) / 1.055, 2.4);
}

double distanceTo(Vec2 p, Vec2 a, Vec2 b) {
    const Vec2 line = b - a, way = p - a;
    const double t =
        std::clamp((way.x * line.x + way.y * line.y) / (line.x * line.x + line.y * line.y), 0.0, 1.0);
    return (way - line * t).length();
}

} // namespace

class LightTest : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void thereAndBackAgain() {
        constexpr size_t n = 1001;
        std::vector<Buffer<float>> planes;
        for (int c = 0; c < 4; ++c) planes.emplace_back(roundUpLanes(n));
        const RowPlanes row{{planes[0].data(), planes[1].data(), planes[2].data(), planes[3].data()}};
        for (const double alpha : {1.0, 0.5, 0.004}) {
            for (size_t i = 0; i < n; ++i) {
                for (int c = 0; c < 3; ++c) row.c[c][i] = float(double(i) / (n - 1) * alpha);
                row.c[3][i] = float(alpha);
            }
            toLinearRow(row, n);
            for (size_t i = 0; i < n; ++i)
                QVERIFY(std::abs(row.c[1][i] - decoded(double(i) / (n - 1)) * alpha) < 2e-6);
            toEncodedRow(row, n);
            for (size_t i = 0; i < n; ++i)
                QVERIFY(std::abs(row.c[2][i] - double(i) / (n - 1) * alpha) < 4e-6);
            QCOMPARE(row.c[3][7], float(alpha));
        }
    }

    void nothingStaysNothing() {
        Buffer<float> zero(64);
        std::fill(zero.begin(), zero.end(), 0.0f);
        const RowPlanes row{{zero.data(), zero.data() + 16, zero.data() + 32, zero.data() + 48}};
        toLinearRow(row, 16);
        toEncodedRow(row, 16);
        for (float v : zero) QCOMPARE(v, 0.0f);
    }

    void blurOfAnEdgeIsTheErrorFunction() {
        constexpr int w = 81, h = 5;
        Buffer<float> plane(size_t(w) * h);
        for (size_t i = 0; i < plane.size(); ++i) plane[i] = i % w >= 40 ? 1.0f : 0.0f;
        const double sigma = 5;
        const Buffer<float> soft = gaussianBlur(plane, w, h, sigma);
        for (int x = 0; x < w; ++x) {
            const double want = 0.5 * (1 + std::erf((x - 39.5) / (sigma * std::numbers::sqrt2)));
            QVERIFY(std::abs(soft[size_t(2 * w + x)] - want) < 0.003); // cut off at three sigma
        }
    }

    void strokesCoverWhatIsNear_data() {
        QTest::addColumn<int>("join");
        QTest::addColumn<int>("cap");
        QTest::newRow("round") << int(LineJoin::Round) << int(LineCap::Round);
        QTest::newRow("mitre, flat") << int(LineJoin::Mitre) << int(LineCap::Flat);
        QTest::newRow("bevel, square") << int(LineJoin::Bevel) << int(LineCap::Square);
    }

    /// With round joins and caps a stroke is all that lies within half its width of the line, which is
    /// counted here over 32 × 32 points a pixel. The others differ from that only at corners and ends.
    void strokesCoverWhatIsNear() {
        QFETCH(int, join);
        QFETCH(int, cap);
        const std::vector<Vec2> points{{12, 14}, {70, 22.5}, {30, 60}, {75, 71}};
        const double half = 4.3;
        const Path stroke = strokeOutline(
            {{points, false}},
            {2 * half, static_cast<LineJoin>(join), static_cast<LineCap>(cap), static_cast<LineCap>(cap)},
            0.01);
        const Buffer<float> got = coverage(stroke, {}, 90, 90);
        const bool round = join == int(LineJoin::Round);
        double worst = 0;
        int many = 0;
        for (int y = 0; y < 90; ++y)
            for (int x = 0; x < 90; ++x) {
                const auto corner = [&](Vec2 c) { return (Vec2{x + 0.5, y + 0.5} - c).length() < 5 * half; };
                if (!round && std::any_of(points.begin(), points.end(), corner)) continue;
                int inside = 0;
                for (int i = 0; i < 1024; ++i) {
                    const Vec2 p{x + (i % 32 + 0.5) / 32, y + (i / 32 + 0.5) / 32};
                    double nearest = 1e9;
                    for (size_t k = 0; k + 1 < points.size(); ++k)
                        nearest = std::min(nearest, distanceTo(p, points[k], points[k + 1]));
                    inside += nearest <= half;
                }
                const double off = std::abs(got[size_t(y * 90 + x)] - inside / 1024.0);
                worst = std::max(worst, off);
                many += off > 0.03;
            }
        // Where two edges cross in one pixel, inside a bend, its area is only known roughly.
        QVERIFY2(worst < 0.12 && many <= 2, qPrintable(QString::number(worst)));
    }

    void capsReachAsFarAsTheySay() {
        const auto reach = [](LineCap cap) {
            const Path p = strokeOutline({{{{10, 10}, {30, 10}}, false}},
                                         {4, LineJoin::Mitre, LineCap::Flat, cap}, 0.01);
            return p.bounds().right();
        };
        QCOMPARE(reach(LineCap::Flat), 30.0);
        QCOMPARE(reach(LineCap::Square), 32.0);
        QVERIFY(std::abs(reach(LineCap::Round) - 32) < 0.02);
        QCOMPARE(reach(LineCap::Arrow), 30.0);
    }

    void closedContoursHaveNoEnds() {
        Path square;
        square.addRect({20, 20, 40, 40});
        Path closed = square;
        closed.lineTo({20, 20});
        const auto area = [](const Path& outline) {
            const Path stroke = strokeOutline(flattened(outline, 0.01),
                                              {6, LineJoin::Mitre, LineCap::Flat, LineCap::Flat}, 0.01);
            double sum = 0;
            for (float v : coverage(stroke, {}, 80, 80)) sum += v;
            return sum;
        };
        QVERIFY(std::abs(area(closed) - (46 * 46 - 34 * 34)) < 0.01);
        QVERIFY(area(square) < 46 * 46 - 34 * 34 - 40); // the fourth side is missing
    }
};

GLYPTOS_TEST(LightTest)
#include "light_test.moc"
