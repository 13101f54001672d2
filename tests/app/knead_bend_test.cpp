// Layers kneaded, bent and tilted on the bench.
#include "support/handwork.h"
#include "support/register.h"

#include "app/hands/bend_hand.h"
#include "app/hands/knead_hand.h"
#include "file/release_json/release_json.h"
#include "release/placing.h"

#include <QSignalSpy>

using namespace glyptos;
using namespace glyptos::test;

class KneadBendTest : public HandworkTest {
    Q_OBJECT

    BendHand& bender() { return static_cast<BendHand&>(t->bench().handOf(Hand::Bend)); }
    const Warp* warp(const std::string& id) { return t->find(id) ? t->find(id)->warp.get() : nullptr; }
    /// A picture over the middle of the panel, red to its left half and white to its right, 1000 px wide.
    std::string putPicture() {
        put("halves", pictureOf(1000, 1000, [](int x, int) {
                return x < 500 ? std::array<uint8_t, 4>{204, 26, 26, 255}
                               : std::array<uint8_t, 4>{255, 255, 255, 255};
            }));
        const std::string id = t->document().layer();
        t->document().edit("Place",
                           withChangedLayer(t->document().release(), t->document().panel(), id, [](Layer& l) {
                               l.placement = {};
                               l.placement.position = {1500, 1500};
                           }));
        t->settle();
        return id;
    }
    const QColor white{255, 255, 255};

  private Q_SLOTS:
    void init() { begin(); }
    void cleanup() { t.reset(); }

    /// A push takes the border between two colours along; undo and redo show it there and back; saved it is
    /// as it was.
    void aPush() {
        const std::string id = putPicture();
        QTest::keyClick(&t->bench(), Qt::Key_D);
        setSize("700");
        enter(t->find<QLineEdit>("Strength of a stroke"), "100");
        QCOMPARE(t->seen({1560, 1500}), white);
        t->drag(t->bench(), t->on({1450, 1500}), t->on({1650, 1500}));
        leaveBench();
        QVERIFY(warp(id) && warp(id)->knead);
        QCOMPARE(t->seen({1560, 1500}), red); // the border went along
        QCOMPARE(t->seen({1700, 1500}), white);
        QCOMPARE(t->seen({1560, 1100}), white); // beyond the tip
        const ReleasePtr kneaded = t->document().release();
        t->document().undo();
        t->settle();
        QCOMPARE(t->seen({1560, 1500}), white);
        QVERIFY(!warp(id));
        t->document().redo();
        t->settle();
        QCOMPARE(t->seen({1560, 1500}), red);
        saveAndOpen();
        QCOMPARE(releaseToJson(*t->document().release()), releaseToJson(*kneaded));
        QCOMPARE(t->seen({1560, 1500}), red);
    }

    void strengthEdgesAndUnknead() {
        const std::string id = putPicture();
        QTest::keyClick(&t->bench(), Qt::Key_D);
        setSize("700");
        choose("Edges of the layer", 1);
        t->drag(t->bench(), t->on({1010, 1500}), t->on({1250, 1500}));
        leaveBench();
        QCOMPARE(t->seen({1060, 1500}), red); // the edge's colour
        choose("Behind an edge that was pulled in", 2);
        t->settle();
        QCOMPARE(t->seen({1060, 1500}), ground);
        enter(t->find<QLineEdit>("Strength of all kneading"), "0");
        t->settle();
        QCOMPARE(t->seen({1060, 1500}), red);
        click("Unknead");
        QVERIFY(!warp(id));
        // Held, the edge stays where it is.
        choose("Edges of the layer", 0);
        t->drag(t->bench(), t->on({1010, 1500}), t->on({1250, 1500}));
        leaveBench();
        QVERIFY(warp(id));
        QCOMPARE(t->seen({1010, 1500}), red);
    }

