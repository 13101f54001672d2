// Treatments in the real window: added, dragged, switched, moved, tried on a sheet, picked in the picture,
// compared with before, kept as a look, and undone by their names.
#include "support/handwork.h"
#include "support/register.h"

#include <QComboBox>
#include <QScrollArea>
#include <QSignalSpy>
#include <QSlider>
#include <QTemporaryDir>

using namespace glyptos;
using namespace glyptos::test;

class TreatmentsTest : public HandworkTest {
    Q_OBJECT

    static constexpr Vec2 kMiddle{1500, 1500};
    TreatmentsSection& section() { return *t->window->compose()->treatments(); }
    ComposeBench& bench() { return t->bench(); }
    Document& document() { return t->document(); }
    Treatments list() {
        const LayerPtr layer = document().selectedLayer();
        return layer && layer->treatments ? *layer->treatments : Treatments{};
    }
    QString lastStep() {
        const History& history = document().history();
        return QString::fromStdString(history.steps()[history.position()].name);
    }
    QSlider* slider(const QString& name) {
        for (QSlider* one : section().findChildren<QSlider*>())
            if (one->accessibleName() == name && one->isVisible()) return one;
        return nullptr;
    }
    /// A box of one colour about the middle of the panel, in hand.
    void boxInHand(const Ink& ink) {
        begin();
        document().selectLayer(t->putBox("Box", {1000, 1000, 1000, 1000}, ink));
        t->window->compose()->showTreatments(true);
        t->settle();
    }

  private Q_SLOTS:
    void cleanup() { t.reset(); }

    void addedFromTheMenuAndUndone() {
        boxInHand(Ink(0.6f, 0.6f, 0.6f, 1));
        QAction* chosen = nullptr;
        for (QAction* family : section().addMenu()->actions())
            for (QAction* one : family->menu()->actions())
                if (one->text() == "Inversion") chosen = one;
        QVERIFY(chosen);
        chosen->trigger();
        QCOMPARE(list().size(), size_t(1));
        QCOMPARE(lastStep(), QStringLiteral("Inversion on Box"));
        QTRY_VERIFY(std::abs(t->seen(kMiddle).red() - 102) <= 2);
        document().undo();
        QVERIFY(list().empty());
        QTRY_VERIFY(std::abs(t->seen(kMiddle).red() - 153) <= 2);
    }

    void aSliderIsOneStepAndTheFieldFollows() {
        boxInHand(Ink(0.5f, 0.5f, 0.5f, 1));
        section().add(*treatmentKind("light-contrast"));
        const size_t before = document().history().steps().size();
        t->settle();
        QSlider* light = slider("Light slider");
        QVERIFY(light);
        light->setSliderDown(true);
        for (const int notch : {520, 560, 600, 640}) light->setValue(notch);
        light->setSliderDown(false);
        QCOMPARE(document().history().steps().size(), before + 1);
        QVERIFY(lastStep().startsWith("Light of light and contrast of Box"));
        QVERIFY(std::abs(list()[0].figures.number(0) - (-8 + 16 * 0.64)) < 0.02);
        QTRY_VERIFY(t->seen(kMiddle).red() > 180);
    }

    void theLampTheOrderAndRemovingByKeys() {
        boxInHand(Ink(0.2f, 0.4f, 0.6f, 1));
        section().add(*treatmentKind("inversion"));
        section().add(*treatmentKind("mono-mix"));
        TreatmentList& rows = *section().list();
        QCOMPARE(rows.current(), 1);
        QTest::mouseClick(&rows, Qt::LeftButton, {}, rows.lampOf(0).center());
        QVERIFY(!list()[0].on && list()[1].on);
        QTest::mouseClick(&rows, Qt::LeftButton, {}, rows.rowOf(1).center() - QPoint(60, 0));
        QTest::keyClick(&rows, Qt::Key_Up, Qt::AltModifier);
        QCOMPARE(list()[0].kind->id, std::string_view("mono-mix"));
        // And back by a drag.
        t->drag(rows, rows.rowOf(0).center() - QPoint(60, 0), rows.rowOf(1).center() + QPoint(-60, 14));
        QCOMPARE(list()[0].kind->id, std::string_view("inversion"));
        QTest::keyClick(&rows, Qt::Key_Delete);
        QCOMPARE(list().size(), size_t(1));
    }

