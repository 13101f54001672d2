// Framing: whatever is asked, the area stays covered, or the picture stays whole.
#include "release/edits/framing.h"
#include "release/placing.h"
#include "support/pictures.h"
#include "support/register.h"

using namespace glyptos;
using namespace glyptos::test;

namespace {

Source sourceOf(int width, int height) {
    Source out;
    out.width = width, out.height = height;
    return out;
}

bool covers(const Placement& p, const Source& s, const Rect& area) {
    const Affine back = *placementMap(p).inverse();
    for (const Vec2 corner : {Vec2{area.x, area.y}, Vec2{area.right(), area.y},
                              Vec2{area.right(), area.bottom()}, Vec2{area.x, area.bottom()}}) {
        const Vec2 px = back.map(corner);
        if (std::abs(px.x) > s.width / 2.0 + 1e-6 || std::abs(px.y) > s.height / 2.0 + 1e-6) return false;
    }
    return true;
}

} // namespace

class FramingTest : public QObject {
    Q_OBJECT
    const Rect area{-3, -3, 321, 321};

  private Q_SLOTS:
    void theAreaStaysCovered() {
        for (const auto& [w, h] : {std::pair(6000, 4000), std::pair(400, 900), std::pair(500, 500)})
            for (const double turn : {-45.0, -7.5, 0.0, 3.0, 30.0})
                for (const double zoom : {1.0, 1.7, 0.2})
                    for (const bool flip : {false, true})
                        for (const Vec2 middle : {Vec2{0.5, 0.5}, Vec2{0, 1}, Vec2{2, -1}, Vec2{0.9, 0.4}}) {
                            const Source s = sourceOf(w, h);
                            QVERIFY(covers(framed(area, s, {false, middle, zoom, turn, flip}), s, area));
                        }
    }

    void itIsNoLargerThanItMustBe() {
        const Source s = sourceOf(6000, 4000);
        const Placement p = framed(area, s, {});
        QVERIFY(std::abs(p.scaleX * 4000 - 321) < 1e-9);
        QCOMPARE(p.position, area.centre());
        QVERIFY(std::abs(framed(area, s, {false, {0.5, 0.5}, 2, 0, false}).scaleX / p.scaleX - 2) < 1e-12);
    }

    void theMiddleIsMetWhereItCanBe() {
        const Source s = sourceOf(6000, 4000);
        Framing f;
        f.middle = {0.6, 0.5};
        Placement p = framed(area, s, f);
        // The place of the picture that was asked for lies in the middle of the area.
        QVERIFY((placementMap(p).map({0.1 * 6000, 0}) - area.centre()).length() < 1e-9);
        f.flip = true;
        p = framed(area, s, f);
        QVERIFY((placementMap(p).map({0.1 * 6000, 0}) - area.centre()).length() < 1e-9);
        f = {};
        f.middle = {0.95, 0.2};
        const Vec2 met = middleMet(area, s, f);
        QVERIFY(std::abs(met.x - (1 - 1 / 3.0)) < 1e-9 &&
                std::abs(met.y - 0.5) < 1e-9); // as far as there is picture
    }

    void wholePicturesLieInside() {
        for (const auto& [w, h] : {std::pair(6000, 4000), std::pair(400, 900)})
            for (const double turn : {-20.0, 0.0, 45.0}) {
                const Source s = sourceOf(w, h);
                const Placement p = framed(area, s, {true, {0.1, 0.9}, 3, turn, false});
                const Rect bounds = placementMap(p).mapBounds({-w / 2.0, -h / 2.0, double(w), double(h)});
                QVERIFY(bounds.x >= area.x - 1e-6 && bounds.y >= area.y - 1e-6 &&
                        bounds.right() <= area.right() + 1e-6 && bounds.bottom() <= area.bottom() + 1e-6);
                QVERIFY(std::abs(bounds.w - area.w) < 1e-6 || std::abs(bounds.h - area.h) < 1e-6);
                QCOMPARE(p.position, area.centre());
            }
    }
};

GLYPTOS_TEST(FramingTest)
#include "framing_test.moc"
