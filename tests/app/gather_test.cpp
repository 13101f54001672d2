// Gather in the real window: search, facets, relatives, the drawer and its line, the wall, drags to a piece,
// colours that are followed, credits and framing.
#include "app/gather/add_sources.h"
#include "app/gather/wall_pane.h"
#include "release/edits/palette_edits.h"
#include "release/placing.h"
#include "release/wall.h"
#include "support/register.h"
#include "support/window.h"

#include <QAbstractButton>
#include <QApplication>
#include <QClipboard>
#include <QColor>
#include <QComboBox>
#include <QDir>
#include <QFile>
#include <QGuiApplication>
#include <QIODevice>
#include <QImage>
#include <QLineEdit>
#include <QPushButton>
#include <QSignalSpy>
#include <QSlider>
#include <QStringLiteral>
#include <QTemporaryDir>
#include <QToolButton>
#include <QWidget>
#include <fstream>

using namespace glyptos;
using namespace glyptos::test;

class GatherTest : public QObject {
    Q_OBJECT
    std::unique_ptr<TestWindow> t;
    std::unique_ptr<QTemporaryDir> pictures;

    GatherView& gather() { return *t->window->gather(); }
    QString file(const QString& name) const { return pictures->filePath(name); }
    QString photo(const QString& name, Rgb colour, int width = 600, int height = 400) {
        test::write(file(name).toStdString(), jpegOf(width, height, [=](int x, int) {
                        const bool bar = x / 40 % 2 == 0;
                        return std::array<uint8_t, 4>{uint8_t(colour[0] / (bar ? 1 : 2)),
                                                      uint8_t(colour[1] / (bar ? 1 : 2)),
                                                      uint8_t(colour[2] / (bar ? 1 : 2)), 255};
                    }));
        return file(name);
    }
    void fillCrate() {
        QVERIFY(QDir(pictures->path()).mkpath("textures"));
        photo("harbour.jpg", {40, 90, 160});
        photo("lantern room.jpg", {220, 160, 60}, 400, 600);
        photo("textures/rust.jpg", {180, 70, 30}, 500, 500);
        photo("textures/rust two.jpg", {170, 76, 36}, 500, 500);
        t->window->crate().add({pictures->path()});
        QVERIFY(t->settle([&] { return t->window->crate().shelf()->entries().size() == 4; }));
    }
    void show(GatherPlace place) {
        t->window->showStep(Step::Gather);
        gather().showPlace(place);
        QVERIFY(t->settle());
    }
    QStringList names(SourceGrid* grid) const {
        QStringList out;
        for (const EntryPtr& e : grid->entries()) out << QString::fromStdString(e->name());
        return out;
    }
    void choose(const QString& name) {
        for (const EntryPtr& e : gather().pictures()->crateGrid()->entries())
            if (QString::fromStdString(e->name()) == name) gather().pictures()->crateGrid()->choose(e->id);
        QVERIFY(gather().pictures()->crateGrid()->current());
    }
    void type(const QString& words) {
        gather().bar()->searchField()->setFocus();
        gather().bar()->searchField()->selectAll();
        if (words.isEmpty()) QTest::keyClick(gather().bar()->searchField(), Qt::Key_Delete);
        typeText(gather().bar()->searchField(), words);
        t->settle();
    }
    QAbstractButton* button(const QString& name) {
        for (QAbstractButton* b : t->window->findChildren<QAbstractButton*>())
            if ((b->accessibleName() == name || b->text() == name) && b->isVisible()) return b;
        return nullptr;
    }
    void press(const QString& name) {
        QVERIFY2(button(name) && button(name)->isEnabled(), qPrintable(name));
        button(name)->click();
        QVERIFY(t->settle());
    }
    QColor strip(const std::string& piece) {
        const QRect mini = t->window->set()->miniatureOf(piece);
        return t->window->set()->grab().toImage().pixelColor(mini.center());
    }

  private Q_SLOTS:
    void init() {
        t = std::make_unique<TestWindow>();
        pictures = std::make_unique<QTemporaryDir>();
    }
    void cleanup() { t.reset(); }

