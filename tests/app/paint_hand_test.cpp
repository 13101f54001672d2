// Painting on the bench, by mouse and by pen.
#include "support/handwork.h"
#include "support/register.h"

#include "app/hands/paint/paint_hand.h"
#include "app/window/stamp_picker.h"
#include "file/release_json/release_json.h"
#include "release/edits/brush_edits.h"
#include "release/edits/selection_edits.h"
#include "release/placing.h"

#include <QPointingDevice>
#include <QSignalSpy>
#include <QTabletEvent>

using namespace glyptos;
using namespace glyptos::test;

class PaintHandTest : public HandworkTest {
    Q_OBJECT

    PaintHand& painter() { return static_cast<PaintHand&>(t->bench().handOf(Hand::Paint)); }
    BrushBoard& brushes() { return t->window->compose()->brushes(); }
    const Brush& brush() { return t->bench().settings().paint.brush.brush; }

    void take(const QString& name, const std::function<void(PaintSettings&)>& change = {}) {
        QTest::keyClick(&t->bench(), Qt::Key_A);
        QVERIFY(t->settle([&] { return brushes().isRead(); }));
        QVERIFY2(brushes().choose(name), qPrintable(name));
        HandSettings next = t->bench().settings();
        next.paint.colour = Ink{0.8f, 0.1f, 0.1f, 1};
        if (change) change(next.paint);
        t->bench().setSettings(next);
    }
    /// A hard brush of that many px.
    void takeHard(double px, const std::function<void(PaintSettings&)>& change = {}) {
        take("Hard round", [&](PaintSettings& s) {
            s.brush.brush.diameter = px / t->bench().brushUnit();
            s.brush.brush.hardness = 1, s.brush.brush.steadying = 0;
            if (change) change(s);
        });
    }
    void stroke(Vec2 from, Vec2 to, Qt::KeyboardModifiers keys = Qt::NoModifier) {
        t->drag(t->bench(), t->on(from), t->on(to), keys);
        leaveBench();
    }
    const PaintedContent* paintOf(const std::string& id) {
        const LayerPtr layer = t->find(id);
        return layer ? layer->as<PaintedContent>() : nullptr;
    }
    QString said(const std::function<void()>& act) {
        QSignalSpy spy(&t->document(), &Document::refused);
        act();
        return spy.isEmpty() ? QString() : spy.last().first().toString();
    }

    const QPointingDevice pen{QStringLiteral("pen"),
                              7,
                              QInputDevice::DeviceType::Stylus,
                              QPointingDevice::PointerType::Pen,
                              QInputDevice::Capability::All,
                              1,
                              1};
    const QPointingDevice rubber{QStringLiteral("rubber"),
                                 8,
                                 QInputDevice::DeviceType::Stylus,
                                 QPointingDevice::PointerType::Eraser,
                                 QInputDevice::Capability::All,
                                 1,
                                 1};
    void penEvent(QEvent::Type type, Vec2 at, double pressure, const QPointingDevice& device) {
        const QPointF p = t->on(at);
        QTabletEvent event(type, &device, p, t->bench().mapToGlobal(p), pressure, 0, 0, 0, 0, 0,
                           Qt::NoModifier, type == QEvent::TabletMove ? Qt::NoButton : Qt::LeftButton,
                           Qt::LeftButton);
        QApplication::sendEvent(&t->bench(), &event);
    }

  private Q_SLOTS:
    void init() { begin(); }
    void cleanup() { t.reset(); }

