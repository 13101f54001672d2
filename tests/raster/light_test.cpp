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

double dot(Vec2 a, Vec2 b) {
    return a.x * b.x + a.y * b.y;
}
double cross(Vec2 a, Vec2 b) {
    return a.x * b.y - a.y * b.x;
}

/// Whether a convex polygon holds a point, whichever way round it goes.
bool holds(const std::vector<Vec2>& polygon, Vec2 p) {
    int left = 0, right = 0;
    for (size_t i = 0; i < polygon.size(); ++i) {
        const double side = cross(polygon[(i + 1) % polygon.size()] - polygon[i], p - polygon[i]);
        left += side > 0, right += side < 0;
    }
    return left == 0 || right == 0;
}

/// What a pen covers along straight lines, straight from the definitions (SVG 2, 13.5).
struct PenTwin {
    std::vector<Vec2> points;
    double half;
    LineJoin join;
    LineCap cap;

    bool covers(Vec2 p) const {
        for (size_t i = 0; i + 1 < points.size(); ++i)
            if (besideLine(i, p)) return true;
        for (size_t i = 1; i + 1 < points.size(); ++i)
            if (atCorner(i, p)) return true;
        return cap == LineCap::Round &&
               ((p - points.front()).length() <= half || (p - points.back()).length() <= half);
    }

  private:
    Vec2 along(size_t i) const {
        return (points[i + 1] - points[i]) * (1 / (points[i + 1] - points[i]).length());
    }

    bool besideLine(size_t i, Vec2 p) const {
        const Vec2 way = along(i);
        const double length = (points[i + 1] - points[i]).length(), at = dot(p - points[i], way);
        const double more = cap == LineCap::Square ? half : 0;
        const double from = i == 0 ? -more : 0, to = length + (i + 2 == points.size() ? more : 0);
        return at >= from && at <= to && std::abs(cross(way, p - points[i])) <= half;
    }

    bool atCorner(size_t i, Vec2 p) const {
        const Vec2 c = points[i];
        if (join == LineJoin::Round) return (p - c).length() <= half;
        const Vec2 in = along(i - 1), out = along(i);
        // The outer side of the bend.
        const double side = cross(in, out) > 0 ? -1 : 1;
        const Vec2 a = c + Vec2{-in.y, in.x} * (half * side), b = c + Vec2{-out.y, out.x} * (half * side);
        if (holds({c, a, b}, p)) return true;
        const double cosHalf = std::sqrt((1 + dot(in, out)) / 2); // of half the turn: half a mitre's share
        if (join == LineJoin::Bevel || 1 / cosHalf > 4) return false;
        const Vec2 middle = (a + b) * 0.5 - c;
        const Vec2 tip = c + middle * (half / cosHalf / middle.length());
        return holds({a, tip, b}, p);
    }
};

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

    void strokesCoverWhatTheirPenCovers_data() {
        QTest::addColumn<int>("join");
        QTest::addColumn<int>("cap");
        QTest::newRow("round") << int(LineJoin::Round) << int(LineCap::Round);
        QTest::newRow("mitre, flat") << int(LineJoin::Mitre) << int(LineCap::Flat);
        QTest::newRow("bevel, square") << int(LineJoin::Bevel) << int(LineCap::Square);
    }

    /// Corners and ends included: what a pen covers is worked out from the definition of each join and cap,
    /// and counted over 32 × 32 points a pixel.
    void strokesCoverWhatTheirPenCovers() {
        QFETCH(int, join);
        QFETCH(int, cap);
        const std::vector<Vec2> points{{12, 14}, {70, 22.5}, {30, 60}, {75, 71}};
        const double half = 4.3;
        const PenTwin pen{points, half, static_cast<LineJoin>(join), static_cast<LineCap>(cap)};
        const Path stroke = strokeOutline({{points, false}}, {2 * half, pen.join, pen.cap, pen.cap}, 0.01);
        const Buffer<float> got = coverage(stroke, {}, 90, 90);
        double worst = 0;
        int many = 0;
        for (int y = 0; y < 90; ++y)
            for (int x = 0; x < 90; ++x) {
                int inside = 0;
                for (int i = 0; i < 1024; ++i)
                    inside += pen.covers({x + (i % 32 + 0.5) / 32, y + (i / 32 + 0.5) / 32});
                const double off = std::abs(got[size_t(y * 90 + x)] - inside / 1024.0);
                worst = std::max(worst, off);
                many += off > 0.03;
            }
        // Where two edges cross in one pixel, inside a bend, its area is only known roughly.
        QVERIFY2(worst < 0.12 && many <= 2, qPrintable(QString("%1, %2").arg(worst).arg(many)));
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
