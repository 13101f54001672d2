// Shapes, paths and gradients drawn on the bench, colours picked from it.
#include "support/register.h"
#include "support/window.h"

#include <QClipboard>
#include <QColor>
#include <QComboBox>
#include <QGuiApplication>
#include <QToolButton>

using namespace glyptos;
using namespace glyptos::test;

class DrawingTest : public QObject {
    Q_OBJECT
    std::unique_ptr<TestWindow> t;

    double unit() { return 2 / t->bench().zoom(); }
    bool isAbout(double a, double b) { return std::abs(a - b) <= unit(); }
    bool isNear(Vec2 a, Vec2 b) { return isAbout(a.x, b.x) && isAbout(a.y, b.y); }
    void choose(const QString& shape) {
        QTest::keyClick(&t->bench(), Qt::Key_S);
        auto* kind = t->find<QComboBox>("Shape to draw");
        QVERIFY(kind);
        kind->setCurrentText(shape);
        QCOMPARE(kind->currentText(), shape);
        Q_EMIT kind->activated(kind->currentIndex());
    }
    const ShapeContent& shape() { return *t->document().selectedLayer()->as<ShapeContent>(); }

  private Q_SLOTS:
    void init() {
        t = std::make_unique<TestWindow>();
        t->window->showStep(Step::Compose);
        t->bench().setSnap({false, false});
        Layer ground;
        ground.name = "Ground";
        ground.content = FillContent{Rgba{0.1f, 0.1f, 0.2f, 1}};
        t->put(ground);
    }
    void cleanup() { t.reset(); }

    void aBoxIsDragged() {
        choose("box");
        t->drag(t->bench(), t->on({600, 600}), t->on({1500, 1100}));
        const Rect box = t->bounds(t->document().layer());
        QVERIFY(isNear({box.x, box.y}, {600, 600}) && isNear({box.w, box.h}, {900, 500}));
        QCOMPARE(t->seen({1000, 800}), QColor("#F4F1EA"));
        QCOMPARE(t->seen({2000, 800}), QColor(26, 26, 51));
        QCOMPARE(t->layers().size(), size_t(2));
        t->document().undo();
        QCOMPARE(t->layers().size(), size_t(1));
    }

    void shiftKeepsItEvenAndAltDrawsFromTheMiddle() {
        choose("ellipse");
        t->drag(t->bench(), t->on({1500, 1500}), t->on({2000, 1700}), Qt::ShiftModifier | Qt::AltModifier);
        const Rect round = t->bounds(t->document().layer());
        QVERIFY(isNear(round.centre(), {1500, 1500}) && isNear({round.w, round.h}, {1000, 1000}));
    }

    void anArrowPointsWhereItWasDragged() {
        choose("arrow");
        t->drag(t->bench(), t->on({500, 500}), t->on({500, 1500}));
        QCOMPARE(shape().kind, ShapeKind::Line);
        QVERIFY(std::abs(t->document().selectedLayer()->placement.turn - 90) < 0.5);
        QVERIFY(isAbout(shape().width, 1000));
        // The head is wider than the shaft near its end only.
        t->document().selectLayer({}); // no grip of it may be taken for its head
        t->settle();
        const auto wide = [&](double from, double to) {
            bool any = false;
            for (double y = from; y < to; y += 4) any = any || t->seen({500 + 13, y}) != QColor(26, 26, 51);
            return any;
        };
        QVERIFY(wide(1400, 1500) && !wide(520, 1300));
    }

