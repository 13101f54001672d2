// Blemishes mended on the bench.
#include "support/handwork.h"
#include "support/register.h"
#include "support/textures.h"

using namespace glyptos;
using namespace glyptos::test;

class MendHandTest : public HandworkTest {
    Q_OBJECT

  private Q_SLOTS:
    void init() { begin(); }
    void cleanup() { t.reset(); }

    /// A blemish is painted over and gone, on a layer of its own that can be switched off.
    void aBlemishIsMended() {
        KnownTexture known = knownTexture(Texture::Weave, 600, 60, 2);
        put("weave", known.damaged);
        const LayerPtr layer = t->document().selectedLayer();
        QVERIFY(layer);
        const std::string id = layer->id;
        const Frame frame = frameOf(*layer, *t->document().release(), {}, t->engine->renderer.paragraphs());
        const Vec2 middle = frame.toPanel.map({300, 300});
        QVERIFY(t->seen(middle).green() > 200);
        QTest::keyClick(&t->bench(), Qt::Key_N);
        setSize(QString::number(90 * frame.toPanel.scaleX()));
        QTest::mouseClick(&t->bench(), Qt::LeftButton, Qt::NoModifier, t->on(middle));
        t->settle();
        QCOMPARE(t->layers().size(), size_t(3));
        const LayerPtr mend = t->layers().front();
        QVERIFY(mend->as<PaintedContent>() && mend->as<PaintedContent>()->holes);
        QVERIFY(t->seen(middle).green() < 200);
        QCOMPARE(t->document().layer(), id);
        t->document().edit("Off", withChangedLayer(t->document().release(), t->document().panel(), mend->id,
                                                   [](Layer& l) { l.on = false; }));
        t->settle();
        QVERIFY(t->seen(middle).green() > 200);
        t->document().undo(), t->document().undo();
        t->settle();
        QCOMPARE(t->layers().size(), size_t(2));
    }

    /// What is selected is all that the brush of Mend mends.
    void mendKeepsToTheSelection() {
        const KnownTexture known = knownTexture(Texture::Weave, 600, 60, 2);
        put("weave", known.damaged);
        const Frame frame = frameOf(*t->document().selectedLayer(), *t->document().release(), {},
                                    t->engine->renderer.paragraphs());
        const auto at = [&](double x, double y) { return frame.toPanel.map({x, y}); };
        QTest::keyClick(&t->bench(), Qt::Key_E);
        choose("Select by", int(SelectBy::Box));
        t->drag(t->bench(), t->on(at(200, 200)), t->on(at(300, 400)));
        QTest::keyClick(&t->bench(), Qt::Key_N);
        setSize(QString::number(90 * frame.toPanel.scaleX()));
        QTest::mouseClick(&t->bench(), Qt::LeftButton, Qt::NoModifier, t->on(at(300, 300)));
        t->settle();
        leaveBench();
        const LayerPtr mend = t->layers().front();
        QVERIFY(mend->as<PaintedContent>());
        const IntRect filled = mend->as<PaintedContent>()->holes->bounds();
        QVERIFY(!filled.empty() && std::abs(filled.right() - at(300, 300).x) <= 12);
        QVERIFY(t->seen(at(285, 300)).green() < 200);
        QVERIFY(t->seen(at(318, 300)).green() > 200);
        // Outside of it a stroke says why it does nothing.
        const ReleasePtr before = t->document().release();
        QTest::mouseClick(&t->bench(), Qt::LeftButton, Qt::NoModifier, t->on(at(500, 300)));
        t->settle();
        QCOMPARE(t->document().release(), before);
        // The selection as a whole is mended wherever the pointer is.
        click("Mend the selection");
        QVERIFY(t->document().release() != before);
    }

