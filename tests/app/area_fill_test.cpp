// Areas between lines, filled by clicking into a drawing in the real window.
#include "support/handwork.h"
#include "support/register.h"

#include "app/hands/fill_hand.h"
#include "release/placing.h"

#include <QSignalSpy>

using namespace glyptos;
using namespace glyptos::test;

class AreaFillTest : public HandworkTest {
    Q_OBJECT

    AreaFill& areas() { return static_cast<FillHand&>(t->bench().handOf(Hand::Fill)).areas(); }

    /// Two boxes side by side with black outlines, as one free path; its id.
    std::string putBoxes(bool closed = true) {
        const auto box = [&](double left, bool whole) {
            Contour out;
            out.closed = whole;
            for (const Vec2 p : {Vec2{left + 600, -400}, {left, -400}, {left, 400}, {left + 600, 400}})
                out.nodes.push_back({p, {}, {}});
            return out;
        };
        ShapeContent shape;
        shape.kind = ShapeKind::Free;
        shape.contours = {box(-700, true), box(100, closed)};
        shape.width = 1400, shape.height = 800;
        shape.fill.reset();
        shape.stroke = StrokeStyle{};
        shape.stroke->width = 20, shape.stroke->paint = Ink{0, 0, 0, 1};
        Layer layer;
        layer.name = "Chart", layer.content = shape;
        layer.placement.position = {1500, 1500};
        return t->put(layer);
    }
    void takeFill(const Paint& paint) {
        QTest::keyClick(&t->bench(), Qt::Key_F);
        HandSettings next = t->bench().settings();
        next.fill.between = true, next.fill.paint = paint;
        t->bench().setSettings(next);
    }
    void click(Vec2 at) {
        QTest::mouseClick(&t->bench(), Qt::LeftButton, Qt::NoModifier, t->on(at));
        QVERIFY(t->settle([&] { return !t->bench().isBusy(); }));
        leaveBench();
    }
    const GroupContent* colours() {
        for (const LayerPtr& l : t->layers())
            if (l->name == "Colours of Chart") return l->as<GroupContent>();
        return nullptr;
    }
    const Ink blue{0, 0, 1, 1}, green{0, 1, 0, 1};

  private Q_SLOTS:
    void init() { begin(); }
    void cleanup() { t.reset(); }

    /// Filled below the lines up to their middle; another click with another colour changes it.
    void clicks() {
        const std::string id = putBoxes();
        takeFill(blue);
        click({1100, 1500});
        QVERIFY(colours());
        QCOMPARE(t->document().layer(), id);
        QCOMPARE(t->seen({1100, 1500}), QColor(0, 0, 255));
        QCOMPARE(t->seen({1500, 1500}), ground); // between the boxes
        QCOMPARE(t->seen({1900, 1500}), ground);
        QCOMPARE(t->seen({800, 1500}), QColor(0, 0, 0)); // the line lies over it
        const auto at = std::find_if(t->layers().begin(), t->layers().end(),
                                     [&](const LayerPtr& l) { return l->id == id; });
        QCOMPARE((*(at + 1))->name, std::string("Colours of Chart"));
        takeFill(green);
        click({1900, 1500});
        QCOMPARE(t->seen({1900, 1500}), QColor(0, 255, 0));
        QCOMPARE(colours()->layers.size(), size_t(2));
        click({1100, 1500});
        QCOMPARE(t->seen({1100, 1500}), QColor(0, 255, 0));
        QCOMPARE(colours()->layers.size(), size_t(1)); // nothing is blue any more
        t->document().undo();
        t->settle();
        QCOMPARE(t->seen({1100, 1500}), QColor(0, 0, 255));
    }