    /// The first stroke makes a layer, the next goes on in it; undo, redo, saved and opened again it is as it
    /// was.
    void strokesOnANewLayer() {
        takeHard(200);
        const size_t before = t->layers().size();
        stroke({800, 1000}, {1600, 1000});
        QCOMPARE(t->layers().size(), before + 1);
        const std::string id = t->document().layer();
        QVERIFY(paintOf(id) && !paintOf(id)->holes);
        QCOMPARE(t->seen({1200, 1000}), red);
        QCOMPARE(t->seen({1200, 920}), red);
        QCOMPARE(t->seen({1200, 880}), ground);
        stroke({1200, 1600}, {1200, 2000});
        QCOMPARE(t->document().layer(), id);
        QCOMPARE(t->layers().size(), before + 1);
        QCOMPARE(t->seen({1200, 1800}), red);
        t->document().undo();
        t->settle();
        QCOMPARE(t->seen({1200, 1800}), ground);
        QCOMPARE(t->seen({1200, 1000}), red);
        t->document().redo();
        t->settle();
        const ReleasePtr painted = t->document().release();
        saveAndOpen();
        QCOMPARE(releaseToJson(*t->document().release()), releaseToJson(*painted));
        QCOMPARE(t->seen({1200, 1800}), red);
    }

    /// A stroke leaves the tiles that it did not touch as they are, the very same.
    void aStrokeCostsItsTiles() {
        takeHard(100);
        stroke({300, 300}, {2700, 300});
        const auto before = paintOf(t->document().layer())->tiles;
        stroke({300, 2000}, {700, 2000});
        const auto after = paintOf(t->document().layer())->tiles;
        size_t shared = 0;
        for (const auto& [place, tile] : before->tiles()) shared += after->tile(place) == tile;
        QCOMPARE(shared, before->tiles().size());
        QVERIFY(after->tiles().size() <= before->tiles().size() + 6);
    }

    void waysOfPainting() {
        takeHard(300);
        stroke({1000, 1500}, {1600, 1500});
        const auto way = [&](int index, const Ink& ink, double size = 300) {
            choose("The brush paints", index);
            HandSettings next = t->bench().settings();
            next.paint.colour = ink;
            next.paint.brush.brush.diameter = size / t->bench().brushUnit();
            t->bench().setSettings(next);
        };
        const QColor blue(0, 0, 255);
        way(1, Ink{0, 0, 1, 1}); // behind
        stroke({1600, 1500}, {2100, 1500});
        QCOMPARE(t->seen({1600, 1500}), red);
        QCOMPARE(t->seen({2000, 1500}), blue);
        way(2, Ink{0, 0, 1, 1}); // inside
        stroke({1000, 1400}, {1000, 1000});
        QCOMPARE(t->seen({1000, 1450}), blue);
        QCOMPARE(t->seen({1000, 1200}), ground);
        way(3, Ink{0, 0, 1, 1}, 150); // erases
        stroke({1300, 1500}, {1400, 1500});
        QCOMPARE(t->seen({1350, 1500}), ground);
        QCOMPARE(t->seen({1350, 1400}), red);
    }

    /// Shift draws a straight line from the end of the last stroke; with Ctrl in steps of 15°.
    void straightLines() {
        takeHard(60);
        stroke({500, 500}, {600, 500});
        QTest::mouseClick(&t->bench(), Qt::LeftButton, Qt::ShiftModifier, t->on({1500, 1500}));
        t->settle();
        leaveBench();
        QCOMPARE(t->seen({1050, 1000}), red);
        QTest::mouseClick(&t->bench(), Qt::LeftButton, Qt::ShiftModifier | Qt::ControlModifier,
                          t->on({2300, 1560}));
        t->settle();
        leaveBench();
        QCOMPARE(t->seen({2200, 1500}), red);
        QCOMPARE(t->seen({2200, 1560}), ground);
    }

    void itIsMirrored() {
        takeHard(120, [](PaintSettings& s) { s.symmetry.kind = Symmetry::Kind::Axis; });
        stroke({600, 700}, {900, 700});
        QCOMPARE(t->seen({700, 700}), red);
        QCOMPARE(t->seen({2300, 700}), red);
        takeHard(120, [](PaintSettings& s) {
            s.symmetry.kind = Symmetry::Kind::Centre, s.symmetry.arms = 4, s.symmetry.mirrored = false;
        });
        stroke({1500, 300}, {1500, 500});
        for (const Vec2 p : {Vec2{1500, 400}, {2600, 1500}, {1500, 2600}, {400, 1500}})
            QCOMPARE(t->seen(p), red);
    }