    void aPointOfTheCurveIsDraggedAndPicked() {
        boxInHand(Ink(0.25f, 0.25f, 0.25f, 1));
        section().add(*treatmentKind("tone-curve"));
        QTRY_VERIFY(section().figures()->curveEditor()->width() > 100);
        ToneCurveEditor& curve = *section().figures()->curveEditor();
        t->drag(curve, curve.placeOf({0.5, 0.5}).toPoint(), curve.placeOf({0.5, 0.8}).toPoint());
        QCOMPARE(list()[0].figures.curve(0).size(), size_t(3));
        QVERIFY2(std::abs(list()[0].figures.curve(0)[1].y - 0.8) < 0.03,
                 qPrintable(QString::number(list()[0].figures.curve(0)[1].y)));
        QTRY_VERIFY2(t->seen(kMiddle).red() > 90, qPrintable(t->seen(kMiddle).name()));
        // The tone of what lies beneath the curve, not of what it makes of it.
        t->settle();
        for (QToolButton* button : section().findChildren<QToolButton*>())
            if (button->text() == "Pick" && button->isVisible()) button->click();
        QCOMPARE(bench().hand(), Hand::Pick);
        const Vec2 at = bench().toView().map(kMiddle);
        QTest::mouseClick(&bench(), Qt::LeftButton, {}, QPoint(int(at.x), int(at.y)));
        QCOMPARE(list()[0].figures.curve(0).size(), size_t(4));
        QVERIFY(std::abs(list()[0].figures.curve(0)[1].x - 0.25) < 0.02);
        QVERIFY(bench().hand() != Hand::Pick);
        QCOMPARE(std::get<Ink>(*document().selectedLayer()->as<ShapeContent>()->fill).r,
                 0.25f); // it keeps its own colour
    }

    void aGradeFromTheMenuActsOnAllBelow() {
        boxInHand(Ink(1, 0, 0, 1));
        for (QAction* action : t->window->findChildren<QAction*>())
            if (action->text() == "Inversion" && action->parent() != section().addMenu() &&
                qobject_cast<QMenu*>(action->parent()) &&
                static_cast<QMenu*>(action->parent())->title() == "Add a grade of all below") {
                action->trigger();
                break;
            }
        QVERIFY(document().selectedLayer()->as<GradeContent>());
        QTRY_COMPARE(t->seen(kMiddle), QColor(0, 255, 255));
    }

    void theSheetTakesWhatIsClicked() {
        boxInHand(Ink(0.6f, 0.3f, 0.2f, 1));
        TrySheet& sheet = *t->window->compose()->trySheet();
        sheet.open(TrySheet::Page::Treatments, -1);
        t->settle();
        QVERIFY(sheet.cells().size() >= 3 * 20);
        for (QToolButton* cell : sheet.cells())
            if (cell->accessibleName() == "Inversion, strong") {
                QTRY_VERIFY(!cell->icon().isNull());
                cell->click();
                break;
            }
        QVERIFY(!sheet.isVisible());
        QCOMPARE(list().size(), size_t(1));
        QCOMPARE(list()[0].kind->id, std::string_view("inversion"));
        // Neighbours of it go on until one leaves.
        section().add(*treatmentKind("chroma"));
        sheet.open(TrySheet::Page::Chance, section().current());
        QCOMPARE(sheet.cells().size(), size_t(9));
        const Figures first = list()[1].figures;
        sheet.cells()[0]->click();
        QVERIFY(sheet.isVisible() && !(list()[1].figures == first));
        QTest::keyClick(&sheet, Qt::Key_Escape);
        QVERIFY(!sheet.isVisible());
        sheet.open(TrySheet::Page::Looks, -1);
        QTRY_VERIFY(sheet.cells().size() >= 12);
    }