    /// What is not selected stays; Alt restores.
    void withinTheSelection() {
        putPicture();
        QTest::keyClick(&t->bench(), Qt::Key_E);
        choose("Select by", int(SelectBy::Box));
        t->drag(t->bench(), t->on({1100, 1000}), t->on({1900, 1480}));
        QTest::keyClick(&t->bench(), Qt::Key_D);
        setSize("500");
        for (int i = 0; i < 3; ++i) t->drag(t->bench(), t->on({1420, 1480}), t->on({1600, 1480}));
        leaveBench();
        QCOMPARE(t->seen({1540, 1400}), red);
        QCOMPARE(t->seen({1540, 1500}), white);
        t->drag(t->bench(), t->on({1500, 1400}), t->on({1560, 1400}), Qt::AltModifier);
        t->drag(t->bench(), t->on({1560, 1400}), t->on({1500, 1400}), Qt::AltModifier);
        leaveBench();
        QCOMPARE(t->seen({1540, 1400}), white);
        QVERIFY(QString::fromStdString(t->document().history().undoName()).startsWith("Restore"));
    }

    void whyNothingIsKneaded() {
        const std::string box = t->putBox("Box", {500, 500, 2000, 2000}, {0.8f, 0.1f, 0.1f, 1});
        QTest::keyClick(&t->bench(), Qt::Key_D);
        t->document().edit("Lock", withChangedLayer(t->document().release(), t->document().panel(), box,
                                                    [](Layer& l) { l.locked = true; }));
        const ReleasePtr before = t->document().release();
        QSignalSpy refused(&t->document(), &Document::refused);
        t->drag(t->bench(), t->on({1000, 1000}), t->on({1500, 1000}));
        QCOMPARE(t->document().release(), before);
        QVERIFY(refused.count() == 1 && refused[0][0].toString().contains("locked"));
        QVERIFY(t->bench().sentence().contains("locked"));
        t->document().selectLayer(t->layers().back()->id); // the ground
        QVERIFY(t->bench().sentence().contains("covers the whole panel"));
    }

    /// A corner dragged in is where the layer ends then; several layers keep to each other.
    void cornersOfSeveral() {
        const std::string left = t->putBox("Left", {500, 1000, 900, 900}, {0.8f, 0.1f, 0.1f, 1}),
                          right = t->putBox("Right", {1400, 1000, 900, 900}, {1, 1, 1, 1});
        t->document().selectLayer(left);
        QTest::keyClick(&t->bench(), Qt::Key_G);
        t->drag(t->bench(), t->on({500, 1000}), t->on({700, 1200}));
        leaveBench();
        QVERIFY(warp(left) && warp(left)->corners);
        QCOMPARE(t->seen({560, 1060}), ground);
        QCOMPARE(t->seen({1000, 1500}), red);
        t->document().undo();
        t->settle();
        t->document().selectLayers({left, right});
        t->drag(t->bench(), t->on({500, 1900}), t->on({650, 1800}));
        leaveBench();
        QVERIFY(warp(left) && warp(right));
        // Where they met they still meet.
        const auto seen = [&](const std::string& id, Vec2 share) {
            const auto meant = warpedLayer(t->bench(), t->find(id));
            return *meant->fromShares().map(share);
        };
        QVERIFY((seen(left, {1, 0}) - seen(right, {0, 0})).length() < 1e-6);
        QVERIFY((seen(left, {1, 1}) - seen(right, {0, 1})).length() < 1e-6);
        // Corners that would cross stay as they are.
        const ReleasePtr before = t->document().release();
        t->document().selectLayer(left);
        const Vec2 corner = seen(left, {0, 0});
        t->drag(t->bench(), t->on(corner), t->on({2900, 2900}));
        for (const Vec2& c : *warp(left)->corners) QVERIFY(std::isfinite(c.x));
        QVERIFY(Homography::toCorners(*warp(left)->corners));
        t->document().undo();
        QVERIFY(before);
    }

