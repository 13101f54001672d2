// Arranging on the bench: several layers at once, copies, leaning and stretching, the picture under its
// frame, and what the Layer menu does to them.
#include "app/compose/ghosts_sheet.h"
#include "support/register.h"
#include "support/window.h"

#include <QAction>
#include <QColor>
#include <QMenu>
#include <QPushButton>
#include <QSignalSpy>
#include <QTemporaryDir>

using namespace glyptos;
using namespace glyptos::test;

namespace {

constexpr Rgba kRed{0.8f, 0.1f, 0.1f, 1}, kBlue{0.1f, 0.2f, 0.8f, 1}, kGold{0.8f, 0.6f, 0.2f, 1};

} // namespace

class ArrangingTest : public QObject {
    Q_OBJECT
    std::unique_ptr<TestWindow> t;
    std::string red, blue, gold;

    double unit() { return 2 / t->bench().zoom(); } ///< panel units that a mouse may be off
    bool isAbout(double a, double b) { return std::abs(a - b) <= unit(); }
    QString names() {
        QStringList out;
        for (const LayerPtr& l : t->layers()) out << QString::fromStdString(l->name);
        return out.join(' ');
    }
    void select(const std::vector<std::string>& ids) { t->document().selectLayers(ids); }

  private Q_SLOTS:
    void init() {
        t = std::make_unique<TestWindow>();
        t->window->showStep(Step::Compose);
        t->bench().setSnap({false, false});
        gold = t->putBox("Gold", {300, 2000, 500, 500}, kGold);
        blue = t->putBox("Blue", {1500, 600, 600, 400}, kBlue);
        red = t->putBox("Red", {400, 400, 500, 500}, kRed);
        t->document().selectLayer({});
    }
    void cleanup() { t.reset(); }

    void aBandTakesWhatLiesInsideIt() {
        t->drag(t->bench(), t->on({200, 200}), t->on({2300, 1200}));
        QCOMPARE(t->document().layers().size(), size_t(2));
        QVERIFY(t->document().isInHand(red) && t->document().isInHand(blue));
        // Together they move as one step.
        t->drag(t->bench(), t->on({650, 650}), t->on({850, 950}));
        QVERIFY(isAbout(t->bounds(red).x, 600) && isAbout(t->bounds(red).y, 700));
        QVERIFY(isAbout(t->bounds(blue).x, 1700) && isAbout(t->bounds(blue).y, 900));
        t->document().undo();
        QCOMPARE(t->bounds(blue).x, 1500.0);
    }

    void shiftAddsAndLetsGo() {
        QTest::mouseClick(&t->bench(), Qt::LeftButton, {}, t->on({650, 650}));
        QTest::mouseClick(&t->bench(), Qt::LeftButton, Qt::ShiftModifier, t->on({1800, 800}));
        QCOMPARE(t->document().layers(), (std::vector{red, blue}));
        QTest::mouseClick(&t->bench(), Qt::LeftButton, Qt::ShiftModifier, t->on({650, 650}));
        QCOMPARE(t->document().layers(), std::vector{blue});
    }

    void severalScaleAboutTheOppositeCorner() {
        select({red, blue});
        // Their bounds are (400, 400) to (2100, 1000).
        t->drag(t->bench(), t->on({2100, 1000}), t->on({1250, 700}));
        QVERIFY(isAbout(t->bounds(red).x, 400) && isAbout(t->bounds(red).w, 250));
        QVERIFY(isAbout(t->bounds(blue).x, 950) && isAbout(t->bounds(blue).right(), 1250));
    }

    void altDragsACopy() {
        t->document().selectLayer(red);
        t->drag(t->bench(), t->on({650, 650}), t->on({1650, 1650}), Qt::AltModifier);
        QCOMPARE(t->layers().size(), size_t(4));
        QCOMPARE(t->bounds(red).x, 400.0);
        const std::string copy = t->document().layer();
        QVERIFY(copy != red && isAbout(t->bounds(copy).x, 1400));
        QCOMPARE(t->seen({1650, 1650}), QColor(204, 26, 26));
        t->document().undo();
        QCOMPARE(t->layers().size(), size_t(3));
    }