    void thePointIsDraggedOnTheBench() {
        boxInHand(Ink(0.6f, 0.3f, 0.2f, 1));
        section().add(*treatmentKind("turning-blur"));
        const auto at = bench().treatments().placeOf(0);
        QVERIFY(at.has_value());
        const QPoint from = at->toPoint(), to = from + QPoint(40, 25);
        t->drag(bench(), from, to);
        const auto now = bench().treatments().placeOf(0);
        QVERIFY(now && QLineF(*now, QPointF(to)).length() < 1.5);
        QCOMPARE(document().selectedLayer()->placement.position.x, 1500.0); // the box stays
    }

    void beforeIsLeftOfTheLine() {
        boxInHand(Ink(0.6f, 0.6f, 0.6f, 1));
        section().add(*treatmentKind("inversion"));
        bench().treatments().setBefore(TreatmentLens::Before::OfLayer);
        t->settle();
        const double x = *bench().treatments().splitX();
        const Vec2 left = bench().fromView({x - 12, bench().height() / 2.0 + 25}),
                   right = bench().fromView({x + 12, bench().height() / 2.0 + 25}); // below the grip
        QTRY_VERIFY(std::abs(t->seen(left).red() - 153) <= 3 && std::abs(t->seen(right).red() - 102) <= 3);
    }

    void scopesCountWhatIsThere() {
        boxInHand(Ink(1, 0, 0, 1));
        Scopes& scopes = *t->window->compose()->scopes();
        scopes.setOf(Scopes::Of::Layer);
        scopes.show();
        scopes.setKind(Scopes::Kind::Plane);
        QTRY_VERIFY(!scopes.picture().isNull());
        t->settle();
        // Red of sRGB: a 0.225, b 0.126 of 0.33 to the rim.
        const QImage& plane = scopes.picture();
        const double half = std::min(plane.width(), plane.height()) / 2.0;
        const QPoint red(int(plane.width() / 2.0 + 0.2249 / 0.33 * half),
                         int(plane.height() / 2.0 - 0.1258 / 0.33 * half));
        bool found = false;
        for (int dy = -1; dy <= 1; ++dy)
            for (int dx = -1; dx <= 1; ++dx)
                found = found || plane.pixelColor(red + QPoint(dx, dy)).red() > 200;
        QVERIFY(found);
    }

    void figuresComeFromThePicture() {
        boxInHand(Ink(0.6f, 0.5f, 0.4f, 1));
        section().add(*treatmentKind("warmth"));
        QVERIFY(section().byPicture()->isVisible() && !section().papers()->isVisible());
        // Until what lies beneath has been drawn there is nothing to go by, and it says so.
        QTRY_VERIFY((section().byPicture()->click(), list()[0].figures.flag(3)));
        QVERIFY(lastStep().contains("from the picture"));
        QTRY_VERIFY2(std::abs(t->seen(kMiddle).red() - t->seen(kMiddle).blue()) <= 3,
                     qPrintable(t->seen(kMiddle).name()));
    }

    void aRangeOfHuesIsPickedInThePicture() {
        boxInHand(Ink(0.2f, 0.4f, 0.8f, 1));
        section().add(*treatmentKind("hue-turn"));
        t->settle();
        for (QToolButton* button : section().findChildren<QToolButton*>())
            if (button->text() == "Pick" && button->isVisible()) button->click();
        QCOMPARE(bench().hand(), Hand::Pick);
        const Vec2 at = bench().toView().map(kMiddle);
        QTest::mouseClick(&bench(), Qt::LeftButton, {}, QPoint(int(at.x), int(at.y)));
        const Figures figures = list()[0].figures;
        QVERIFY2(std::abs(figures.number(4) - 261) < 3, qPrintable(QString::number(figures.number(4))));
        QVERIFY(figures.flag(3));
        QVERIFY(lastStep().startsWith("Hue of hue turn"));
    }