    void anOrnamentIsDrawnInAnyColour() {
        QTest::keyClick(&t->bench(), Qt::Key_S);
        QToolButton* anchor = nullptr;
        QVERIFY(QTest::qWaitFor([&] {
            for (QToolButton* b : t->window->findChildren<QToolButton*>())
                if (b->accessibleName() == "Anchor") anchor = b;
            return anchor != nullptr;
        }));
        anchor->click();
        t->drag(t->bench(), t->on({1000, 1000}), t->on({2000, 2000}));
        QCOMPARE(t->document().selectedLayer()->name, std::string("Anchor"));
        const Rect box = t->bounds(t->document().layer());
        // It keeps its shape: as large as covers the way that was dragged, from where that began.
        const ShapeContent& own = *t->document().selectedLayer()->as<ShapeContent>();
        QVERIFY(isNear({box.x, box.y}, {1000, 1000}));
        QVERIFY(isAbout(std::min(box.w, box.h), 1000) && std::max(box.w, box.h) < 1200);
        QVERIFY(std::abs(box.h / box.w - own.height / own.width) < 1e-6);
        QCOMPARE(t->seen({1500, 1500}), QColor("#F4F1EA")); // its shank
        QCOMPARE(t->seen({1200, 1500}), QColor(26, 26, 51));
        QTest::keyClick(&t->bench(), Qt::Key_P);
        t->putBox("Red", {100, 100, 300, 300}, {1, 0, 0, 1});
        t->document().selectLayer(t->layer("Anchor")->id);
        QTest::mouseClick(&t->bench(), Qt::LeftButton, {}, t->on({250, 250}));
        t->settle();
        QCOMPARE(t->seen({1500, 1500}), QColor(255, 0, 0));
    }

    void aPathIsClickedNodeByNode() {
        choose("free path");
        for (const Vec2 at : {Vec2{600, 600}, Vec2{1800, 600}, Vec2{1200, 1800}})
            QTest::mouseClick(&t->bench(), Qt::LeftButton, {}, t->on(at));
        QTest::mouseClick(&t->bench(), Qt::LeftButton, {}, t->on({600, 600})); // closes it
        t->settle();
        QCOMPARE(shape().kind, ShapeKind::Free);
        QVERIFY(shape().contours[0].closed && shape().contours[0].nodes.size() == 3);
        QCOMPARE(t->seen({1200, 900}), QColor("#F4F1EA"));
        QCOMPARE(t->seen({650, 1700}), QColor(26, 26, 51));

        // A node is dragged; the frame follows.
        t->drag(t->bench(), t->on({1200, 1800}), t->on({1200, 2400}));
        const Rect after = t->bounds(t->document().layer());
        QVERIFY(isAbout(after.y, 600) && isAbout(after.bottom(), 2400));
        QCOMPARE(t->seen({1200, 2000}), QColor("#F4F1EA"));

        // A node on the upper side, which is then taken away with Delete; the layer stays.
        QTest::mouseDClick(&t->bench(), Qt::LeftButton, {}, t->on({1200, 600}));
        QCOMPARE(shape().contours[0].nodes.size(), size_t(4));
        QTest::mouseClick(&t->bench(), Qt::LeftButton, {}, t->on({1200, 600}));
        QTest::keyClick(&t->bench(), Qt::Key_Delete);
        QCOMPARE(shape().contours[0].nodes.size(), size_t(3));
    }

    void anOpenPathBendsAndEndsWithEnter() {
        choose("free path");
        QTest::mouseClick(&t->bench(), Qt::LeftButton, {}, t->on({600, 1500}));
        t->drag(t->bench(), t->on({1500, 1500}), t->on({1500, 900}));
        QTest::mouseClick(&t->bench(), Qt::LeftButton, {}, t->on({2400, 1500}));
        QTest::keyClick(&t->bench(), Qt::Key_Return);
        const auto& nodes = shape().contours[0].nodes;
        QVERIFY(!shape().contours[0].closed && nodes.size() == 3);
        QVERIFY(isAbout(nodes[1].after.y, -600) && isAbout(nodes[1].before.y, 600));
        QVERIFY(shape().stroke && !shape().fill);
        t->document().undo();
        QCOMPARE(t->layers().size(), size_t(1));
    }

    void escapeLeavesAPathUndrawn() {
        choose("free path");
        QTest::mouseClick(&t->bench(), Qt::LeftButton, {}, t->on({600, 1500}));
        QTest::mouseClick(&t->bench(), Qt::LeftButton, {}, t->on({900, 1500}));
        QTest::keyClick(&t->bench(), Qt::Key_Escape);
        QCOMPARE(t->layers().size(), size_t(1));
        QCOMPARE(t->bench().hand(), Hand::Shape);
    }