    void aSideStretchesAndLeans() {
        t->document().selectLayer(red);
        t->drag(t->bench(), t->on({900, 650}), t->on({1400, 650}));
        QVERIFY(isAbout(t->bounds(red).x, 400) && isAbout(t->bounds(red).w, 1000));
        QVERIFY(isAbout(t->bounds(red).h, 500));
        // Ctrl on the upper side leans about the lower one.
        t->drag(t->bench(), t->on({900, 400}), t->on({1150, 400}), Qt::ControlModifier);
        const auto corners =
            frameOf(*t->find(red), *t->document().release(), {}, t->engine->renderer.paragraphs()).corners();
        QVERIFY(isAbout(corners[0].x, 650) && isAbout(corners[0].y, 400));
        QVERIFY(isAbout(corners[3].x, 400) && isAbout(corners[3].y, 900));
    }

    void clicksGoDownThroughWhatLiesThere() {
        const std::string under = t->putBox("Under", {500, 500, 900, 900}, kGold);
        t->document().edit("Down",
                           withMovedLayer(t->document().release(), t->document().panel(), under, {}, 99));
        t->document().selectLayer({});
        const QPoint at = t->on({700, 700});
        QTest::mouseClick(&t->bench(), Qt::LeftButton, {}, at);
        QCOMPARE(t->document().layer(), red);
        QTest::mouseClick(&t->bench(), Qt::LeftButton, {}, at);
        QCOMPARE(t->document().layer(), under);
        QTest::mouseClick(&t->bench(), Qt::LeftButton, {}, at);
        QCOMPARE(t->document().layer(), red);
    }

    void seeThroughPartsOfPicturesArePassedThrough() {
        const auto hole = [](int x, int) {
            return x < 100 ? std::array<uint8_t, 4>{0, 0, 0, 0} : std::array<uint8_t, 4>{9, 9, 9, 255};
        };
        const auto source = importBytes(pngOf(200, 200, hole), "Hole.png").value().source;
        t->document().edit("Source", withSource(t->document().release(), source));
        Layer layer;
        layer.name = "Hole";
        layer.content = PictureContent{source->id, {0, 0, 1, 1}};
        layer.placement = {{650, 650}, 4, 4};
        const std::string id = t->put(layer);
        t->settle();
        t->document().selectLayer({});
        QTest::mouseClick(&t->bench(), Qt::LeftButton, {}, t->on({500, 650}));
        QCOMPARE(t->document().layer(), red);
        QTest::mouseClick(&t->bench(), Qt::LeftButton, {}, t->on({1000, 800}));
        QCOMPARE(t->document().layer(), id);
    }

    void lockedLayersArePassedThrough() {
        t->document().selectLayer(red);
        t->action("Lock")->trigger();
        QCOMPARE(t->document().history().undoName(), std::string("Lock Red"));
        QVERIFY(t->action("Unlock") && !t->action("Ungroup")->isEnabled());
        QTest::mouseClick(&t->bench(), Qt::LeftButton, {}, t->on({650, 650}));
        QVERIFY(t->document().layers().empty());
        t->document().selectLayer(red); // from the stack it can be taken in hand, and stays where it is
        t->drag(t->bench(), t->on({650, 650}), t->on({900, 900}));
        QCOMPARE(t->bounds(red).x, 400.0);
    }

    void cropHandSlidesThePicture() {
        // Left half green, right half white.
        const auto source = importBytes(pngOf(400, 200,
                                              [](int x, int) {
                                                  return x < 200 ? std::array<uint8_t, 4>{0, 160, 60, 255}
                                                                 : std::array<uint8_t, 4>{255, 255, 255, 255};
                                              }),
                                        "Halves.png")
                                .value()
                                .source;
        t->document().edit("Source", withSource(t->document().release(), source));
        Layer layer;
        layer.name = "Halves";
        layer.content = PictureContent{source->id, {0, 0, 0.5, 1}};
        layer.placement = {{1800, 2000}, 4, 4};
        const std::string id = t->put(layer);
        t->settle();
        const Rect frame = t->bounds(id); // (1000, 1600), 800 × 800
        QCOMPARE(t->seen({1700, 2000}), QColor(0, 160, 60));
        QTest::keyClick(&t->bench(), Qt::Key_C);
        t->drag(t->bench(), t->on({1500, 2000}), t->on({1100, 2000}));
        const Rect after = t->bounds(id);
        QVERIFY(isAbout(after.x, frame.x) && isAbout(after.w, frame.w));
        QVERIFY(std::abs(t->find(id)->as<PictureContent>()->crop.x - 0.25) < 0.01);
        QCOMPARE(t->seen({1700, 2000}), QColor(Qt::white));
        // No farther than there is picture.
        t->drag(t->bench(), t->on({1700, 2000}), t->on({900, 2000}));
        QCOMPARE(t->find(id)->as<PictureContent>()->crop.x, 0.5);
    }