    void wordsAndFacetsNarrow() {
        fillCrate();
        show(GatherPlace::Crate);
        QCOMPARE(gather().pictures()->crateGrid()->entries().size(), size_t(4));
        type("rus");
        QCOMPARE(names(gather().pictures()->crateGrid()).size(), 2);
        type("two");
        QCOMPARE(names(gather().pictures()->crateGrid()), QStringList{"Rust two"});
        type("");
        press("Tall");
        QCOMPARE(names(gather().pictures()->crateGrid()), QStringList{"Lantern room"});
        press("Show all");
        QCOMPARE(gather().pictures()->crateGrid()->entries().size(), size_t(4));
        press("Texture");
        QCOMPARE(gather().pictures()->crateGrid()->entries().size(), size_t(2));
        type("gannet");
        QVERIFY(gather().pictures()->crateGrid()->entries().empty());
    }

    void relativesComeFirst() {
        fillCrate();
        show(GatherPlace::Crate);
        choose("Rust");
        button("Show what is like it")->click();
        t->settle();
        QCOMPARE(names(gather().pictures()->crateGrid()).mid(0, 2), (QStringList{"Rust", "Rust two"}));
        QSlider* colours = t->find<QSlider>("Colours");
        colours->setValue(100);
        t->find<QSlider>("Lines")->setValue(0);
        t->settle();
        QCOMPARE(names(gather().pictures()->crateGrid())[2],
                 QStringLiteral("Lantern room")); // warmer than the harbour
    }

    void whatIsKnownIsKept() {
        fillCrate();
        show(GatherPlace::Crate);
        choose("Harbour");
        enter(t->find<QLineEdit>("Maker"), "Orri Vane");
        enter(t->find<QLineEdit>("Tags"), "quay, rope");
        t->settle();
        const std::string id = gather().pictures()->crateGrid()->current()->id;
        QCOMPARE(t->window->crate().entry(id)->facts.maker, std::string("Orri Vane"));
        type("rope");
        QCOMPARE(names(gather().pictures()->crateGrid()), QStringList{"Harbour"});
        // It goes with the picture onto a piece, and what is changed later follows.
        button("Place on Digital cover")->click();
        QVERIFY(t->settle([&] { return !t->document().release()->sources.empty(); }));
        QCOMPARE(t->document().release()->sources[0]->facts.maker, std::string("Orri Vane"));
        QCOMPARE(t->layers()[0]->name, std::string("Harbour"));
        show(GatherPlace::Crate);
        choose("Harbour");
        enter(t->find<QLineEdit>("Maker"), "Maud Skerry");
        t->settle();
        QCOMPARE(t->document().release()->sources[0]->facts.maker, std::string("Maud Skerry"));
    }

    void theDrawerIsTakenFromWithItsCredit() {
        show(GatherPlace::Drawer);
        QVERIFY(t->settle([&] { return gather().pictures()->drawerGrid()->entries().size() >= 80; }));
        type("rust");
        QVERIFY(gather().pictures()->drawerGrid()->entries().size() >= 3);
        for (const EntryPtr& e : gather().pictures()->drawerGrid()->entries())
            if (e->facts.licence == "Harbour Credit") gather().pictures()->drawerGrid()->choose(e->id);
        const EntryPtr entry = gather().pictures()->drawerGrid()->current();
        QVERIFY(entry);
        button("Take it into the crate")->click();
        QVERIFY(t->settle([&] { return t->window->crate().entry(entry->id) != nullptr; }));
        const SourceFacts facts = t->window->crate().entry(entry->id)->facts;
        QCOMPARE(facts.origin, std::string("Harbour Light Pictures"));
        QVERIFY(QString::fromStdString(facts.credit).contains(QString::fromStdString(facts.maker)));
        QVERIFY(button("It is in the crate") && !button("It is in the crate")->isEnabled());
    }