    /// A pen's pressure is the size; its other end erases; taken away in the middle of a stroke, that ends
    /// there.
    void pens() {
        takeHard(200);
        penEvent(QEvent::TabletPress, {500, 1000}, 1, pen);
        for (int i = 1; i <= 40; ++i) penEvent(QEvent::TabletMove, {500 + 50.0 * i, 1000}, 1 - 0.02 * i, pen);
        penEvent(QEvent::TabletRelease, {2500, 1000}, 0.2, pen);
        t->settle();
        leaveBench();
        QVERIFY(t->seen({600, 1085}).red() > 195);
        QCOMPARE(t->seen({2400, 1000}), red);
        QCOMPARE(t->seen({2400, 1040}), ground);
        penEvent(QEvent::TabletPress, {1000, 1000}, 1, rubber);
        penEvent(QEvent::TabletMove, {1000, 1010}, 1, rubber);
        penEvent(QEvent::TabletRelease, {1000, 1010}, 1, rubber);
        t->settle();
        leaveBench();
        QCOMPARE(t->seen({1000, 1000}), ground);
        stroke({980, 1000}, {1020, 1000}); // a mouse after it paints
        QCOMPARE(t->seen({1000, 1000}), red);
        const size_t steps = t->document().history().steps().size();
        penEvent(QEvent::TabletPress, {500, 2000}, 1, pen);
        penEvent(QEvent::TabletMove, {900, 2000}, 1, pen);
        QTabletEvent gone(QEvent::TabletLeaveProximity, &pen, {}, {}, 0, 0, 0, 0, 0, 0, Qt::NoModifier,
                          Qt::NoButton, Qt::NoButton);
        QApplication::sendEvent(qApp, &gone);
        t->settle();
        QCOMPARE(t->document().history().steps().size(), steps + 1);
        penEvent(QEvent::TabletMove, {900, 2500}, 1, pen); // hovers
        leaveBench();
        QCOMPARE(t->seen({700, 2000}), red);
        QCOMPARE(t->seen({900, 2300}), ground);
    }

    /// One of 20,000 px covers all; one of a tenth of a pixel leaves a trace, and nothing is refused or
    /// clamped.
    void extremeSizes() {
        takeHard(0.1);
        stroke({300, 2900}, {2700, 2900});
        const PixelTiles thin = *paintOf(t->document().layer())->tiles;
        QVERIFY(thin.bounds().w > 2300 && thin.bounds().h <= 3);
        enter(t->find<QLineEdit>("Size of the brush"), "0");
        QVERIFY(brush().diameter > 0); // refused
        takeHard(20000);
        QCOMPARE(t->find<QLineEdit>("Size of the brush")->text(), QString("20000 px"));
        stroke({1500, 1500}, {1510, 1500});
        for (const Vec2 p : {Vec2{20, 20}, {2980, 20}, {20, 2980}, {2980, 2980}}) QCOMPARE(t->seen(p), red);
    }

