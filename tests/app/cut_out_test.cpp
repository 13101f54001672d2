// Figures found and cut out on the bench.
#include "support/figures.h"
#include "support/handwork.h"
#include "support/register.h"

#include "app/session/font_shelf.h"
#include "app/session/importer.h"
#include "release/edits/cutout_edits.h"

#include <QSignalSpy>

using namespace glyptos;
using namespace glyptos::test;

class CutOutTest : public HandworkTest {
    Q_OBJECT

  private Q_SLOTS:
    void init() { begin(); }
    void cleanup() { t.reset(); }

    /// A box round the keeper finds him; cut out, the ground is gone and moves apart from him.
    void theFigureIsCutOut() {
        const KnownFigure known = knownFigure(Ground::Textured, 600, 7);
        put("keeper", known.photo);
        const LayerPtr layer = t->document().selectedLayer();
        QVERIFY(layer && layer->as<PictureContent>());
        const Frame frame = frameOf(*layer, *t->document().release(), {}, t->engine->renderer.paragraphs());
        const Rect box = frame.toPanel.mapBounds(boxOf(known).grown(4));
        QTest::keyClick(&t->bench(), Qt::Key_E);
        t->drag(t->bench(), t->on({box.x, box.y}), t->on({box.right(), box.bottom()}));
        QVERIFY(selection());
        const auto at = [&](double x, double y) { return frame.toPanel.map({x, y}); };
        QVERIFY(selected(at(300, 300)) > 250);
        QCOMPARE(selected(at(30, 100)), 0);
        click("Cut it out");
        QCOMPARE(t->seen(at(30, 100)), ground);
        QVERIFY(t->seen(at(300, 300)) != ground);
        // More is said of him later.
        const std::string id = t->document().layer();
        const auto hints = painted(id)->hints;
        QVERIFY(hints && hints->strokes.empty() && !hints->box.empty());
        setSize(QString::number(60 * frame.toPanel.scaleX()));
        t->drag(t->bench(), t->on(at(200, 560)), t->on(at(400, 560)), Qt::AltModifier);
        QCOMPARE(painted(id)->hints->strokes.size(), size_t(1));
        QCOMPARE(t->seen(at(300, 560)), ground);
        QVERIFY(t->seen(at(300, 300)) != ground);
        t->document().undo();
        // Picture and edge colours are one group.
        const auto* group = t->layers().front()->as<GroupContent>();
        QVERIFY(group && group->layers.size() == 2);
        QVERIFY(group->layers[0]->clipped && group->layers[0]->as<PaintedContent>());
        t->document().undo();
        t->settle();
        QVERIFY(t->seen(at(30, 100)) != ground);
    }

    /// One click instead of a box; and once his mask is firmed, the colours of his edge are those of the new
    /// one.
    void aClickFindsTheFigure() {
        const KnownFigure known = knownFigure(Ground::Plain, 600, 7);
        put("keeper", known.photo);
        const std::string id = t->document().layer();
        const Frame frame =
            frameOf(*t->find(id), *t->document().release(), {}, t->engine->renderer.paragraphs());
        const auto at = [&](double x, double y) { return frame.toPanel.map({x, y}); };
        QTest::keyClick(&t->bench(), Qt::Key_E);
        QTest::mouseClick(&t->bench(), Qt::LeftButton, Qt::NoModifier, t->on(at(300, 260)));
        t->settle();
        QVERIFY(selected(at(300, 260)) > 250 && selected(at(300, 500)) > 250);
        QCOMPARE(selected(at(30, 100)), 0);
        // Taken back from him by a stroke with Alt.
        setSize(QString::number(60 * frame.toPanel.scaleX()));
        t->drag(t->bench(), t->on(at(200, 560)), t->on(at(400, 560)), Qt::AltModifier);
        QCOMPARE(selected(at(300, 560)), 0);
        QVERIFY(selected(at(300, 260)) > 250);
        t->document().undo();
        click("Cut it out");
        const LayerPtr edges = edgeColoursOf(t->layers(), id);
        QVERIFY(edges);
        t->document().selectLayer(id);
        QTest::keyClick(&t->bench(), Qt::Key_K);
        choose("The brush", 3);
        enter(t->find<QLineEdit>("Firmness of the edge"), "60");
        click("Firm up");
        const LayerPtr renewed = edgeColoursOf(t->layers(), id);
        QVERIFY(renewed && !(renewed->content == edges->content));
        // Every half covered pixel has its colour, and no other.
        const AlphaMap mask = valuesOf(*painted(id)->tiles, {0, 0, 600, 600});
        const PixelTiles& colours = *renewed->as<PaintedContent>()->tiles;
        for (int y = 0; y < 600; y += 3)
            for (int x = 0; x < 600; x += 3) {
                uint8_t rgba[4];
                colours.readRow(x, y, 1, rgba);
                QCOMPARE(rgba[3] == 255, mask.at(x, y) > 0 && mask.at(x, y) < 255);
            }
    }