    void aBadLineIsCopedWith() {
        show(GatherPlace::Drawer);
        QVERIFY(t->settle([&] { return !gather().pictures()->drawerGrid()->entries().empty(); }));
        t->window->crate().setLine(AgencyLine::Offline);
        type("sea");
        QVERIFY(button("Try again"));
        t->window->crate().setLine(AgencyLine::Good);
        button("Try again")->click();
        t->settle();
        QVERIFY(!button("Try again"));
        QVERIFY(!gather().pictures()->drawerGrid()->entries().empty());
        t->window->crate().setLine(AgencyLine::Failing);
        gather().pictures()->drawerGrid()->choose(gather().pictures()->drawerGrid()->entries()[0]->id);
        const std::string id = gather().pictures()->drawerGrid()->current()->id;
        for (int i = 0; i < 3 && !t->window->crate().entry(id); ++i) { // it fails every other time
            button("Take it into the crate")->click();
            t->settle();
        }
        QVERIFY(t->window->crate().entry(id));
        t->window->crate().setLine(AgencyLine::Slow);
        type("");
        type("fog"); // the window goes on while it is asked, and only the last question is answered
        QVERIFY(
            t->settle([&] { return names(gather().pictures()->drawerGrid()).join(' ').contains("Fog"); }));
    }

    void picturesArePinnedAndArranged() {
        fillCrate();
        show(GatherPlace::Crate);
        gather().setWallBeside(true);
        t->settle();
        QVERIFY(gather().isWallShown());
        t->drop(*gather().wall(), {file("harbour.jpg")}, QPoint(120, 120));
        QVERIFY(t->settle([&] { return stackOf(*t->document().release(), wallPanel()).size() == 1; }));
        QTest::keyClick(gather().pictures()->crateGrid(), Qt::Key_A, Qt::ControlModifier);
        QTest::keyClick(&gather(), Qt::Key_W);
        QVERIFY(t->settle([&] { return stackOf(*t->document().release(), wallPanel()).size() == 5; }));
        auto areas = gather().wall()->pinned();
        button("Into rows")->click();
        areas = gather().wall()->pinned();
        for (size_t i = 0; i < areas.size(); ++i)
            for (size_t j = i + 1; j < areas.size(); ++j) QVERIFY(areas[i].intersected(areas[j]).empty());
        t->document().undo();
        QCOMPARE(t->window->rail()->current(), Step::Gather);
        // Two of them as one.
        const Stack& wall = stackOf(*t->document().release(), wallPanel());
        t->document().selectLayers({wall[0]->id, wall[1]->id});
        t->action("Group")->trigger();
        QCOMPARE(stackOf(*t->document().release(), wallPanel()).size(), size_t(4));
        // The pieces know nothing of it.
        t->window->showStep(Step::Compose);
        QVERIFY(!isWall(t->document().panel()));
        QVERIFY(t->layers().empty());
    }

    void fromTheWallToAPiece() {
        photo("rust.jpg", {180, 70, 30}, 500, 500);
        show(GatherPlace::Wall);
        t->drop(*gather().wall(), {file("rust.jpg")}, QPoint(300, 200));
        QVERIFY(t->settle([&] { return stackOf(*t->document().release(), wallPanel()).size() == 1; }));
        WallBench* wall = gather().wall();
        wall->zoomToFit();
        t->settle();
        const double zoom = wall->zoom();
        const LayerPtr before = stackOf(*t->document().release(), wallPanel())[0];
        const Vec2 middle = wall->toView().map(before->placement.position);
        const std::string cover = t->piece("digital-cover");
        const QPoint global = t->window->set()->mapToGlobal(t->window->set()->miniatureOf(cover).center());
        t->drag(*wall, {int(middle.x), int(middle.y)}, wall->mapFromGlobal(global));
        QVERIFY(t->settle([&] { return !stackOf(*t->document().release(), {cover, "front"}).empty(); }));
        QVERIFY(stackOf(*t->document().release(), wallPanel())[0]->placement ==
                before->placement);   // it hangs where it hung
        QCOMPARE(wall->zoom(), zoom); // nor does the view run away from what is dragged
        QCOMPARE(t->window->rail()->current(), Step::Compose);
        QCOMPARE(t->document().panel().piece, cover);
        QVERIFY(t->document().selectedLayer());
        t->settle();
        const QColor seen = strip(cover);
        QVERIFY2(seen.red() > 60 && seen.red() > 2 * seen.blue(), qPrintable(seen.name()));
    }