    void aGradientIsLaidAndItsEndsMoved() {
        QTest::keyClick(&t->bench(), Qt::Key_F);
        t->drag(t->bench(), t->on({500, 1500}), t->on({2500, 1500}));
        const auto run = [&] {
            return std::get<Gradient>(t->document().selectedLayer()->as<FillContent>()->paint);
        };
        QVERIFY(isNear(run().from, {500, 1500}) && isNear(run().to, {2500, 1500}));
        // The colour of the fill at the start, nothing of it at the end: paper is seen there.
        QCOMPARE(t->seen({300, 300}), QColor(26, 26, 51));
        QVERIFY(t->seen({2800, 300}).lightness() > 250);
        const int middle = t->seen({1500, 300}).red();
        QVERIFY(std::abs(middle - (26 + 255) / 2) <= 3);

        t->drag(t->bench(), t->on({2500, 1500}), t->on({1500, 1500}));
        QVERIFY(isNear(run().to, {1500, 1500}));
        QVERIFY(t->seen({1600, 300}).lightness() > 250);
    }

    void coloursAreAddedMovedAndThrownAway() {
        QTest::keyClick(&t->bench(), Qt::Key_F);
        t->drag(t->bench(), t->on({500, 1500}), t->on({2500, 1500}));
        const auto run = [&] {
            return std::get<Gradient>(t->document().selectedLayer()->as<FillContent>()->paint);
        };
        QTest::mouseDClick(&t->bench(), Qt::LeftButton, {}, t->on({1500, 1500}));
        QCOMPARE(run().stops.size(), size_t(3));
        QVERIFY(std::abs(run().stops[1].at - 0.5) < 0.01 && std::abs(run().stops[1].colour.a - 0.5) < 0.01);
        t->drag(t->bench(), t->on({1500, 1500}), t->on({2000, 1500}));
        QVERIFY(std::abs(run().stops[1].at - 0.75) < 0.01);
        QVERIFY(std::abs(t->seen({2000, 300}).red() - (26 + 255) / 2) <= 3);
        t->drag(t->bench(), t->on({2000, 1500}), t->on({2000, 2700}));
        QCOMPARE(run().stops.size(), size_t(2));
    }

    void aSpiralIsPutWhereItBelongs() {
        Gradient spiral;
        spiral.kind = GradientKind::Spiral;
        spiral.from = {1000, 1000}, spiral.to = {2000, 1000}, spiral.turns = 2;
        spiral.stops = {{0, {0, 0, 0, 1}}, {1, {1, 1, 1, 1}}};
        t->document().edit("Spiral", withChangedLayer(t->document().release(), t->document().panel(),
                                                      t->document().layer(),
                                                      [&](Layer& l) { l.content = FillContent{spiral}; }));
        t->settle();
        const QColor before = t->seen({1500, 1700});
        QTest::keyClick(&t->bench(), Qt::Key_F);
        t->drag(t->bench(), t->on({1000, 1000}), t->on({1400, 1300}));
        const auto run = std::get<Gradient>(t->document().selectedLayer()->as<FillContent>()->paint);
        QVERIFY(isNear(run.from, {1400, 1300}) && isNear(run.to, {2400, 1300}));
        // The picture has moved with its middle.
        const QColor after = t->seen({1900, 2000});
        QVERIFY(std::abs(before.red() - after.red()) <= 12);
        QCOMPARE(t->document().history().undoName(), std::string("Place a gradient"));
    }

    void aPickedColourGoesToTheLayerInHand() {
        const std::string red = t->putBox("Red", {300, 300, 600, 600}, {0.8f, 0.1f, 0.1f, 1});
        const std::string words = t->putBox("Other", {1500, 300, 600, 600}, {0, 1, 0, 1});
        QTest::keyClick(&t->bench(), Qt::Key_P);
        QTest::mouseClick(&t->bench(), Qt::LeftButton, {}, t->on({600, 600}));
        t->settle();
        QCOMPARE(std::get<Ink>(*t->find(words)->as<ShapeContent>()->fill),
                 (Ink{0.8f, 26 / 255.0f, 26 / 255.0f, 1}));
        QCOMPARE(QGuiApplication::clipboard()->text(), QString("#cc1a1a"));
        // A picture or nothing in hand: the colour is copied alone.
        t->document().selectLayer({});
        QTest::mouseClick(&t->bench(), Qt::LeftButton, {}, t->on({100, 2800}));
        QCOMPARE(QGuiApplication::clipboard()->text(), QString("#1a1a33"));
    }
};

GLYPTOS_TEST(DrawingTest)
#include "drawing_test.moc"
