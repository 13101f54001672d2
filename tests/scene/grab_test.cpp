// Boards taken hold of where they are seen.
#include "scene/fold/grab.h"

#include "scene/draw/rasterize.h"
#include "scene/fold/folded_facets.h"
#include "support/forms.h"
#include "support/register.h"

using namespace glyptos;
using test::flatOf;

namespace {

Eye eyeOn(const Vec3& middle, const Pose& turn) {
    Eye eye;
    eye.middle = middle, eye.turn = turn, eye.distance = 1500, eye.focal = 900;
    return eye;
}

} // namespace

class GrabTest : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void thePlaceUnderThePointIsFound() {
        const Flat flat = flatOf("sleeve-12");
        const Folding folding(flat);
        for (const double share : {0.0, 0.6, 0.8, 1.0})
            for (const double yaw : {-30.0, 0.0, 40.0, 160.0}) {
                const FoldShares shares = folding.sharesAt(share);
                const auto poses = folding.poses(shares);
                const Eye eye = eyeOn({400, 150, 0}, turnedAbout({}, {0, 1, 0}, yaw));
                for (const char* id : {"back", "front"}) { // the spine may be seen from its edge alone
                    const size_t i = size_t(flat.panel(id) - flat.panels.data());
                    const Rect box = folding.boards()[i].outline.box;
                    const Vec2 on{box.x + 0.3 * box.w, box.y + 0.6 * box.h};
                    const auto seen = seenAt(poses[i].map({on.x, on.y, 0}), eye);
                    const auto grab = boardAt(folding, shares, eye, *seen);
                    QVERIFY(grab.has_value());
                    // It is that place, or what is found lies in front of it.
                    if (grab->board == i)
                        QVERIFY((grab->onFlat - on).length() < 1);
                    else
                        QVERIFY(
                            eye.turn.mapVector(poses[grab->board].map({grab->onFlat.x, grab->onFlat.y, 0}))
                                .z > eye.turn.mapVector(poses[i].map({on.x, on.y, 0})).z - 1);
                }
            }
    }

    void aHoleIsNoBoard() {
        const Flat flat = flatOf("label-12");
        const Folding folding(flat);
        const Rect box = folding.boards()[0].outline.box;
        const Eye eye = eyeOn({box.centre().x, box.centre().y, 0}, {});
        QVERIFY(!boardAt(folding, {}, eye, {0, 0}));
        QVERIFY(boardAt(folding, {}, eye, {0, 12}));
        QVERIFY(!boardAt(folding, {}, eye, {2000, 0}));
    }

    void aDraggedPanelFollowsThePoint() {
        const Flat flat = flatOf("sleeve-12");
        const Folding folding(flat);
        const size_t back = size_t(flat.panel("back") - flat.panels.data());
        const Eye eye = eyeOn({315, 150, 0}, turnedAbout({}, {1, 0, 0}, -35));
        FoldShares shares = folding.sharesAt(0.5);
        const Grab grab{back, {40, 150}};
        for (const double share : {0.1, 0.35, 0.7}) {
            FoldShares goal = shares;
            size_t fold = 0;
            for (const Hinge& hinge : folding.hinges())
                if (hinge.child == back) fold = hinge.fold;
            goal[fold] = share;
            const auto seen = seenAt(folding.poses(goal)[back].map({40, 150, 0}), eye);
            const auto to = foldTowards(folding, shares, grab, eye, *seen);
            QVERIFY(to.has_value());
            QCOMPARE(to->fold, fold);
            QVERIFY2(std::abs(to->share - share) < 0.02, qPrintable(QString::number(to->share)));
            shares[fold] = to->share;
        }
    }

    void theFrontHangsByNothing() {
        const Flat flat = flatOf("sleeve-12");
        const Folding folding(flat);
        QVERIFY(!foldTowards(folding, folding.sharesAt(1), {flat.front, {400, 100}}, eyeOn({}, {}), {0, 0}));
    }

    void allOfThePieceIsSeenHoweverItIsTurned() {
        const auto forms = shippedForms().value();
        for (const auto& form : forms) {
            if (form->retired) continue;
            const Flat flat = workOut(*form).value();
            const Folding folding(flat);
            BoardPictures blank;
            blank.boards.resize(folding.boards().size());
            for (const double at : {0.0, 0.5, 1.0})
                for (const double degrees : {0.0, 37.0, 90.0, 200.0}) {
                    const FoldShares shares = folding.sharesAt(at);
                    const auto facets = foldedFacets(flat, folding, shares, blank);
                    const Pose turn = turnedAbout({}, Vec3{0.4, 1, 0.1}.unit(), degrees);
                    const Eye eye = eyeFor(folding, shares, turn, 1, 800, 600);
                    for (const Facet& f : facets)
                        for (const Vec3& p : {f.corner, f.corner + f.right, f.corner + f.down})
                            if (const auto seen = seenAt(p, eye))
                                QVERIFY2(std::abs(seen->x) < 420 && std::abs(seen->y) < 420,
                                         form->id.c_str());
                            else
                                QFAIL(form->id.c_str());
                }
        }
    }
};

GLYPTOS_TEST(GrabTest)
#include "grab_test.moc"