    void aPictureIsSeenOnAPieceWithAFill() {
        Layer ground;
        ground.name = "Ground";
        ground.content = FillContent{Ink{0, 0, 1, 1}};
        t->put(ground);
        t->putBox("Box", {0, 0, 1000, 3000}, {0, 1, 0, 1});
        photo("rust.jpg", {180, 70, 30}, 500, 500);
        t->window->bringIn({file("rust.jpg")});
        QVERIFY(t->settle([&] { return t->layers().size() == 3; }));
        QCOMPARE(t->layers()[1]->name, std::string("rust")); // behind the box, in front of the ground
        QVERIFY(t->seen({2000, 1500}).red() > t->seen({2000, 1500}).blue());
    }

    void filesDroppedOnTheSetGoToThatPiece() {
        photo("harbour.jpg", {40, 90, 160}, 500, 500);
        const std::string sleeve = t->piece("sleeve-12");
        t->window->showStep(Step::Gather);
        SetStrip* strip = t->window->set();
        t->drop(*strip, {file("harbour.jpg")}, strip->miniatureOf(sleeve).center());
        QVERIFY(t->settle([&] { return t->document().panel().piece == sleeve; }));
        QCOMPARE(t->layers().size(), size_t(1));
    }

    void layersFollowThePalette() {
        fillCrate();
        show(GatherPlace::Crate);
        choose("Rust");
        button("Keep them in the palette")->click();
        const auto palette = t->document().release()->palette;
        QVERIFY(palette.size() >= 2);
        t->window->showStep(Step::Compose);
        TextContent words;
        words.spec.text = "Rust";
        words.spec.letters.size = 400;
        Layer layer;
        layer.name = "Words";
        layer.content = words;
        layer.placement.position = {200, 200};
        const std::string id = t->put(layer);
        auto* colour = t->find<QPushButton>("Colour of the words");
        QTest::mouseClick(colour, Qt::LeftButton);
        QWidget* popup = QApplication::activePopupWidget();
        QVERIFY(popup);
        for (QToolButton* chip : popup->findChildren<QToolButton*>())
            if (chip->accessibleName() == QString::fromStdString(palette[1].name)) {
                chip->click();
                break;
            }
        QCOMPARE(t->find(id)->as<TextContent>()->colour.swatch, palette[1].id);
        show(GatherPlace::Colours);
        t->document().edit("Change",
                           withSwatchColour(t->document().release(), palette[1].id, {0, 0.5f, 0, 1}));
        QVERIFY(t->find(id)->as<TextContent>()->colour == Ink({0, 0.5f, 0, 1}, palette[1].id));
        t->document().undo();
        QVERIFY(toHex(t->find(id)->as<TextContent>()->colour) == toHex(palette[1].colour));
    }

    void palettesAreReadAndWritten() {
        show(GatherPlace::Colours);
        std::ofstream(file("in.txt").toStdString()) << "30 122 108 low water\n217 211 198 salt\n";
        gather().colours()->readFrom(file("in.txt"));
        QCOMPARE(t->document().release()->palette.size(), size_t(2));
        gather().colours()->writeTo(file("out.css"));
        QFile css(file("out.css"));
        QVERIFY(css.open(QIODevice::ReadOnly));
        QVERIFY(css.readAll().contains("--low-water: #1e7a6c;"));
        QSignalSpy told(gather().colours(), &ColoursView::told);
        std::ofstream(file("bad.txt").toStdString()) << "no colours here\n";
        gather().colours()->readFrom(file("bad.txt"));
        QCOMPARE(told.count(), 1);
        QCOMPARE(t->document().release()->palette.size(), size_t(2));
        const auto* card = t->window->findChild<ContrastCard*>();
        QVERIFY(card->says().contains(": 1"));
    }

