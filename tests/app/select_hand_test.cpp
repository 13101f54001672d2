// Parts of a panel selected on the bench, and what is made of them.
#include "support/handwork.h"
#include "support/register.h"

#include "app/hands/select_hand.h"

#include <QSignalSpy>

using namespace glyptos;
using namespace glyptos::test;

class SelectHandTest : public HandworkTest {
    Q_OBJECT

  private Q_SLOTS:
    void init() { begin(); }
    void cleanup() { t.reset(); }

    void boxesMeet() {
        QTest::keyClick(&t->bench(), Qt::Key_E);
        choose("Select by", 1);
        t->drag(t->bench(), t->on({500, 500}), t->on({1500, 1500}));
        QCOMPARE(selected({1000, 1000}), 255);
        QCOMPARE(selected({1800, 1800}), 0);
        t->drag(t->bench(), t->on({1200, 1200}), t->on({2000, 2000}), Qt::ShiftModifier);
        QCOMPARE(selected({1800, 1800}), 255);
        t->drag(t->bench(), t->on({900, 900}), t->on({1100, 1100}), Qt::AltModifier);
        QCOMPARE(selected({1000, 1000}), 0);
        t->drag(t->bench(), t->on({400, 400}), t->on({1300, 1300}), Qt::ShiftModifier | Qt::AltModifier);
        QCOMPARE(selected({700, 700}), 255);
        QCOMPARE(selected({1800, 1800}), 0);
        for (int i = 0; i < 3; ++i) t->document().undo();
        QCOMPARE(selected({1000, 1000}), 255);
        QVERIFY(choose("Change", "Turned over"));
        QCOMPARE(selected({1000, 1000}), 0);
        QCOMPARE(selected({2500, 2500}), 255);
        QVERIFY(choose("Change", "Nothing"));
        QVERIFY(!selection());
    }

    void whatALayerCovers() {
        t->putBox("Box", {500, 500, 1000, 1000}, {0.8f, 0.1f, 0.1f, 0.5f});
        QTest::keyClick(&t->bench(), Qt::Key_E);
        QVERIFY(choose("Change", "What the layer covers"));
        QVERIFY(std::abs(selected({1000, 1000}) - 128) <= 1);
        QCOMPARE(selected({1800, 1800}), 0);
        QVERIFY(choose("Change", "The light of the layer"));
        const double luma = 0.2126 * 0.8 + 0.7152 * 0.1 + 0.0722 * 0.1;
        QVERIFY(std::abs(selected({1000, 1000}) - 255 * luma * 0.5) <= 2);
        QVERIFY(choose("Change", "Nothing"));
        QVERIFY(!selection());
    }

    void whatASelectionBecomes() {
        const std::string box = t->putBox("Box", {500, 500, 2000, 2000}, {0.8f, 0.1f, 0.1f, 1});
        QTest::keyClick(&t->bench(), Qt::Key_E);
        choose("Select by", 2);
        t->drag(t->bench(), t->on({1000, 1000}), t->on({2000, 2000}));
        QVERIFY(choose("Make of it", "A layer of its own, cut"));
        QCOMPARE(t->layers().size(), size_t(3));
        QCOMPARE(t->seen({1500, 1500}), red);
        const std::string part = t->document().layer();
        QVERIFY(part != box);
        t->document().edit("Remove", withoutLayer(t->document().release(), t->document().panel(), part));
        t->settle();
        QCOMPARE(t->seen({1500, 1500}), ground);
        QCOMPARE(t->seen({700, 700}), red);
        t->document().selectLayer(box);
        QVERIFY(choose("Make of it", "A mask: Box shows only here"));
        QCOMPARE(t->seen({700, 700}), ground);
    }

    void byColour() {
        t->putBox("Box", {500, 500, 600, 600}, {0.8f, 0.1f, 0.1f, 1});
        t->putBox("Other", {1800, 1800, 600, 600}, {0.8f, 0.12f, 0.1f, 1});
        QTest::keyClick(&t->bench(), Qt::Key_E);
        choose("Select by", 6);
        QTest::mouseClick(&t->bench(), Qt::LeftButton, Qt::NoModifier, t->on({800, 800}));
        t->settle();
        QCOMPARE(selected({800, 800}), 255);
        QCOMPARE(selected({2100, 2100}), 0); // another patch
        QCOMPARE(selected({1500, 1500}), 0);
    }

    void aLineFollowsTheEdge() {
        t->putBox("Box", {700, 700, 1600, 1600}, {0.8f, 0.1f, 0.1f, 1});
        QTest::keyClick(&t->bench(), Qt::Key_E);
        choose("Select by", 5);
        // Clicks near the corners, off the edge by some pixels.
        const auto click = [&](Vec2 at) {
            QMouseEvent move(QEvent::MouseMove, QPointF(t->on(at)),
                             t->bench().mapToGlobal(QPointF(t->on(at))), Qt::NoButton, Qt::NoButton,
                             Qt::NoModifier);
            QApplication::sendEvent(&t->bench(), &move);
            t->settle();
            QTest::mouseClick(&t->bench(), Qt::LeftButton, Qt::NoModifier, t->on(at));
        };
        for (const Vec2 at : {Vec2{700, 700}, {2300, 702}, {2302, 2300}, {700, 2300}, {700, 1500}}) click(at);
        QTest::keyClick(&t->bench(), Qt::Key_Return);
        t->settle();
        const auto now = selection();
        QVERIFY(now);
        const IntRect b = now->tiles->bounds();
        QVERIFY(std::abs(b.x - 700) <= 12 && std::abs(b.right() - 2300) <= 12 &&
                std::abs(b.bottom() - 2300) <= 12);
        QCOMPARE(selected({1500, 1500}), 255);
    }