    /// What cannot be painted on says so, and stays as it is.
    void refusals() {
        takeHard(100);
        stroke({500, 500}, {700, 500});
        const std::string id = t->document().layer();
        const auto change = [&](const LayerChange& change) {
            t->document().edit("Change",
                               withChangedLayer(t->document().release(), t->document().panel(), id, change));
        };
        const auto refused = [&](const char* word) {
            const ReleasePtr before = t->document().release();
            const QString why = said([&] { stroke({500, 900}, {700, 900}); });
            return why.contains(word) && t->document().release() == before;
        };
        change([](Layer& l) { l.locked = true; });
        QVERIFY(refused("Paint is locked"));
        change([](Layer& l) { l.locked = false, l.on = false; });
        QVERIFY(refused("Paint is switched off"));
        change([](Layer& l) { l.on = true; });
        t->document().editMaking("Group", withGrouped(t->document().release(), t->document().panel(), {id}));
        const LayerPtr group = t->layers().front();
        t->document().edit("Hide", withChangedLayer(t->document().release(), t->document().panel(), group->id,
                                                    [](Layer& l) { l.on = false; }));
        t->document().selectLayer(id);
        QVERIFY(refused("in which that lies, is switched off"));
        t->document().edit("Show", withChangedLayer(t->document().release(), t->document().panel(), group->id,
                                                    [](Layer& l) { l.on = true; }));
        t->document().selectLayer(id);
        const QString outside = said([&] { stroke({-700, 900}, {-600, 900}); });
        QVERIFY2(outside.contains("Outside the panel"), qPrintable(outside));
    }

    /// Only what is selected is painted.
    void itKeepsToTheSelection() {
        AlphaMap half(1500, 3000);
        std::fill(half.values.begin(), half.values.end(), uint8_t(255));
        const auto selection = selectionOf(half, {}, 1, t->bench().panel()->withBleed());
        t->document().edit("Select",
                           withSelection(t->document().release(), t->document().panel(), selection));
        takeHard(200);
        stroke({1000, 1000}, {2000, 1000});
        QCOMPARE(t->seen({1300, 1000}), red);
        QCOMPARE(t->seen({1700, 1000}), ground);
    }

    /// Esc takes a stroke back that is going on.
    void escape() {
        takeHard(200);
        const ReleasePtr before = t->document().release();
        QTest::mousePress(&t->bench(), Qt::LeftButton, Qt::NoModifier, t->on({500, 500}));
        QVERIFY(t->document().shown() != before);
        QTest::keyClick(&t->bench(), Qt::Key_Escape);
        QTest::mouseRelease(&t->bench(), Qt::LeftButton, Qt::NoModifier, t->on({500, 500}));
        QCOMPARE(t->document().shown(), before);
    }

    void keys() {
        takeHard(200);
        t->putBox("Blue", {0, 0, 800, 800}, {0, 0, 1, 1});
        QTest::keyClick(&t->bench(), Qt::Key_A);
        const QPointF over = t->on({400, 400});
        QMouseEvent move(QEvent::MouseMove, over, t->bench().mapToGlobal(over), Qt::NoButton, Qt::NoButton,
                         Qt::NoModifier);
        QApplication::sendEvent(&t->bench(), &move);
        QTest::keyClick(&t->bench(), Qt::Key_V);
        const Ink& colour = t->bench().settings().paint.colour;
        QVERIFY(colour.r < 0.02f && colour.b > 0.98f);
        const double was = brush().diameter;
        QTest::keyClick(&t->bench(), Qt::Key_Period);
        QVERIFY(std::abs(brush().diameter - was * 1.2) < 1e-6);
    }

    /// Kept as a line it is a path with nodes, whose brush, width and chance are changed afterwards.
    void linesThatAreKept() {
        takeHard(120, [](PaintSettings& s) { s.keepsCurves = true; });
        stroke({600, 1500}, {2400, 1500});
        const std::string id = t->document().layer();
        const auto* shape = t->find(id)->as<ShapeContent>();
        QVERIFY(shape && shape->stroke && shape->stroke->brushed);
        QVERIFY(shape->contours.size() == 1 && shape->contours[0].nodes.size() <= 4);
        QCOMPARE(t->seen({1500, 1500}), red);
        QCOMPARE(t->seen({1500, 1450}), red);
        QCOMPARE(t->seen({1500, 1430}), ground);
        enter(t->find<QLineEdit>("Stroke width"), "400");
        t->settle();
        leaveBench();
        QCOMPARE(t->seen({1500, 1350}), red);
        // Drawn by another brush, and by a pen again.
        auto* drawn = t->find<QComboBox>("The line is drawn by");
        QVERIFY(drawn);
        QVERIFY(t->settle([&] { return drawn->count() > 10; }));
        choose("The line is drawn by", drawn->findText("Pebbles"));
        t->settle();
        QVERIFY(t->find(id)->as<ShapeContent>()->stroke->brushed->brush.spacing > 1);
        enter(t->find<QLineEdit>("Spacing"), "3");
        t->settle();
        QCOMPARE(t->find(id)->as<ShapeContent>()->stroke->brushed->brush.spacing, 3.0);
        QCOMPARE(t->find(id)->as<ShapeContent>()->stroke->width, 400.0);
        choose("The line is drawn by", 0);
        t->settle();
        QVERIFY(!t->find(id)->as<ShapeContent>()->stroke->brushed);
    }