    void copiedAlong() {
        const std::string box = t->putBox("Box", {500, 500, 800, 800}, {0.8f, 0.1f, 0.1f, 1});
        QTest::keyClick(&t->bench(), Qt::Key_N);
        choose("Mend by", 2);
        setSize("200");
        QTest::mouseClick(&t->bench(), Qt::LeftButton, Qt::NoModifier, t->on({900, 900}));
        t->settle();
        QTest::mouseClick(&t->bench(), Qt::LeftButton, Qt::NoModifier, t->on({2200, 2200}));
        t->settle();
        QCOMPARE(t->seen({2200, 2200}), red);
        QCOMPARE(t->seen({2400, 2400}), ground);
        t->document().undo();
        t->settle();
        leaveBench();
        QCOMPARE(t->seen({2200, 2200}), ground);
        QCOMPARE(t->document().layer(), box);
    }

    /// A part goes to a layer of its own, and the weave is whole behind it: one step.
    void aPartIsTakenOut() {
        const KnownTexture known = knownTexture(Texture::Weave, 600, 60, 2);
        put("weave", known.damaged);
        const std::string id = t->document().layer();
        const Frame frame =
            frameOf(*t->find(id), *t->document().release(), {}, t->engine->renderer.paragraphs());
        const auto at = [&](double x, double y) { return frame.toPanel.map({x, y}); };
        const QColor blemish = t->seen(at(300, 300));
        QVERIFY(blemish.green() > 200);
        const ReleasePtr before = t->document().release();
        QTest::keyClick(&t->bench(), Qt::Key_E);
        choose("Select by", int(SelectBy::Box));
        t->drag(t->bench(), t->on(at(262, 262)), t->on(at(338, 338)));
        QVERIFY(choose("Make of it", "A layer of its own, the place behind it mended"));
        QCOMPARE(t->layers().size(), size_t(4)); // part, mend, weave, ground
        QCOMPARE(t->document().layer(), t->layers()[0]->id);
        QVERIFY(t->layers()[0]->mask && t->layers()[1]->as<PaintedContent>());
        QCOMPARE(t->layers()[2]->id, id);
        choose("Change", "Nothing");
        leaveBench();
        QVERIFY(t->seen(at(300, 300)).green() > 200);
        QTest::keyClick(&t->bench(), Qt::Key_M);
        t->drag(t->bench(), t->on(at(300, 300)), t->on(at(450, 450)));
        QVERIFY(t->seen(at(300, 300)).green() < 200);
        QVERIFY(t->seen(at(450, 450)).green() > 200);
        t->document().undo(), t->document().undo(), t->document().undo(), t->document().undo();
        QCOMPARE(t->document().release(), before);
    }

    /// A panorama of 65,000 px: a stroke on its mask, a figure looked for, a blemish mended.
    void aPanorama() {
        Picture wide = Picture::create<uint8_t>(65000, 40);
        wide.opaque = true;
        for (int y = 0; y < 40; ++y)
            for (int x = 0; x < 65000; ++x) {
                uint8_t* p = wide.row<uint8_t>(y) + ptrdiff_t(4) * x;
                p[0] = uint8_t(120 + (x / 200) % 60), p[1] = uint8_t(90 + y), p[2] = 60, p[3] = 255;
            }
        put("panorama", wide);
        const std::string id = t->document().layer();
        QTest::keyClick(&t->bench(), Qt::Key_K);
        QTest::mouseClick(&t->bench(), Qt::LeftButton, Qt::NoModifier, t->on({1500, 1500}));
        t->settle();
        QVERIFY(painted(id));
        const ReleasePtr before = t->document().release();
        QTest::keyClick(&t->bench(), Qt::Key_E);
        QTest::mouseClick(&t->bench(), Qt::LeftButton, Qt::NoModifier, t->on({1500, 1500}));
        t->settle();
        QCOMPARE(t->document().release(), before); // no subject: said, nothing changed
        QTest::keyClick(&t->bench(), Qt::Key_N);
        QTest::mouseClick(&t->bench(), Qt::LeftButton, Qt::NoModifier, t->on({1500, 1500}));
        t->settle();
        QVERIFY(t->document().release() != before);
    }
};

GLYPTOS_TEST(MendHandTest)
#include "mend_hand_test.moc"