    void theSelectionItselfIsMoved() {
        t->putBox("Box", {500, 500, 2000, 2000}, {0.8f, 0.1f, 0.1f, 1});
        QTest::keyClick(&t->bench(), Qt::Key_E);
        choose("Select by", int(SelectBy::Box));
        t->drag(t->bench(), t->on({800, 800}), t->on({1200, 1200}));
        choose("Select by", int(SelectBy::Itself));
        t->drag(t->bench(), t->on({1000, 1000}), t->on({1600, 1300}));
        QCOMPARE(selected({1000, 1000}), 0);
        QCOMPARE(selected({1600, 1300}), 255);
        const IntRect before = selection()->tiles->bounds();
        // Its right bottom corner drawn out to twice the size.
        t->drag(t->bench(), t->on({double(before.right()), double(before.bottom())}),
                t->on({double(before.right() + before.w), double(before.bottom() + before.h)}));
        const IntRect after = selection()->tiles->bounds();
        QVERIFY(std::abs(after.w - 2 * before.w) <= 16 && std::abs(after.h - 2 * before.h) <= 16);
        QVERIFY(std::abs(after.x - before.x) <= 2 && std::abs(after.y - before.y) <= 2);
        QTest::keyClick(&t->bench(), Qt::Key_Right, Qt::ShiftModifier);
        t->settle();
        QCOMPARE(selection()->tiles->bounds().x, after.x + 10);
        // Faster than it can be worked out, no step is lost.
        for (int i = 0; i < 5; ++i) QTest::keyClick(&t->bench(), Qt::Key_Left);
        t->settle();
        QCOMPARE(selection()->tiles->bounds().x, after.x + 5);
        // By its upper grip a quarter turn to the right, with Shift by steps.
        const Rect now = selection()->tiles->bounds().toRect();
        const Vec2 top = t->bench().toView().map({now.centre().x, now.y});
        t->drag(t->bench(), QPoint(int(top.x), int(top.y - 26)), t->on({now.right() + 300, now.centre().y}),
                Qt::ShiftModifier);
        const IntRect turned = selection()->tiles->bounds();
        QVERIFY(std::abs(turned.w - after.h) <= 3 && std::abs(turned.h - after.w) <= 3);
        QTest::keyClick(&t->bench(), Qt::Key_Escape);
    }

    void slicedAlongLines() {
        const std::string box = t->putBox("Lighthouse", {1000, 500, 1000, 2000}, {0.8f, 0.1f, 0.1f, 1});
        QTest::keyClick(&t->bench(), Qt::Key_J);
        enter(t->find<QLineEdit>("Gap between the slices"), "100");
        enter(t->find<QLineEdit>("Shade along the cuts"), "0");
        t->drag(t->bench(), t->on({900, 1200}), t->on({2100, 1203}), Qt::ShiftModifier); // level
        t->drag(t->bench(), t->on({900, 1900}), t->on({2100, 1800}));
        QVERIFY(t->bench().sentence().contains("along the lines"));
        QTest::keyClick(&t->bench(), Qt::Key_Backspace);
        t->drag(t->bench(), t->on({900, 1800}), t->on({2100, 1800}), Qt::ShiftModifier);
        QTest::keyClick(&t->bench(), Qt::Key_Return);
        t->settle();
        const auto* all = t->layers().front()->as<GroupContent>();
        QVERIFY(all && all->layers.size() == 3);
        QVERIFY(!t->find(box));
        // Its frame is as large as what is seen of it.
        QCOMPARE(t->bounds(t->layers().front()->id), (Rect{1000, 400, 1000, 2200}));
        leaveBench();
        QCOMPARE(t->seen({1500, 1150}), ground);
        QCOMPARE(t->seen({1500, 1850}), ground);
        for (const double y : {430.0, 1000.0, 1500.0, 2000.0, 2580.0}) QCOMPARE(t->seen({1500, y}), red);
        t->document().undo();
        t->settle();
        QCOMPARE(t->seen({1500, 1150}), red);
        // A line that misses says so and stays to be taken back.
        t->document().selectLayer(box);
        t->drag(t->bench(), t->on({100, 100}), t->on({700, 100}));
        const ReleasePtr before = t->document().release();
        QSignalSpy refused(&t->document(), &Document::refused);
        QTest::keyClick(&t->bench(), Qt::Key_Return);
        QCOMPARE(t->document().release(), before);
        QVERIFY(refused.count() == 1 && refused[0][0].toString().contains("No line crosses"));
    }
};

GLYPTOS_TEST(SelectHandTest)
#include "select_hand_test.moc"