    void theColoursOfTheSet() {
        t->putBox("Box", {0, 0, 3000, 3000}, {0.1f, 0.4f, 0.7f, 1});
        show(GatherPlace::Colours);
        button("From the set")->click();
        QVERIFY(t->settle([&] { return !t->document().release()->palette.empty(); }));
        bool found = false;
        for (const Swatch& s : t->document().release()->palette)
            found |= distance(toOklab(s.colour), toOklab(Rgba{0.1f, 0.4f, 0.7f, 1})) < 0.03f;
        QVERIFY(found);
    }

    void creditsAreListedMendedAndPrinted() {
        photo("harbour.jpg", {40, 90, 160}, 500, 500);
        t->window->bringIn({file("harbour.jpg")});
        QVERIFY(t->settle([&] { return t->layers().size() == 1; }));
        show(GatherPlace::Credits);
        CreditsModel* model = gather().credits()->model();
        QCOMPARE(model->rowCount(), 1);
        QCOMPARE(model->data(model->index(0, CreditsModel::Maker), Qt::DisplayRole).toString(),
                 QStringLiteral("not known"));
        model->setData(model->index(0, CreditsModel::Maker), "Ása Grenfell", Qt::EditRole);
        QCOMPARE(t->document().release()->sources[0]->facts.maker, std::string("Ása Grenfell"));
        t->settle();
        QVERIFY(!button("Understood")); // that it is in no crate is nothing to be told of
        gather().credits()->writeTo(file("credits.csv"));
        gather().credits()->writeTo(file("credits.txt"));
        QFile csv(file("credits.csv")), txt(file("credits.txt"));
        QVERIFY(csv.open(QIODevice::ReadOnly) && txt.open(QIODevice::ReadOnly));
        QVERIFY(QString::fromUtf8(csv.readAll()).contains("Ása Grenfell,"));
        QVERIFY(QString::fromUtf8(txt.readAll()).contains("Ása Grenfell"));
        button("Put it on Digital cover")->click();
        t->settle();
        QCOMPARE(t->window->rail()->current(), Step::Compose);
        QCOMPARE(t->layers()[0]->as<TextContent>()->spec.text, std::string("{credits}"));
    }

    void aWidePictureIsFramed() {
        test::write(file("wide.jpg").toStdString(),
                    jpegOf(900, 300, [](int x, int y) { // a red spot at the right
                        return std::hypot(x - 780, y - 150) < 60 ? std::array<uint8_t, 4>{230, 30, 20, 255}
                                                                 : std::array<uint8_t, 4>{120, 124, 126, 255};
                    }));
        t->window->bringIn({file("wide.jpg")});
        FramingSheet* sheet = t->window->compose()->framing();
        QVERIFY(t->settle([&] { return sheet->isOpen(); }));
        const auto redAt = [&](Vec2 panel) {
            return t->seen(panel).red() > 180 && t->seen(panel).green() < 90;
        };
        bool inFrame = false;
        for (double x = 100; x < 3000; x += 100) inFrame |= redAt({x, 1500});
        QVERIFY(inFrame);
        // Slid away by hand, straightened and flipped, then kept as one step.
        const size_t steps = t->document().history().steps().size();
        t->drag(*sheet, QPoint(300, 300), QPoint(700, 300));
        QVERIFY(sheet->framing().middle.x < 0.7);
        button("Flip")->click();
        enter(t->find<QLineEdit>("Straighten"), "4");
        QCOMPARE(t->document().history().steps().size(), steps);
        sheet->setFocus();
        QTest::keyClick(sheet, Qt::Key_Return);
        QVERIFY(!sheet->isOpen());
        QCOMPARE(t->document().history().steps().size(), steps + 1);
        const Placement& p = t->layers()[0]->placement;
        QVERIFY(p.flipX && std::abs(p.turn - 4) < 1e-9);
        // All of the panel is covered.
        const auto source = t->document().release()->sources[0];
        const auto back = placementMap(p).inverse();
        for (const Vec2 corner : {Vec2{0, 0}, Vec2{3000, 0}, Vec2{3000, 3000}, Vec2{0, 3000}}) {
            const Vec2 px = back->map(corner);
            QVERIFY(std::abs(px.x) <= source->width / 2.0 + 1e-6 &&
                    std::abs(px.y) <= source->height / 2.0 + 1e-6);
        }
        button("Frame…")->click();
        QVERIFY(sheet->isOpen());
        QTest::keyClick(sheet, Qt::Key_Escape);
        QVERIFY(t->layers()[0]->placement == p);
    }

