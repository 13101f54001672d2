#include "release/paths/contour_nodes.h"
#include "support/register.h"

using namespace glyptos;

class ContourNodesTest : public QObject {
    Q_OBJECT
    const Contour arch{{{{0, 0}, {}, {0, -4}}, {{10, 0}, {0, -4}, {2, 3}}, {{4, 8}, {1, 1}, {-1, 2}}}, true};

  private Q_SLOTS:
    void pointsFollowTheCurve() {
        // At a half: (p0 + 3 c1 + 3 c2 + p3) / 8.
        QCOMPARE(pointOn(arch, {0, 0.5}), (Vec2{5, -3}));
        QCOMPARE(pointOn(arch, {0, 0}), (Vec2{0, 0}));
        QCOMPARE(pointOn(arch, {0, 1}), (Vec2{10, 0}));
    }

    void anotherNodeChangesNoPoint() {
        for (size_t node = 0; node < 3; ++node)
            for (const double at : {0.2, 0.5, 0.9}) {
                const Contour split = withNodeAt(arch, {node, at});
                QCOMPARE(split.nodes.size(), size_t(4));
                for (double t = 0; t <= 1.0001; t += 0.1) {
                    QVERIFY((pointOn(split, {node, t}) - pointOn(arch, {node, t * at})).length() < 1e-12);
                    QVERIFY(
                        (pointOn(split, {node + 1, t}) - pointOn(arch, {node, at + t * (1 - at)})).length() <
                        1e-12);
                }
            }
    }

    void theNearestPlaceIsFound() {
        const Vec2 there = pointOn(arch, {1, 0.25});
        const auto place = nearestPlace(arch, Affine::scaling(10, 10), there * 10);
        QVERIFY(place && place->first.node == 1 && place->first.t == 0.25 && place->second < 1e-9);
        Contour open = arch;
        open.closed = false;
        QCOMPARE(nearestPlace(open, {}, pointOn(arch, {2, 0.5}))->first.node < 2, true);
        QVERIFY(!nearestPlace({}, {}, {0, 0}));
        QVERIFY(!nearestPlace({{{{1, 1}, {}, {}}}, false}, {}, {0, 0}));
    }

    void cornersBecomeSmoothAndBack() {
        const Contour square{{{{0, 0}, {}, {}}, {{6, 0}, {}, {}}, {{6, 6}, {}, {}}, {{0, 6}, {}, {}}}, true};
        const Contour smooth = withSmoothed(square, 1);
        QCOMPARE(smooth.nodes[1].after, (Vec2{1, 1})); // along the way between its neighbours
        QCOMPARE(smooth.nodes[1].before, (Vec2{-1, -1}));
        QVERIFY(withSmoothed(smooth, 1) == square);
    }
};

GLYPTOS_TEST(ContourNodesTest)
#include "contour_nodes_test.moc"
