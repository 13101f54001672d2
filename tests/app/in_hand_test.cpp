// What is in hand, and what becomes of it when the release no longer has it.
#include "app/session/in_hand.h"
#include "release/edits/edits.h"
#include "release/wall.h"
#include "support/every_kind.h"
#include "support/register.h"

using namespace glyptos;
using namespace glyptos::test;

class InHandTest : public QObject {
    Q_OBJECT
    HeldPictures pictures;
    ReleasePtr release = releaseOfEveryKind(pictures);
    PanelRef front = frontOf(release), other{release->pieces[1]->id, "front"};

  private Q_SLOTS:
    void onlyChangesAreSaid() {
        InHand hand;
        QVERIFY(hand.takePanel(front, *release));
        QVERIFY(!hand.takePanel(front, *release));
        QVERIFY(hand.takeLayers({"star", "words"}));
        QVERIFY(!hand.takeLayers({"star", "words"}));
        QCOMPARE(hand.layer(), std::string("words")); // the one taken up last
        QVERIFY(hand.holds("star") && !hand.holds("echo"));
        QVERIFY(hand.takeMask(true));
        QVERIFY(!hand.takeMask(true));
        QVERIFY(!hand.mend(*release));
    }

    void anotherPanelOrLayerLetsGoOfTheMask() {
        InHand hand;
        (void)hand.takePanel(front, *release);
        (void)hand.takeLayers({"clouds"});
        (void)hand.takeMask(true);
        (void)hand.takeLayers({"spiral"});
        QVERIFY(!hand.mask());
        (void)hand.takeMask(true);
        (void)hand.takePanel(other, *release);
        QVERIFY(!hand.mask() && hand.layers().empty() && hand.layer().empty());
    }

    void whatIsGoneIsLetGo() {
        InHand hand;
        (void)hand.takePanel(front, *release);
        (void)hand.takeLayers({"star", "glow"}); // one of them in a group
        QVERIFY(hand.mend(*withoutLayer(release, front, "isolated")));
        QCOMPARE(hand.layers(), std::vector<std::string>{"star"});
        QVERIFY(hand.mend(*withoutPiece(release, front.piece)));
        QVERIFY(hand.panel() == other);
        QVERIFY(hand.layers().empty());
        QVERIFY(hand.mend(Release{}));
        QVERIFY(hand.panel() == PanelRef{});
    }

    void theWallKeepsThePieceInMind() {
        InHand hand;
        (void)hand.takePanel(front, *release);
        QVERIFY(hand.takePanel(wallPanel(), *release));
        QVERIFY(hand.panel() == wallPanel());
        QVERIFY(hand.piecePanel() == front);
        (void)hand.mend(*withoutPiece(release, front.piece));
        QVERIFY(hand.panel() == wallPanel());
        QVERIFY(hand.piecePanel() == other);
    }
};

GLYPTOS_TEST(InHandTest)
#include "in_hand_test.moc"