    void whatIsPastedIsInTheCrate() {
        show(GatherPlace::Crate);
        QImage image(40, 30, QImage::Format_RGB32);
        image.fill(QColor(200, 40, 30));
        QGuiApplication::clipboard()->setImage(image);
        QVERIFY(gather().bar()->adding()->paste());
        QVERIFY(t->settle([&] { return t->window->crate().shelf()->entries().size() == 1; }));
        QCOMPARE(t->window->crate().shelf()->entries()[0]->mainColour, ColourFamily::Red);
    }

    void aWatchedFolderBringsNewPictures() {
        QVERIFY(QDir(pictures->path()).mkpath("inbox"));
        t->settle();
        t->window->crate().setWatched(file("inbox"), true);
        t->settle();
        photo("inbox/new.jpg", {90, 90, 90});
        QVERIFY(QTest::qWaitFor([&] { return t->window->crate().shelf()->entries().size() == 1; }, 15000));
        QDir(file("inbox")).removeRecursively();
        t->settle();
        QCOMPARE(t->window->crate().shelf()->entries().size(), size_t(1)); // it stays, with its small picture
    }

    void theWallIsWritten() {
        t->document().edit("Pin", withLayer(t->document().release(), wallPanel(),
                                            pinnedColour({1, 0, 0, 1}, "red", {30000, 30000}))
                                      .release);
        show(GatherPlace::Wall);
        for (const char* name : {"wall.png", "wall.pdf"}) {
            QSignalSpy written(gather().wallPane(), &WallPane::written);
            gather().wallPane()->writeTo(file(name));
            QVERIFY(written.wait(20000));
        }
        const QImage image(file("wall.png"));
        QVERIFY(image.width() >= 300 && image.width() < 420);
        QCOMPARE(image.pixelColor(image.width() / 2, image.height() / 2 - 20), QColor(255, 0, 0));
        QFile pdf(file("wall.pdf"));
        QVERIFY(pdf.open(QIODevice::ReadOnly));
        const QByteArray bytes = pdf.readAll();
        QVERIFY(bytes.startsWith("%PDF-1.4") && bytes.contains("/DCTDecode") && bytes.endsWith("%%EOF\n"));
    }

    void coloursArePickedOverAnArea() {
        t->window->showStep(Step::Compose);
        t->putBox("Left", {0, 0, 1500, 3000}, {0, 0, 0, 1});
        t->putBox("Right", {1500, 0, 1500, 3000}, {1, 1, 1, 1});
        t->document().selectLayer({});
        QTest::keyClick(&t->bench(), Qt::Key_P);
        auto* side = t->find<QComboBox>("Averaged over");
        side->setCurrentIndex(3);
        Q_EMIT side->activated(3);
        QSignalSpy picked(&t->bench(), &ComposeBench::colourPicked);
        QTest::mouseClick(&t->bench(), Qt::LeftButton, Qt::NoModifier, t->on({1500, 1500}));
        QCOMPARE(picked.count(), 1);
        const QColor mean = picked[0][0].value<QColor>(); // half the light is 188 of 255
        QVERIFY2(std::abs(mean.red() - 188) < 8 && mean.red() == mean.blue(), qPrintable(mean.name()));
        button("Keep it in the palette")->click();
        QCOMPARE(t->document().release()->palette.size(), size_t(1));
    }
};

GLYPTOS_TEST(GatherTest)
#include "gather_test.moc"