    /// Gulls along the turns of a spiral, in one press.
    void alongItsTurns() {
        Gradient g;
        g.kind = GradientKind::Spiral, g.from = {1500, 1500}, g.to = {2900, 1500}, g.turns = 3;
        g.stops = {{0, Ink{0.1f, 0.1f, 0.2f, 1}}, {1, Ink{0.1f, 0.1f, 0.2f, 1}}};
        Layer spiral;
        spiral.name = "Whirl", spiral.content = FillContent{g};
        t->put(spiral);
        take("Gulls", [](PaintSettings& s) { s.brush.brush.spread = 0, s.brush.brush.sizeJitter = 0; });
        QVERIFY(choose("Ways", "Draw along"));
        const LayerPtr made = t->document().selectedLayer();
        QVERIFY(made && made->name == "Gulls along the turns of Whirl");
        const auto* shape = made->as<ShapeContent>();
        QVERIFY(shape->stroke->brushed->stamps.size() == 1);
        leaveBench();
        int seen = 0;
        for (const Vec2& p : turnsOf(g, 1400)) {
            if ((p - g.from).length() < 300) continue;
            const QColor c = t->seen(p);
            seen += c.red() > 100;
        }
        QVERIFY2(seen > 5, qPrintable(QString::number(seen)));
        const QString none = said([&] {
            t->document().selectLayer(t->layer("Ground")->id);
            painter().drawAlong();
        });
        QVERIFY(none.contains("no outline and no turns"));
    }

    /// Pictures in hand become stamps; the brush is saved by a name, found, taken and removed.
    void ownBrushes() {
        put("leaf", pictureOf(80, 80, [](int, int) { return std::array<uint8_t, 4>{20, 200, 40, 255}; }));
        QTest::keyClick(&t->bench(), Qt::Key_A);
        QVERIFY(t->settle([&] { return brushes().isRead(); }));
        painter().takeStamps();
        t->document().edit("Hide", withChangedLayer(t->document().release(), t->document().panel(),
                                                    t->document().layer(), [](Layer& l) { l.on = false; }));
        QCOMPARE(t->bench().settings().paint.brush.stamps.size(), size_t(1));
        HandSettings next = t->bench().settings();
        next.paint.brush.brush.diameter = 100, next.paint.brush.brush.spacing = 3;
        t->bench().setSettings(next);
        t->document().selectLayer(t->layer("Ground")->id);
        stroke({500, 2500}, {2500, 2500});
        QVERIFY(t->seen({500, 2500}).green() > 180);
        QCOMPARE(t->seen({700, 2500}), ground);
        brushes().save("Leaf of Ísafjörður");
        QVERIFY(t->settle([&] { return t->bench().settings().paint.brush.own; }));
        std::vector<std::string> troubles;
        const auto own = glyptos::ownBrushes(troubles);
        QVERIFY(troubles.empty());
        QCOMPARE(own.size(), size_t(1));
        QCOMPARE(own[0].name, std::string("Leaf of Ísafjörður"));
        QCOMPARE(own[0].brush.spacing, 3.0);
        QVERIFY(matches(own[0], "ísaf leaf") && !matches(own[0], "gull"));
        // Another brush and back: its picture is found in the release.
        QVERIFY(brushes().choose("Soft round"));
        QVERIFY(t->settle([&] { return brushes().choose("Leaf of Ísafjörður"); }));
        stroke({500, 2000}, {600, 2000});
        QVERIFY(t->seen({500, 2000}).green() > 180);
        QVERIFY(removeBrush(own[0]));
        QVERIFY(glyptos::ownBrushes(troubles).empty());
        // In a release without that picture, and with no crate that has it: said, and nothing is painted.
        ReleasePtr without = t->document().release();
        for (const LayerPtr& l : Stack(t->layers()))
            if (l->as<PictureContent>()) without = withoutLayer(without, t->document().panel(), l->id);
        t->document().edit("Without the picture", withoutUnusedSources(without));
        t->document().selectLayer(t->layer("Ground")->id);
        next = t->bench().settings();
        next.paint.sources.clear();
        t->bench().setSettings(next);
        const QString gone = said([&] { stroke({500, 2000}, {600, 2000}); });
        QVERIFY2(gone.contains("neither in this release nor in the crate"), qPrintable(gone));
    }

