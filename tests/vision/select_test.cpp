// Edges of selections, colours alike, and lines along contours, each against its plain definition.
#include "vision/select/alpha_edges.h"
#include "vision/select/colour_range.h"
#include "vision/select/edge_line.h"

#include "color/difference.h"
#include "support/figures.h"
#include "support/pictures.h"
#include "support/register.h"
#include "vision/reduced.h"

using namespace glyptos;
using namespace glyptos::test;

namespace {

AlphaMap disc(int side, double radius) {
    AlphaMap out(side, side);
    for (int y = 0; y < side; ++y)
        for (int x = 0; x < side; ++x) {
            const double away = std::hypot(x + 0.5 - side / 2.0, y + 0.5 - side / 2.0);
            out.at(x, y) = uint8_t(std::lround(255 * std::clamp(radius + 0.5 - away, 0.0, 1.0)));
        }
    return out;
}

double areaOf(const AlphaMap& map) {
    double sum = 0;
    for (const uint8_t v : map.values) sum += v / 255.0;
    return sum;
}

double radiusOf(const AlphaMap& map) {
    return std::sqrt(areaOf(map) / M_PI);
}

} // namespace

class SelectTest : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void grownAndShrunk() {
        const AlphaMap map = disc(200, 50);
        for (const double by : {-20.0, -3.5, 1.0, 12.0, 30.0})
            QVERIFY2(std::abs(radiusOf(grown(map, by)) - (50 + by)) < 0.5,
                     qPrintable(QString::number(radiusOf(grown(map, by)))));
        QCOMPARE(areaOf(grown(map, -80)), 0.0);
        QCOMPARE(areaOf(grown(AlphaMap(20, 20), 5)), 0.0);
        QCOMPARE(areaOf(grown(AlphaMap(1, 1, 255), 0)), 1.0);
    }

    void featheredKeepsItsArea() {
        const AlphaMap soft = feathered(disc(300, 60), 20);
        QVERIFY(std::abs(areaOf(soft) / areaOf(disc(300, 60)) - 1) < 0.01);
        QVERIFY(std::abs(soft.at(150 + 60, 150) - 122) < 12); // half at the old edge, less for its bend
    }

    void smoothedLosesSpecks() {
        AlphaMap map = disc(200, 60);
        for (int i = 0; i < 3; ++i) map.at(20 + i, 20) = map.at(100, 100 + i) = uint8_t(i == 0 ? 255 : 0);
        const AlphaMap out = smoothed(map, 4);
        QCOMPARE(int(out.at(20, 20)), 0);
        QCOMPARE(int(out.at(100, 101)), 255);
        QVERIFY(std::abs(radiusOf(out) - 60) < 0.5);
    }

    void outlinesLieOnTheEdge() {
        const auto lines = outlinesOf(disc(200, 50));
        QCOMPARE(lines.size(), size_t(1));
        for (const Vec2& p : lines[0]) QVERIFY(std::abs((p - Vec2{100, 100}).length() - 50) < 1.2);
        AlphaMap ring = disc(200, 50);
        const AlphaMap hole = disc(200, 20);
        for (size_t i = 0; i < ring.values.size(); ++i)
            ring.values[i] = uint8_t(std::min<int>(ring.values[i], 255 - hole.values[i]));
        QCOMPARE(outlinesOf(ring).size(), size_t(2));
        QVERIFY(outlinesOf(AlphaMap(10, 10)).empty());
    }

    /// Each pixel by CIEDE2000 alone, where the patch does not matter.
    void coloursAlike() {
        const Picture picture = pictureOf(120, 80, [](int x, int y) {
            return std::array<uint8_t, 4>{uint8_t(x * 2), uint8_t(y * 3), 90, 255};
        });
        ColourRange range;
        range.tolerance = 15, range.connected = false;
        const AlphaMap found = withColourOf(picture, 60, 40, range);
        const Lab middle = toLab(straightAt(picture, 60, 40));
        for (int y = 0; y < 80; ++y)
            for (int x = 0; x < 120; ++x) {
                const double apart = ciede2000(middle, toLab(straightAt(picture, x, y)));
                if (apart < 14) QCOMPARE(int(found.at(x, y)), 255);
                if (apart > 19) QCOMPARE(int(found.at(x, y)), 0);
            }
    }

    void onePatchOrEverywhere() {
        const Picture picture = pictureOf(90, 30, [](int x, int) {
            const bool bar = (x / 15) % 2;
            return std::array<uint8_t, 4>{uint8_t(bar ? 200 : 30), 60, 60, 255};
        });
        const AlphaMap patch = withColourOf(picture, 20, 10, {5, true});
        QCOMPARE(areaOf(patch), 15.0 * 30);
        QCOMPARE(areaOf(withColourOf(picture, 20, 10, {5, false})), 45.0 * 30);
        std::atomic<bool> cancel = true;
        QCOMPARE(areaOf(withColourOf(picture, 20, 10, {5, false, &cancel})), 0.0);
    }

    void seeThroughIsSelectedAsFarAsItCovers() {
        const Picture picture = pictureOf(30, 30, [](int x, int) {
            return std::array<uint8_t, 4>{200, 60, 60, uint8_t(x < 15 ? 128 : 0)};
        });
        const AlphaMap found = withColourOf(picture, 5, 5, {5, false});
        QVERIFY(std::abs(found.at(5, 5) - 128) <= 1);
        QCOMPARE(int(found.at(20, 5)), 0);
        QCOMPARE(int(withColourOf(picture, 25, 5, {5, false}).at(20, 5)), 255); // all that is see-through
    }

    /// Round a keeper's coat and head, pinned every 150 px or so: within 1.5 px of the true contour.
    void theLineFollowsTheContour_data() {
        QTest::addColumn<int>("ground");
        QTest::newRow("plain") << int(Ground::Plain);
        QTest::newRow("gradient") << int(Ground::Gradient);
        QTest::newRow("textured") << int(Ground::Textured);
    }
    void theLineFollowsTheContour() {
        QFETCH(int, ground);
        const KnownFigure known = knownFigure(Ground(ground), 900, 7, 0); // no hairs: a contour
        AlphaMap truth(900, 900);
        for (size_t i = 0; i < truth.values.size(); ++i) truth.values[i] = known.alpha[i] >= 0.5f ? 255 : 0;
        std::vector<Vec2> contour;
        for (const auto& line : outlinesOf(truth))
            if (line.size() > contour.size()) contour = line;
        // Every pixel of it, the picture's edge left out.
        std::vector<Vec2> dense;
        for (size_t i = 0; i < contour.size(); ++i) {
            const Vec2 a = contour[i], b = contour[(i + 1) % contour.size()];
            const int n = std::max(1, int((b - a).length()));
            for (int k = 0; k < n; ++k) {
                const Vec2 p = a + (b - a) * (double(k) / n);
                if (p.y < 895 && p.x > 4 && p.x < 895) dense.push_back(p);
            }
        }
        double sum = 0, worst = 0, count = 0;
        constexpr size_t kApart = 150;
        for (size_t i = 0; i + kApart < dense.size(); i += kApart) {
            if ((dense[i] - dense[i + kApart]).length() > 2 * double(kApart))
                continue; // over the picture's edge
            for (const Vec2& p : edgeLine(known.photo, nearestEdge(known.photo, dense[i], 4),
                                          nearestEdge(known.photo, dense[i + kApart], 4))) {
                double nearest = 1e9;
                for (const Vec2& q : dense) nearest = std::min(nearest, (p - q).length());
                sum += nearest, worst = std::max(worst, nearest), ++count;
            }
        }
        qInfo("mean %.2f px, worst %.2f px of %g", sum / count, worst, count);
        QVERIFY(count > 500);
        QVERIFY(sum / count <= 0.8);
        QVERIFY(worst <= 1.5);
    }

    void endsOutside() {
        const Picture picture = pictureOf(1, 1, [](int, int) {
            return std::array<uint8_t, 4>{1, 2, 3, 255};
        });
        QCOMPARE(edgeLine(picture, {-50, 3}, {900, 12}).size(), size_t(1));
        QVERIFY((nearestEdge(picture, {40, 40}, 5) - Vec2{0.5, 0.5}).length() < 1e-9);
    }
};

GLYPTOS_TEST(SelectTest)
#include "select_test.moc"
