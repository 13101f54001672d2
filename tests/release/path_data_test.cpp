#include "release/paths/path_data.h"

#include "file/ornaments.h"
#include "raster/path.h"
#include "support/register.h"

#include <set>

using namespace glyptos;

class PathDataTest : public QObject {
    Q_OBJECT

    static std::vector<Contour> read(const char* data) {
        const auto contours = contoursFromPathData(data);
        return contours ? *contours : std::vector<Contour>{};
    }

  private Q_SLOTS:
    void linesOfAllKinds() {
        const auto square = read("M10 20 H30 V40 L10,40 Z");
        const auto same = read("m10 20h20v20l-20 0z");
        const auto implied = read("M10 20 30 20 30 40 10 40Z");
        QCOMPARE(square.size(), size_t(1));
        QVERIFY(square[0].closed && square[0].nodes.size() == 4);
        QVERIFY(square == same && square == implied);
        QCOMPARE(square[0].nodes[2].at, (Vec2{30, 40}));
    }

    void curvesKeepTheirControls() {
        const auto c = read("M0 0C1 2 3 4 5 6S9 8 10 10");
        QCOMPARE(c[0].nodes.size(), size_t(3));
        QVERIFY(!c[0].closed);
        QCOMPARE(c[0].nodes[0].after, (Vec2{1, 2}));
        QCOMPARE(c[0].nodes[1].before, (Vec2{-2, -2}));
        QCOMPARE(c[0].nodes[1].after, (Vec2{2, 2})); // the reflection
        QCOMPARE(c[0].nodes[2].before, (Vec2{-1, -2}));
        // A quadratic curve and the cubic that equals it.
        const auto q = read("M0 0Q3 3 6 0t6 0");
        QCOMPARE(q[0].nodes[0].after, (Vec2{2, 2}));
        QCOMPARE(q[0].nodes[1].before, (Vec2{-2, 2}));
        QCOMPARE(q[0].nodes[1].after, (Vec2{2, -2}));
    }

    void closingJoinsTheEnds() {
        const auto c = read("M0 0C1 0 2 1 2 2C2 3 1 0 0 0ZM5 5h1v1zl2 0");
        QCOMPARE(c.size(), size_t(3));
        QCOMPARE(c[0].nodes.size(), size_t(2));
        QCOMPARE(c[0].nodes[0].before, (Vec2{1, 0}));
        QCOMPARE(c[2].nodes[0].at, (Vec2{5, 5})); // goes on from the start of the closed one
        QCOMPARE(c[2].nodes[1].at, (Vec2{7, 5}));
    }

    void whatIsWrongIsRefused() {
        for (const char* bad :
             {"10 20", "L1 2", "M1", "M1 2L3", "M0 0A1 1 0 0 0 2 2", "M0 0Lx y", "M0 0Z 5", "M0 0Z"})
            QVERIFY2(!contoursFromPathData(bad), bad);
        QVERIFY(contoursFromPathData("")->empty());
    }

    void everyOrnamentIsWhole() {
        const auto& all = shippedOrnaments();
        QVERIFY(all.size() >= 24);
        QCOMPARE(ptrdiff_t(all.size()),
                 std::distance(std::filesystem::directory_iterator(SOURCE_FOLDER "/data/ornaments"),
                               std::filesystem::directory_iterator()));
        std::set<std::string> names;
        for (const Ornament& o : all) {
            QVERIFY(names.insert(o.name).second);
            const Rect box = outlineOf(o.shape).bounds();
            QVERIFY2(box.w > 15 && box.h > 8 && box.w <= 100 && box.h <= 100, o.name.c_str());
            QVERIFY(std::abs(box.centre().x) < 1e-6 && std::abs(box.centre().y) < 1e-6);
            for (const Contour& c : o.shape.contours) QVERIFY(c.closed);
        }
    }
};

GLYPTOS_TEST(PathDataTest)
#include "path_data_test.moc"