    void aDroppedTableRecoloursAndIsPastedWithItsNumbers() {
        boxInHand(Ink(1, 0, 0, 1));
        const QTemporaryDir folder;
        const QString file = folder.filePath(QStringLiteral("Öfugt.cube"));
        QFile cube(file);
        QVERIFY(cube.open(QIODevice::WriteOnly));
        cube.write("TITLE \"Inverted\"\nLUT_1D_SIZE 2\n1 1 1\n0 0 0\n");
        cube.close();
        t->drop(bench(), {file}, {40, 40});
        QTRY_COMPARE(list().size(), size_t(1));
        QCOMPARE(list()[0].kind->id, std::string_view("look-table"));
        QTRY_COMPARE(t->seen(kMiddle), QColor(0, 255, 255));
        const auto menu = [&](const QString& text) {
            for (QAction* action : section().findChildren<QAction*>())
                if (action->text() == text) return action->trigger();
            QFAIL("no such entry");
        };
        menu(QStringLiteral("Copy the list"));
        document().selectLayer(t->putBox("Other", {200, 200, 400, 400}, Ink(0, 1, 0, 1)));
        t->settle();
        menu(QStringLiteral("Paste a copied list behind it"));
        QCOMPARE(list().size(), size_t(1));
        QCOMPARE(list()[0].figures.table(0)->entries.size(), size_t(2));
        QTRY_COMPARE(t->seen({400, 400}), QColor(255, 0, 255));
        // One that is damaged leaves all as it is.
        QVERIFY(cube.open(QIODevice::WriteOnly));
        cube.write("LUT_1D_SIZE 3\n0 0 0\n");
        cube.close();
        const size_t steps = document().history().steps().size();
        QSignalSpy refused(&document(), &Document::refused);
        t->drop(bench(), {file}, {40, 40});
        QTRY_COMPARE(refused.size(), 1);
        QCOMPARE(document().history().steps().size(), steps);
    }

    void everyKindFitsThePanel() {
        boxInHand(Ink(0.5f, 0.5f, 0.5f, 1));
        put("a picture with quite a long name, as pictures that come from cameras have",
            pictureOf(60, 40, [](int, int) {
                return std::array<uint8_t, 4>{200, 90, 50, 255};
            }));
        QTRY_VERIFY(!document().release()->sources.empty());
        t->settle();
        document().selectLayer(t->layer("Box")->id);
        t->window->compose()->showTreatments(true);
        QScrollArea* around = nullptr;
        for (QWidget* w = &section(); w && !around; w = w->parentWidget())
            around = qobject_cast<QScrollArea*>(w);
        QVERIFY(around);
        for (const TreatmentKind* kind : treatmentKinds()) {
            section().add(*kind);
            t->settle();
            QVERIFY2(section().minimumSizeHint().width() <= around->viewport()->width(),
                     qPrintable(QStringLiteral("%1: %2 of %3")
                                    .arg(QString::fromUtf8(kind->id.data(), qsizetype(kind->id.size())))
                                    .arg(section().minimumSizeHint().width())
                                    .arg(around->viewport()->width())));
            document().undo();
        }
    }

    void coloursMatchAnotherPicture() {
        boxInHand(Ink(0.5f, 0.5f, 0.5f, 1));
        const std::string box = document().selectedLayer()->id;
        put("ember", pictureOf(60, 40, [](int, int) { return std::array<uint8_t, 4>{200, 90, 50, 255}; }));
        QTRY_VERIFY(!document().release()->sources.empty());
        t->settle();
        document().selectLayer(box);
        document().edit("front", withOrder(document().release(), document().panel(), {box}, Nearer::Front));
        t->window->compose()->showTreatments(true);
        section().add(*treatmentKind("look-table"));
        t->settle();
        Q_EMIT section().matchMenu()->aboutToShow();
        QVERIFY(section().matchMenu()->actions().size() >= 2);
        section().matchMenu()->actions()[0]->trigger();
        QTRY_VERIFY(list()[0].figures.table(0));
        QVERIFY(list()[0].figures.table(0)->title.find("ember") != std::string::npos);
        QTRY_VERIFY2(std::abs(t->seen(kMiddle).red() - 200) < 6 && std::abs(t->seen(kMiddle).blue() - 50) < 8,
                     qPrintable(t->seen(kMiddle).name()));
    }