    void tiltedByAngles() {
        const std::string box = t->putBox("Cover", {1000, 1000, 1000, 1000}, {0.8f, 0.1f, 0.1f, 1});
        QTest::keyClick(&t->bench(), Qt::Key_G);
        enter(t->find<QLineEdit>("Laid back"), "60");
        t->settle();
        QVERIFY(warp(box) && warp(box)->corners);
        const auto& c = *warp(box)->corners;
        const double upper = c[1].x - c[0].x, lower = c[2].x - c[3].x;
        QVERIFY(std::abs(upper - lower) > 0.2 && std::abs(c[0].y - c[1].y) < 1e-9);
        QVERIFY(t->bounds(box).h < 900);
        click("Straighten");
        QVERIFY(!warp(box));
    }

    void pointsOfAGrid() {
        const std::string id = putPicture();
        QTest::keyClick(&t->bench(), Qt::Key_G);
        choose("Bend by", 1);
        enter(t->find<QLineEdit>("Columns"), "2");
        enter(t->find<QLineEdit>("Rows"), "2");
        // The middle point, on the border of the colours, to the right.
        t->drag(t->bench(), t->on({1500, 1500}), t->on({1700, 1500}));
        leaveBench();
        QVERIFY(warp(id) && warp(id)->bend);
        QCOMPARE(warp(id)->bend->grid().columns, 2);
        QCOMPARE(t->seen({1620, 1560}), red);
        QCOMPARE(t->seen({1780, 1560}), white);
        QVERIFY(t->bench().sentence().contains("slope"));
        // More cells keep the bend.
        enter(t->find<QLineEdit>("Columns"), "4");
        t->settle();
        leaveBench();
        QCOMPARE(warp(id)->bend->grid().columns, 4);
        QCOMPARE(t->seen({1620, 1560}), red);
        QCOMPARE(t->seen({1780, 1560}), white);
        // A box takes several points in hand, which go together.
        t->drag(t->bench(), t->on({950, 950}), t->on({1060, 2060}));
        t->drag(t->bench(), t->on({1000, 1000}), t->on({800, 1000}));
        leaveBench();
        QCOMPARE(t->seen({830, 1560}), red);
        // A slope dragged.
        const QByteArray before = QByteArray::fromStdString(releaseToJson(*t->document().release()));
        QTest::keyClick(&t->bench(), Qt::Key_Escape);
        const auto meant = warpedLayer(t->bench());
        const Vec2 point = *meant->fromShares().map(meant->warp.bend->grid().node(2, 1).at);
        QTest::mouseClick(&t->bench(), Qt::LeftButton, Qt::NoModifier, t->on(point));
        const BendNode slopes = meant->warp.bend->slopesAt(2, 1);
        const Vec2 end = *meant->fromShares().map(slopes.at + *slopes.down * (1.0 / 3));
        t->drag(t->bench(), t->on(end), t->on(end + Vec2{150, 0}));
        QVERIFY(warp(id)->bend->grid().node(2, 1).down);
        t->document().undo();
        QCOMPARE(QByteArray::fromStdString(releaseToJson(*t->document().release())), before);
    }

    void readyBends() {
        TextContent words;
        words.spec.text = "Slack Tide", words.spec.letters.size = 300;
        words.colour = Ink{1, 1, 1, 1};
        Layer layer;
        layer.name = "Words";
        layer.content = words;
        layer.placement.position = {600, 1500};
        const std::string id = t->put(layer);
        QTest::keyClick(&t->bench(), Qt::Key_G);
        choose("Bend by", 1);
        const double flat = t->bounds(id).h;
        choose("Ready bend", 0);
        t->settle();
        QVERIFY(warp(id) && warp(id)->bend);
        QVERIFY(t->bounds(id).h > 1.3 * flat);
        enter(t->find<QLineEdit>("How much of the ready bend"), "0");
        t->settle();
        QVERIFY(std::abs(t->bounds(id).h - flat) < flat / 3);
    }
};

GLYPTOS_TEST(KneadBendTest)
#include "knead_bend_test.moc"