    /// Another picture in the place of a cut-out one has its mask, and none of the old colours.
    void replacedAfterCuttingOut() {
        put("keeper", knownFigure(Ground::Plain, 300, 7).photo);
        const std::string id = t->document().layer();
        QTest::keyClick(&t->bench(), Qt::Key_E);
        click("Cut it out");
        QVERIFY(edgeColoursOf(t->layers(), id));
        const auto mask = t->find(id)->mask;
        const auto file = std::filesystem::path(folder.path().toStdString()) / "other.png";
        write(file, encodePng(knownFigure(Ground::Textured, 300, 8).photo, {72}).value());
        FontShelf fonts(*t->engine);
        Importer importer(*t->engine, fonts);
        importer.setDocument(&t->document());
        QSignalSpy finished(&importer, &Importer::finished);
        importer.replace(QString::fromStdString(file.string()), id);
        QVERIFY(finished.wait());
        t->settle();
        QVERIFY(t->find(id)->mask == mask);
        QVERIFY(!edgeColoursOf(t->layers(), id));
        QVERIFY(t->document().release()->source(t->find(id)->as<PictureContent>()->source)->name ==
                "other.png");
        // Worked out anew the edge has colours of the new one.
        t->document().selectLayer(id);
        QTest::keyClick(&t->bench(), Qt::Key_K);
        choose("The brush", 3);
        click("All of it");
        QVERIFY(edgeColoursOf(t->layers(), id));
    }

    void nothingToFind() {
        Picture plain = Picture::create<uint8_t>(200, 200);
        std::fill_n(plain.row<uint8_t>(0), plain.bytes(), uint8_t(255));
        put("plain", plain);
        const ReleasePtr before = t->document().release();
        QTest::keyClick(&t->bench(), Qt::Key_E);
        t->drag(t->bench(), t->on({1200, 1200}), t->on({1800, 1800}));
        QCOMPARE(t->document().release(), before);
    }

    /// The file that a picture came from is gone while its figure is looked for: the release holds its bytes.
    void theFileIsGone() {
        const KnownFigure known = knownFigure(Ground::Plain, 600, 7);
        put("keeper", known.photo);
        const Frame frame = frameOf(*t->document().selectedLayer(), *t->document().release(), {},
                                    t->engine->renderer.paragraphs());
        QTest::keyClick(&t->bench(), Qt::Key_E);
        QTest::mouseClick(&t->bench(), Qt::LeftButton, Qt::NoModifier, t->on(frame.toPanel.map({300, 260})));
        QVERIFY(t->bench().work().isGoingOn());
        QVERIFY(std::filesystem::remove(std::filesystem::path(folder.path().toStdString()) / "keeper.png"));
        t->settle();
        QVERIFY(selected(frame.toPanel.map({300, 260})) > 250);
    }

    /// Stopped half-way nothing has changed.
    void cancelled() {
        put("keeper", knownFigure(Ground::Busy, 900, 3).photo);
        const ReleasePtr before = t->document().release();
        QTest::keyClick(&t->bench(), Qt::Key_E);
        QTest::mousePress(&t->bench(), Qt::LeftButton, Qt::NoModifier, t->on({900, 900}));
        QMouseEvent move(QEvent::MouseMove, QPointF(t->on({2100, 2100})), QPointF(), Qt::NoButton,
                         Qt::LeftButton, Qt::NoModifier);
        QApplication::sendEvent(&t->bench(), &move);
        QTest::mouseRelease(&t->bench(), Qt::LeftButton, Qt::NoModifier, t->on({2100, 2100}));
        QVERIFY(t->bench().work().isGoingOn());
        QVERIFY(t->bench().sentence().contains("Esc"));
        QTest::keyClick(&t->bench(), Qt::Key_Escape);
        QVERIFY(!t->bench().work().isGoingOn());
        t->settle();
        QCOMPARE(t->document().release(), before);
    }
};

GLYPTOS_TEST(CutOutTest)
#include "cut_out_test.moc"