    /// A picture of the crate becomes the stamp; the release gets it only with a line that is kept.
    void stampsFromTheCrate() {
        QImage leaf(64, 64, QImage::Format_RGBA8888);
        leaf.fill(QColor(20, 200, 40));
        t->window->crate().addImage(leaf, "Leaf");
        QVERIFY(t->settle([&] {
            return t->window->crate().shelf() && !t->window->crate().shelf()->entries().empty() &&
                   !t->window->crate().busy();
        }));
        takeHard(100);
        Q_EMIT brushes().stampsFromCrateAsked();
        auto* picker = t->window->findChild<StampPicker*>();
        QVERIFY(picker);
        auto* list = picker->findChild<QListWidget*>();
        QCOMPARE(list->count(), 1);
        list->item(0)->setSelected(true);
        for (QPushButton* button : picker->findChildren<QPushButton*>())
            if (button->text() == "Use as stamps") button->click();
        const PaintSettings& paint = t->bench().settings().paint;
        QVERIFY(t->settle(
            [&] { return paint.brush.stamps.size() == 1 && !paint.brush.stamps[0].source.empty(); }));
        QCOMPARE(int(paint.brush.brush.tip), int(TipKind::Stamp));
        // The first try may find it still being read.
        QVERIFY(t->settle([&] { return bool(t->bench().stampLooks(100)); }));
        stroke({600, 600}, {700, 600});
        QVERIFY(t->seen({600, 600}).green() > 180);
        QVERIFY(t->document().release()->sources.empty());
        HandSettings next = t->bench().settings();
        next.paint.keepsCurves = true;
        t->bench().setSettings(next);
        stroke({600, 1600}, {1800, 1600});
        QCOMPARE(t->document().release()->sources.size(), size_t(1));
        QVERIFY(t->seen({600, 1600}).green() > 180);
    }

    /// A mask painted with a brush of Paint's.
    void masksToo() {
        const std::string id = t->putBox("Board", {500, 500, 2000, 2000}, {1, 1, 1, 1});
        takeHard(300, [](PaintSettings& s) { s.brush.brush.opacity = 1; });
        QTest::keyClick(&t->bench(), Qt::Key_K);
        HandSettings next = t->bench().settings();
        next.maskAsPaint = true;
        t->bench().setSettings(next);
        stroke({1000, 1500}, {2000, 1500});
        QVERIFY(painted(id));
        QCOMPARE(t->seen({1500, 1500}), ground);
        QCOMPARE(t->seen({1500, 1400}), ground);
        QCOMPARE(t->seen({1500, 1300}), QColor(255, 255, 255));
    }
};

GLYPTOS_TEST(PaintHandTest)
#include "paint_hand_test.moc"