    /// Dragged through, all that is passed is filled in one step; with a gradient too.
    void aDragFillsAll() {
        putBoxes();
        Gradient g;
        g.from = {800, 0}, g.to = {2200, 0};
        g.stops = {{0, blue}, {1, green}};
        takeFill(g);
        const size_t steps = t->document().history().steps().size();
        t->drag(t->bench(), t->on({1000, 1500}), t->on({2000, 1500}));
        QVERIFY(t->settle([&] { return !t->bench().isBusy(); }));
        // Between the boxes lies what runs out to the edge: that is asked about first.
        QVERIFY(areas().sentence().contains("runs out"));
        QTest::mouseClick(&t->bench(), Qt::LeftButton, Qt::NoModifier, t->on({1100, 1500}));
        t->settle();
        leaveBench();
        QCOMPARE(t->document().history().steps().size(), steps + 1);
        QVERIFY(t->seen({850, 1500}).blue() > 220 && t->seen({2150, 1500}).green() > 220);
    }

    /// One that runs out is shown, and kept only when it is clicked again; Esc leaves it.
    void itRunsOut() {
        putBoxes(false);
        takeFill(blue);
        const ReleasePtr before = t->document().release();
        click({1900, 1500});
        QCOMPARE(t->document().release(), before);
        QVERIFY(areas().sentence().contains("runs out"));
        QVERIFY(t->seen({1900, 1500}) != ground); // its tint
        QTest::keyClick(&t->bench(), Qt::Key_Escape);
        t->settle();
        QCOMPARE(t->document().release(), before);
        QCOMPARE(t->seen({1900, 1500}), ground);
        click({1900, 1500});
        click({1900, 1500});
        QCOMPARE(t->seen({1900, 1500}), QColor(0, 0, 255));
        QCOMPARE(t->seen({100, 100}), QColor(0, 0, 255));
        QCOMPARE(t->seen({1100, 1500}), ground); // the closed box
    }

    void refusals() {
        QSignalSpy spy(&t->document(), &Document::refused);
        takeFill(blue);
        t->document().selectLayer(t->layer("Ground")->id);
        click({1100, 1500});
        QVERIFY(spy.last().first().toString().contains("has the lines"));
        areas().liftPaper();
        QVERIFY(spy.last().first().toString().contains("picture of a drawing"));
        // On a line itself.
        putBoxes();
        const ReleasePtr before = t->document().release();
        click({800, 1500});
        QVERIFY(spy.last().first().toString().contains("There is a line here"));
        QCOMPARE(t->document().release(), before);
    }

    /// A scan: its paper goes, its lines stay where they were, the scan itself is switched off below them.
    void theScanOfADrawing() {
        put("scan", pictureOf(1000, 1000, [](int x, int y) {
                const bool isLine = (std::abs(x - 500) < 200 && std::abs(y - 500) < 200) &&
                                    !(std::abs(x - 500) < 190 && std::abs(y - 500) < 190);
                return isLine ? std::array<uint8_t, 4>{30, 20, 20, 255}
                              : std::array<uint8_t, 4>{240, 232, 210, 255};
            }));
        const std::string scan = t->document().layer();
        t->document().edit(
            "Place", withChangedLayer(t->document().release(), t->document().panel(), scan, [](Layer& l) {
                l.placement = {};
                l.placement.position = {1500, 1500}, l.placement.scaleX = l.placement.scaleY = 2;
                l.placement.turn = 10;
            }));
        QTest::keyClick(&t->bench(), Qt::Key_F);
        areas().liftPaper();
        QVERIFY(t->settle([&] { return !t->bench().isBusy(); }));
        leaveBench();
        QVERIFY(!t->find(scan)->on);
        QCOMPARE(t->seen({1500, 1500}), ground);
        const Vec2 line = Affine::rotation(10).mapVector({390, 0}) + Vec2{1500, 1500};
        QVERIFY(t->seen(line).lightness() < 60);
        QCOMPARE(t->seen(Affine::rotation(10).mapVector({450, 0}) + Vec2{1500, 1500}), ground);
        // And then it is coloured.
        takeFill(blue);
        click({1500, 1500});
        QCOMPARE(t->seen({1500, 1500}), QColor(0, 0, 255));
    }
};

GLYPTOS_TEST(AreaFillTest)
#include "area_fill_test.moc"
