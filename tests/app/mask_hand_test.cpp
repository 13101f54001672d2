// Masks painted on the bench.
#include "support/figures.h"
#include "support/handwork.h"
#include "support/register.h"

#include "file/release_json/release_json.h"

using namespace glyptos;
using namespace glyptos::test;

class MaskHandTest : public HandworkTest {
    Q_OBJECT

  private Q_SLOTS:
    void init() { begin(); }
    void cleanup() { t.reset(); }

    void aStrokeHidesAndAnotherShows() {
        const std::string box = t->putBox("Box", {500, 500, 2000, 2000}, {0.8f, 0.1f, 0.1f, 1});
        QTest::keyClick(&t->bench(), Qt::Key_K);
        setSize("300");
        t->drag(t->bench(), t->on({800, 1500}), t->on({2200, 1500}));
        QVERIFY(painted(box));
        QCOMPARE(t->seen({1500, 1500}), ground);
        QCOMPARE(t->seen({1500, 1300}), red); // 150 px of radius, and a soft rim
        QCOMPARE(t->seen({1500, 700}), red);
        choose("The brush", 1);
        t->drag(t->bench(), t->on({1500, 1100}), t->on({1500, 1900}));
        QCOMPARE(t->seen({1500, 1500}), red);
        QCOMPARE(t->seen({1000, 1500}), ground);
        t->document().undo();
        t->settle();
        QCOMPARE(t->seen({1500, 1500}), ground);
        t->document().undo();
        t->settle();
        QCOMPARE(t->seen({1000, 1500}), red);
        QVERIFY(!t->find(box)->mask);
    }

    /// A stroke costs the tiles that it touches, and all others stay the same ones.
    void strokesShareTiles() {
        const std::string box = t->putBox("Box", {0, 0, 3000, 3000}, {0.8f, 0.1f, 0.1f, 1});
        QTest::keyClick(&t->bench(), Qt::Key_K);
        setSize("100");
        t->drag(t->bench(), t->on({300, 300}), t->on({2600, 300}));
        const PixelTilesPtr before = painted(box)->tiles;
        t->drag(t->bench(), t->on({300, 2000}), t->on({500, 2000}));
        const PixelTilesPtr after = painted(box)->tiles;
        for (const auto& [place, tile] : before->tiles()) QVERIFY(after->tile(place) == tile);
        QVERIFY(changedTiles(*before, *after).size() <= 6);
    }

    void shiftDrawsAStraightLine() {
        t->putBox("Box", {0, 0, 3000, 3000}, {0.8f, 0.1f, 0.1f, 1});
        QTest::keyClick(&t->bench(), Qt::Key_K);
        setSize("200");
        QTest::mouseClick(&t->bench(), Qt::LeftButton, Qt::NoModifier, t->on({600, 600}));
        QTest::mouseClick(&t->bench(), Qt::LeftButton, Qt::ShiftModifier, t->on({2400, 2400}));
        t->settle();
        QCOMPARE(t->seen({1500, 1500}), ground);
        QCOMPARE(t->seen({1000, 2000}), red);
    }

    void whyAStrokeWouldDoNothing() {
        const std::string box = t->putBox("Box", {500, 500, 2000, 2000}, {0.8f, 0.1f, 0.1f, 1});
        QTest::keyClick(&t->bench(), Qt::Key_K);
        QVERIFY(t->bench().sentence().contains("mask of Box"));
        t->document().edit("Lock", withChangedLayer(t->document().release(), t->document().panel(), box,
                                                    [](Layer& l) { l.locked = true; }));
        QVERIFY(t->bench().sentence().contains("locked"));
        const ReleasePtr before = t->document().release();
        t->drag(t->bench(), t->on({800, 1500}), t->on({2200, 1500}));
        QCOMPARE(t->document().release(), before);
        t->document().edit("Hide", withChangedLayer(before, t->document().panel(), box, [](Layer& l) {
                               l.locked = false;
                               l.on = false;
                           }));
        QVERIFY(t->bench().sentence().contains("switched off"));
        t->document().selectLayer({});
        QVERIFY(t->bench().sentence().contains("in hand"));
    }

    /// A gradient becomes one to paint on, looking as it did.
    void anyMaskCanBePaintedOn() {
        const std::string box = t->putBox("Box", {0, 0, 3000, 3000}, {0.8f, 0.1f, 0.1f, 1});
        Mask mask;
        mask.form = evenRun({0, 0, 3000, 3000}, 0, {1, 1, 1, 1}, {0, 0, 0, 1});
        t->document().edit("Mask",
                           withChangedLayer(t->document().release(), t->document().panel(), box,
                                            [&](Layer& l) { l.mask = std::make_shared<const Mask>(mask); }));
        t->settle();
        const QColor before = t->seen({2000, 1000});
        QTest::keyClick(&t->bench(), Qt::Key_K);
        QTest::mouseClick(&t->bench(), Qt::LeftButton, Qt::NoModifier, t->on({500, 500}));
        t->settle();
        QVERIFY(painted(box));
        const QColor after = t->seen({2000, 1000});
        QVERIFY(std::abs(before.red() - after.red()) <= 1 && std::abs(before.blue() - after.blue()) <= 1);
    }

