// Masks painted, parts selected, figures cut out and blemishes mended on the bench.
#include "support/figures.h"
#include "support/register.h"
#include "support/textures.h"
#include "support/window.h"

#include "app/hands/select_hand.h"
#include "app/session/importer.h"
#include "file/pictures/picture_writer.h"
#include "file/release_json/release_json.h"
#include "release/edits/cutout_edits.h"
#include "release/edits/selection_edits.h"
#include "render/painting.h"

#include <QComboBox>
#include <QMenu>
#include <QSignalSpy>
#include <QToolButton>

using namespace glyptos;
using namespace glyptos::test;

class HandworkTest : public QObject {
    Q_OBJECT
    std::unique_ptr<TestWindow> t;
    QTemporaryDir folder;

    const QColor ground{26, 26, 51}, red{204, 26, 26};

    void put(const std::string& name, const Picture& picture) {
        const auto file = std::filesystem::path(folder.path().toStdString()) / (name + ".png");
        write(file, encodePng(picture, {72}).value());
        t->drop(t->bench(), {QString::fromStdString(file.string())}, t->on({1500, 1500}));
    }
    void choose(const QString& name, int index) {
        auto* box = t->find<QComboBox>(name);
        QVERIFY(box);
        box->setCurrentIndex(index);
        Q_EMIT box->activated(index);
    }
    /// A command of one of the menus in the option bar.
    bool choose(const QString& button, const QString& command) {
        for (QToolButton* b : t->window->findChildren<QToolButton*>()) {
            if (!b->isVisible() || !b->menu() || !b->text().startsWith(button)) continue;
            Q_EMIT b->menu()->aboutToShow();
            for (QAction* a : b->menu()->findChildren<QAction*>())
                if (a->text().startsWith(command) && a->isEnabled()) {
                    a->trigger();
                    t->settle();
                    return true;
                }
        }
        return false;
    }
    void click(const QString& button) {
        for (QToolButton* b : t->window->findChildren<QToolButton*>())
            if (b->isVisible() && b->text() == button) b->click();
        t->settle();
    }
    void setSize(const QString& text) {
        auto* field = t->find<QLineEdit>("Size of the brush");
        QVERIFY(field);
        enter(field, text);
    }
    /// The pointer goes where its ring hides nothing.
    void leaveBench() {
        QMouseEvent move(QEvent::MouseMove, QPointF(t->on({2900, 100})),
                         t->bench().mapToGlobal(QPointF(t->on({2900, 100}))), Qt::NoButton, Qt::NoButton,
                         Qt::NoModifier);
        QApplication::sendEvent(&t->bench(), &move);
    }
    const PaintedMask* painted(const std::string& id) {
        const LayerPtr layer = t->find(id);
        return layer && layer->mask ? std::get_if<PaintedMask>(&layer->mask->form) : nullptr;
    }
    std::optional<Selection> selection() {
        return selectionOf(*t->document().release(), t->document().panel());
    }
    /// 0…255 at a point of the panel.
    int selected(Vec2 at) {
        const auto now = selection();
        return now ? valuesOf(*now->tiles, {int(at.x), int(at.y), 1, 1}).at(0, 0) : 0;
    }

  private Q_SLOTS:
    void init() {
        t = std::make_unique<TestWindow>();
        t->window->showStep(Step::Compose);
        t->bench().setSnap({false, false});
        Layer fill;
        fill.name = "Ground";
        fill.content = FillContent{Rgba{0.1f, 0.1f, 0.2f, 1}};
        t->put(fill);
    }
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
        const auto& hand = static_cast<const SelectHand&>(t->bench().handOf(Hand::Select));
        const auto click = [&](Vec2 at) {
            QMouseEvent move(QEvent::MouseMove, QPointF(t->on(at)),
                             t->bench().mapToGlobal(QPointF(t->on(at))), Qt::NoButton, Qt::NoButton,
                             Qt::NoModifier);
            QApplication::sendEvent(&t->bench(), &move);
            QVERIFY(QTest::qWaitFor([&] { return !hand.isTracing(); }, 20000));
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
        Importer importer(*t->engine);
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
        // By its upper grip a quarter turn to the right, with Shift by steps.
        const Rect now = selection()->tiles->bounds().toRect();
        const Vec2 top = t->bench().toView().map({now.centre().x, now.y});
        t->drag(t->bench(), QPoint(int(top.x), int(top.y - 26)), t->on({now.right() + 300, now.centre().y}),
                Qt::ShiftModifier);
        const IntRect turned = selection()->tiles->bounds();
        QVERIFY(std::abs(turned.w - after.h) <= 3 && std::abs(turned.h - after.w) <= 3);
        QTest::keyClick(&t->bench(), Qt::Key_Escape);
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

    void nothingToFind() {
        Picture plain = Picture::create<uint8_t>(200, 200);
        std::fill_n(plain.row<uint8_t>(0), plain.bytes(), uint8_t(255));
        put("plain", plain);
        const ReleasePtr before = t->document().release();
        QTest::keyClick(&t->bench(), Qt::Key_E);
        t->drag(t->bench(), t->on({1200, 1200}), t->on({1800, 1800}));
        QCOMPARE(t->document().release(), before);
    }

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

GLYPTOS_TEST(HandworkTest)
#include "handwork_test.moc"