    void layAsGroundCoversThePanel() {
        const auto source = importBytes(pngOf(400, 200,
                                              [](int, int) {
                                                  return std::array<uint8_t, 4>{9, 99, 9, 255};
                                              }),
                                        "Wide.png")
                                .value()
                                .source;
        t->document().edit("Source", withSource(t->document().release(), source));
        Layer layer;
        layer.name = "Wide";
        layer.content = PictureContent{source->id, {0, 0, 1, 1}};
        layer.placement = {{500, 500}, 1, 1, 30};
        const std::string id = t->put(layer);
        for (QPushButton* button : t->window->findChildren<QPushButton*>())
            if (button->text() == "Lay as ground") button->click();
        QCOMPARE(t->layers().back()->id, id);
        const Rect over = t->bounds(id);
        QVERIFY(std::abs(over.x) < 1e-6 && std::abs(over.w - 3000) < 1e-6 && std::abs(over.h - 3000) < 1e-6);
        QCOMPARE(t->find(id)->as<PictureContent>()->crop.w, 0.5);
    }

    void anotherPictureTakesThePlaceOfOne() {
        QTemporaryDir folder;
        const auto solid = [](std::array<uint8_t, 4> colour) { return [=](int, int) { return colour; }; };
        const auto file = std::filesystem::path(folder.path().toStdString()) / "Blue sea.png";
        write(file, pngOf(900, 300, solid({0, 0, 200, 255})));
        const auto source = importBytes(pngOf(400, 400, solid({200, 0, 0, 255})), "Old.png").value().source;
        t->document().edit("Source", withSource(t->document().release(), source));
        Layer layer;
        layer.name = "Picture";
        layer.blend = BlendMode::Multiply;
        layer.content = PictureContent{source->id, {0, 0, 1, 1}};
        layer.placement = {{1800, 2000}, 2, 1.5};
        const std::string id = t->put(layer);
        const Rect frame = t->bounds(id);
        FontShelf fonts(*t->engine);
        Importer importer(*t->engine, fonts);
        importer.setDocument(&t->document());
        QSignalSpy told(&importer, &Importer::told), finished(&importer, &Importer::finished);
        importer.replace(QString::fromStdString(file.string()), id);
        QVERIFY(finished.wait());
        t->settle();
        const Rect now = t->bounds(id);
        QVERIFY(std::abs(now.x - frame.x) < 1e-6 && std::abs(now.w - frame.w) < 1e-6 &&
                std::abs(now.h - frame.h) < 1e-6);
        QCOMPARE(t->find(id)->blend, BlendMode::Multiply);
        QCOMPARE(t->seen({1800, 2000}), QColor(0, 0, 200));
        QCOMPARE(t->document().history().undoName(), std::string("Replace Picture by Blue sea.png"));
        // As a reference it lies over the panel; something that is no picture changes nothing.
        importer.refer(QString::fromStdString(file.string()));
        QVERIFY(finished.wait());
        QVERIFY(referenceOf(*t->document().release(), t->document().panel()));
        const ReleasePtr before = t->document().release();
        write(file, {1, 2, 3});
        importer.replace(QString::fromStdString(file.string()), id);
        QVERIFY(finished.wait());
        QVERIFY(told.size() == 1 && t->document().release() == before);
    }

    void alignAndSpread() {
        select({red, blue, gold});
        const auto choose = [&](const char* menu, const char* entry) {
            for (QMenu* m : t->window->menuBar()->findChildren<QMenu*>())
                if (m->title() == menu)
                    for (QAction* a : m->actions())
                        if (a->text() == entry) return a->trigger();
            QFAIL("no such entry");
        };
        choose("Align to each other", "Left edges");
        for (const auto& id : {red, blue, gold}) QCOMPARE(t->bounds(id).x, 300.0);
        choose("Align to the panel", "Right edges");
        for (const auto& id : {red, blue, gold}) QCOMPARE(t->bounds(id).right(), 3000.0);
        choose("Align to each other", "Distribute down");
        // 400…900, then 400 high, then 2000…2500: gaps of 350.
        QCOMPARE(t->bounds(blue).y, 1250.0);
        QCOMPARE(t->document().history().undoName(), std::string("Distribute 3 layers"));
    }