    void savedAndReopened() {
        const std::string box = t->putBox("Box", {500, 500, 2000, 2000}, {0.8f, 0.1f, 0.1f, 1});
        QTest::keyClick(&t->bench(), Qt::Key_K);
        t->drag(t->bench(), t->on({800, 1500}), t->on({2200, 1500}));
        const PixelHash hash = painted(box)->tiles->hash();
        QTest::keyClick(&t->bench(), Qt::Key_E);
        choose("Select by", 1);
        t->drag(t->bench(), t->on({700, 700}), t->on({1200, 1100}));
        const auto chosen = selection();
        QVERIFY(chosen);
        const auto file = std::filesystem::path(folder.path().toStdString()) / "hands.glyptos";
        QVERIFY(saveProject(*t->document().release(), file));
        const auto back = openProject(file, shippedForms().value());
        QVERIFY2(back, qPrintable(sentence(back)));
        const LayerPtr layer = findLayer(stackOf(**back, t->document().panel()), box);
        QVERIFY(layer && layer->mask);
        QCOMPARE(std::get<PaintedMask>(layer->mask->form).tiles->hash(), hash);
        QVERIFY(selectionOf(**back, t->document().panel()) == chosen);
        QVERIFY(releaseToJson(**back) == releaseToJson(*t->document().release()));
    }

    /// A rough mask round the keeper becomes one of his hair, all at once and under the brush.
    void theEdgeIsWorkedOut() {
        const KnownFigure known = knownFigure(Ground::Plain, 600, 7);
        put("keeper", known.photo);
        const LayerPtr layer = t->document().selectedLayer();
        const Frame frame = frameOf(*layer, *t->document().release(), {}, t->engine->renderer.paragraphs());
        AlphaMap rough(600, 600);
        for (size_t i = 0; i < rough.values.size(); ++i) rough.values[i] = known.alpha[i] >= 0.5f ? 255 : 0;
        Placement corner = layer->placement;
        corner.position = frame.toPanel.map({0, 0});
        const auto wrong = [&] {
            const AlphaMap now = valuesOf(*painted(layer->id)->tiles, {0, 0, 600, 600});
            double squares = 0, n = 0;
            for (size_t i = 0; i < now.values.size(); ++i)
                if (known.alpha[i] > 0.02f && known.alpha[i] < 0.98f)
                    squares += std::pow(now.values[i] / 255.0 - double(known.alpha[i]), 2), ++n;
            return squares / n;
        };
        const auto setRough = [&] {
            t->document().edit(
                "Mask",
                withChangedLayer(t->document().release(), t->document().panel(), layer->id, [&](Layer& l) {
                    l.mask = std::make_shared<const Mask>(maskOf(rough, corner));
                }));
            t->settle();
        };
        setRough();
        const double before = wrong();
        QTest::keyClick(&t->bench(), Qt::Key_K);
        choose("The brush", 3);
        click("All of it");
        const double all = wrong();
        QVERIFY2(all < before / 3, qPrintable(QString("%1 of %2").arg(all).arg(before)));
        setRough();
        setSize(QString::number(240 * frame.toPanel.scaleX()));
        t->drag(t->bench(), t->on(frame.toPanel.map({180, 120})), t->on(frame.toPanel.map({420, 120})));
        QVERIFY(wrong() < before);
        QCOMPARE(valuesOf(*painted(layer->id)->tiles, {10, 500, 1, 1}).at(0, 0), uint8_t(0)); // not brushed
    }

    void aRunOnAMask() {
        const std::string box = t->putBox("Box", {500, 500, 2000, 2000}, {0.8f, 0.1f, 0.1f, 1});
        QTest::keyClick(&t->bench(), Qt::Key_K);
        choose("Painted by", 1);
        t->drag(t->bench(), t->on({1000, 1500}), t->on({2000, 1500}));
        QVERIFY(painted(box));
        QCOMPARE(t->seen({700, 800}), ground);
        QCOMPARE(t->seen({2300, 2300}), red);
        QVERIFY(std::abs(t->seen({1500, 1000}).red() - (ground.red() + red.red()) / 2) <= 6);
        t->document().undo();
        t->settle();
        QVERIFY(!t->find(box)->mask);
        // Kept to what is selected.
        QTest::keyClick(&t->bench(), Qt::Key_E);
        choose("Select by", int(SelectBy::Box));
        t->drag(t->bench(), t->on({500, 500}), t->on({2500, 1500}));
        QTest::keyClick(&t->bench(), Qt::Key_K);
        t->drag(t->bench(), t->on({1000, 1500}), t->on({2000, 1500}));
        QCOMPARE(t->seen({700, 2300}), red);
        QCOMPARE(t->seen({700, 800}), ground);
    }
};

GLYPTOS_TEST(MaskHandTest)
#include "mask_hand_test.moc"