    void manyTakesLeaveRoomInTheBar() {
        boxInHand(Ink(1, 0, 0, 1));
        for (int i = 0; i < 8; ++i) document().newTake();
        t->settle();
        int shown = 0;
        QToolButton* all = nullptr;
        for (QToolButton* button : t->window->findChildren<QToolButton*>()) {
            if (!button->isVisible()) continue;
            if (button->accessibleName() == "All takes") all = button;
            const bool isTake = button->accessibleName().startsWith("Take ");
            if (isTake) QVERIFY2(button->width() >= button->sizeHint().width(), qPrintable(button->text()));
            shown += isTake ? 1 : 0;
            if (isTake && button->isChecked()) QCOMPARE(button->text(), QStringLiteral("I"));
        }
        QCOMPARE(shown, 5);
        QVERIFY(all);
        Q_EMIT all->menu()->aboutToShow();
        QCOMPARE(all->menu()->actions().size(), 9);
        all->menu()->actions()[1]->trigger();
        QCOMPARE(document().piece()->take().id, std::string("B"));
    }

    void papersAreKeptAsShapes() {
        boxInHand(Ink(0.7f, 0.7f, 0.7f, 1));
        const std::string box = document().selectedLayer()->id;
        section().add(*treatmentKind("cut-paper"));
        t->settle();
        const QColor cut = t->seen(kMiddle);
        section().papers()->click();
        QTRY_VERIFY_WITH_TIMEOUT(document().selectedLayer() && document().selectedLayer()->as<GroupContent>(),
                                 60000);
        QCOMPARE(lastStep(), QStringLiteral("Keep the papers of Box as shapes"));
        const auto& papers = document().selectedLayer()->as<GroupContent>()->layers;
        QCOMPARE(papers.size(), size_t(3)); // of four, as nothing is light enough for the last
        for (const LayerPtr& paper : papers) QVERIFY(paper->as<ShapeContent>());
        QVERIFY(!findLayer(stackOf(*document().release(), document().panel()), box)->on);
        QTRY_VERIFY2(std::abs(t->seen(kMiddle).red() - cut.red()) <= 2, qPrintable(t->seen(kMiddle).name()));
        // As large as the box was.
        QTRY_COMPARE(t->seen({1030, 1500}), t->seen(kMiddle));
        QVERIFY(t->seen({970, 1500}) != t->seen(kMiddle));
    }

    void aKeptLookIsThereAgain() {
        boxInHand(Ink(0.6f, 0.6f, 0.6f, 1));
        section().add(*treatmentKind("inversion"));
        LookShelf& shelf = t->window->compose()->looks();
        shelf.read();
        QTRY_VERIFY(shelf.looks().size() >= 12);
        const size_t shipped = shelf.looks().size();
        shelf.keep(lookOf("Nótt/röng ..", list(), 100, Unit::Px));
        QTRY_COMPARE(shelf.looks().size(), shipped + 1);
        const NamedLook own = shelf.looks().back();
        QVERIFY(own.own && own.name == "Nótt/röng .." && own.treatments.size() == 1);
        QVERIFY(own.file.parent_path() == ownLookFolder());
        shelf.remove(own);
        QTRY_COMPARE(shelf.looks().size(), shipped);
    }
};

GLYPTOS_TEST(TreatmentsTest)
#include "treatments_test.moc"