    void groupOfSeveralAndBack() {
        select({red, gold});
        t->action("Group")->trigger();
        QCOMPARE(names(), QString("Group Blue"));
        QCOMPARE(t->document().layer(), t->layer("Group")->id);
        // It is moved by the hand as one.
        t->drag(t->bench(), t->on({650, 650}), t->on({750, 650}));
        QVERIFY(isAbout(t->bounds(red).x, 500) && isAbout(t->bounds(gold).x, 400));
        t->action("Ungroup")->trigger();
        QCOMPARE(names(), QString("Red Gold Blue"));
        QCOMPARE(t->document().layers().size(), size_t(2));
    }

    void ghostsAreSeenBeforeTheyAreMade() {
        t->document().selectLayer(red);
        t->action("Ghosts…")->trigger();
        auto* sheet = t->window->findChild<GhostsSheet*>();
        QVERIFY(sheet);
        enter(t->find<NumberField>("How many"), "3");
        enter(t->find<NumberField>("Step across"), "700");
        enter(t->find<NumberField>("Opacity of each next one"), "50");
        QVERIFY(!t->document().history().canRedo());
        t->settle();
        QCOMPARE(t->layers().size(), size_t(3));
        // Over white, 50 % of the red.
        const QColor ghost = t->seen({400 + 700 + 250, 450});
        QVERIFY(std::abs(ghost.red() - 230) <= 1 && std::abs(ghost.green() - 140) <= 1);
        sheet->accept();
        QCOMPARE(t->layers().size(), size_t(6));
        QCOMPARE(t->layers()[3]->opacity, 0.125);
        t->document().undo();
        QCOMPARE(t->layers().size(), size_t(3));
    }

    void clipShowsOnlyInsideTheLayerBelow() {
        const std::string wide = t->putBox("Wide", {0, 0, 3000, 3000}, kGold);
        QVERIFY(t->document().layers() == std::vector{wide});
        t->action("Only inside the layer below")->trigger();
        t->settle();
        QCOMPARE(t->seen({650, 650}), QColor(204, 153, 51)); // inside Red
        QCOMPARE(t->seen({2500, 2500}), QColor(Qt::white));  // outside
        QVERIFY(t->stack().cardOf(wide).left() > t->stack().cardOf(red).left());
    }

    void anEchoFollowsItsPanel() {
        const std::string sleeve = t->piece("sleeve-12");
        const PanelRef cover = t->document().panel();
        t->document().selectPanel({sleeve, "front"});
        QMenu* echoes = nullptr;
        for (QMenu* m : t->window->menuBar()->findChildren<QMenu*>())
            if (m->title() == "Add an echo of") echoes = m;
        QVERIFY(echoes);
        Q_EMIT echoes->aboutToShow();
        QMenu* covers = nullptr;
        for (QAction* a : echoes->actions())
            if (a->menu()->title() == "Digital cover") covers = a->menu();
        QVERIFY(covers);
        covers->actions().front()->trigger();
        t->settle();
        QCOMPARE(t->layers().size(), size_t(1));
        const Rect echo = t->bounds(t->document().layer());
        const auto there = [&](double x, double y) {
            return t->seen({echo.x + echo.w * x / 3000, echo.y + echo.h * y / 3000});
        };
        QCOMPARE(there(650, 650), QColor(204, 26, 26));
        // The cover is changed; the echo on the sleeve shows it.
        t->document().edit("Recolour", withChangedLayer(t->document().release(), cover, red, [](Layer& l) {
                               std::get<ShapeContent>(l.content).fill = kBlue;
                           }));
        t->settle();
        QCOMPARE(there(650, 650), QColor(26, 51, 204));
        // The cover cannot show the sleeve that shows it.
        t->document().selectPanel(cover);
        Q_EMIT echoes->aboutToShow();
        const auto echoOf = [&](const QString& piece, const QString& panel) -> QAction* {
            for (QAction* a : echoes->actions())
                for (QAction* b : a->menu()->actions())
                    if (a->menu()->title() == piece && b->text() == panel) return b;
            return nullptr;
        };
        QSignalSpy refused(&t->document(), &Document::refused);
        for (const char* panel : {"Front", "Whole flat"}) {
            QAction* echo = echoOf("12-inch sleeve", panel);
            QVERIFY2(echo, panel);
            echo->trigger();
            QCOMPARE(t->layers().size(), size_t(3));
        }
        QCOMPARE(refused.size(), 2);
        // Its back shows nothing of the cover, so that is allowed.
        echoOf("12-inch sleeve", "Back")->trigger();
        QCOMPARE(t->layers().size(), size_t(4));
        QCOMPARE(refused.size(), 2);
    }
};

GLYPTOS_TEST(ArrangingTest)
#include "arranging_test.moc"
