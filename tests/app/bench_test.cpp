// The bench of Compose: zoom, pan, handles, snapping, cropping, writing in place; and the lines that must not
// hide.
#include "support/noting.h"
#include "support/register.h"
#include "support/window.h"

#include <QApplication>
#include <QCheckBox>
#include <QClipboard>
#include <QColor>
#include <QComboBox>
#include <QImage>
#include <QLabel>
#include <QMimeData>
#include <QMouseEvent>
#include <QPlainTextEdit>
#include <QSignalSpy>
#include <QStringLiteral>
#include <QTemporaryDir>
#include <QWheelEvent>

using namespace glyptos;
using namespace glyptos::test;

namespace {

constexpr double kPixel = 1.5; // px on the screen: a mouse stands on whole pixels

std::array<uint8_t, 4> green(int, int) {
    return {0, 160, 60, 255};
}

} // namespace

class BenchTest : public QObject {
    Q_OBJECT
    std::unique_ptr<TestWindow> t;
    std::unique_ptr<QTemporaryDir> folder;
    std::string id;

    double unit() { return kPixel / t->bench().zoom(); } ///< panel units that a mouse may be off
    LayerPtr inHand() { return findLayer(t->layers(), id); }
    Frame frame() {
        const Panel* p = t->bench().panel();
        return frameOf(*inHand(), *t->document().release(), p->withBleed(), t->engine->renderer.paragraphs());
    }
    bool isAbout(double a, double b) { return std::abs(a - b) <= unit(); }

    /// A green square of 600 × 600 panel px with its middle at (1000, 1200) on the digital cover.
    void putSquare() {
        const auto source = importBytes(pngOf(300, 300, green), "Square.png").value().source;
        Layer layer;
        layer.name = "Square";
        layer.content = PictureContent{source->id, {0, 0, 1, 1}};
        layer.placement = {{1000, 1200}, 2, 2, 0, false, false};
        const Made made =
            withLayer(withSource(t->document().release(), source), t->document().panel(), layer);
        id = made.id;
        t->document().editMaking("Put", made);
        t->settle();
    }

    void wheel(QPointF at, int turn) {
        QWheelEvent event(at, t->bench().mapToGlobal(at), {}, {0, turn}, Qt::NoButton, {}, Qt::NoScrollPhase,
                          false);
        QApplication::sendEvent(&t->bench(), &event);
    }
    void pan(QPoint way) {
        const QPoint from(400, 300);
        QTest::mousePress(&t->bench(), Qt::MiddleButton, {}, from);
        QMouseEvent move(QEvent::MouseMove, QPointF(from + way), t->bench().mapToGlobal(QPointF(from + way)),
                         Qt::NoButton, Qt::MiddleButton, {});
        QApplication::sendEvent(&t->bench(), &move);
        QTest::mouseRelease(&t->bench(), Qt::MiddleButton, {}, from + way);
        t->settle();
    }

  private Q_SLOTS:
    void init() {
        folder = std::make_unique<QTemporaryDir>();
        t = std::make_unique<TestWindow>();
        t->window->showStep(Step::Compose);
        putSquare();
    }
    void cleanup() { t.reset(); }

    void wheelZoomsAtThePointer() {
        const QPointF at(300, 250);
        const Vec2 before = t->bench().fromView(at);
        const double zoom = t->bench().zoom();
        wheel(at, 240);
        QVERIFY(std::abs(t->bench().zoom() / zoom / 1.44 - 1) <
                0.008); // on the ladder, half a rung off at most
        QVERIFY((t->bench().fromView(at) - before).length() < 1e-6);
        t->bench().zoomToActualPixels();
        QCOMPARE(t->bench().zoom(), 1.0);
        t->action("Fit")->trigger();
        QCOMPARE(t->bench().zoom(), zoom);
    }

    /// A scale that is come back to is the very same, so that what was rendered at it is found.
    void zoomKeepsToALadder() {
        const QPointF at(400, 300);
        t->bench().zoomToActualPixels();
        for (int i = 0; i < 7; ++i) wheel(at, -120);
        const double small = t->bench().zoom();
        QVERIFY(std::abs(small - std::pow(1.2, -7)) < 1e-9);
        for (int i = 0; i < 7; ++i) wheel(at, 120);
        QCOMPARE(t->bench().zoom(), 1.0);
        for (int i = 0; i < 14; ++i) wheel(at, -60);
        QVERIFY(t->bench().zoom() == small);
        // A pad that turns the wheel by very little at a time gets there as well.
        t->bench().zoomToActualPixels();
        for (int i = 0; i < 7 * 60; ++i) wheel(at, -2);
        QVERIFY(std::abs(t->bench().zoom() / small - 1) < 0.016);
    }

    void panningThereAndBackRendersNothing() {
        t->bench().zoomToActualPixels();
        t->settle();
        const QImage before = t->bench().grab().toImage();
        pan({-180, 60});
        const size_t rendered = t->engine->renderer.tilesRendered();
        QVERIFY(t->bench().grab().toImage() != before);
        pan({180, -60});
        QVERIFY(t->bench().isFinished());
        QCOMPARE(t->engine->renderer.tilesRendered(), rendered);
        QVERIFY(t->bench().grab().toImage() == before);
    }

    void middleButtonPans() {
        const QPoint before = t->on({0, 0});
        pan({40, -20});
        QCOMPARE(t->on({0, 0}) - before, QPoint(40, -20));
        QVERIFY(inHand()->placement.position == (Vec2{1000, 1200}));
    }

    void dragMovesAndTheArtFollows() {
        QCOMPARE(t->seen({1000, 1200}), QColor(0, 160, 60));
        t->drag(t->bench(), t->on({1000, 1200}), t->on({2000, 2100}), Qt::ControlModifier);
        QVERIFY(isAbout(inHand()->placement.position.x, 2000) &&
                isAbout(inHand()->placement.position.y, 2100));
        QCOMPARE(t->seen({2000, 2100}), QColor(0, 160, 60));
        QCOMPARE(t->seen({1000, 1200}), QColor(Qt::white));
    }

    void shiftKeepsTheMoveStraight() {
        t->drag(t->bench(), t->on({1000, 1200}), t->on({1700, 1290}),
                Qt::ControlModifier | Qt::ShiftModifier);
        QVERIFY(isAbout(inHand()->placement.position.x, 1700));
        QCOMPARE(inHand()->placement.position.y, 1200.0);
    }

    void restsAtTheCentreAndSaysWhy() {
        const QPoint from = t->on({1000, 1200}), to = t->on({1485, 1510}); // within reach of 1500
        QTest::mousePress(&t->bench(), Qt::LeftButton, {}, from);
        for (const QPoint at : {(from + to) / 2, to}) {
            QMouseEvent move(QEvent::MouseMove, at, t->bench().mapToGlobal(QPointF(at)), Qt::NoButton,
                             Qt::LeftButton, {});
            QApplication::sendEvent(&t->bench(), &move);
        }
        const QImage while_ = t->bench().grab().toImage();
        int accent = 0; // the line may fall between two columns
        const auto isAccent = [](const QColor& c) { return c.green() - c.red() > 40 && c.blue() > c.red(); };
        for (int y = 24; y < while_.height(); ++y)
            for (int d = -1; d <= 1; ++d) accent += isAccent(while_.pixelColor(t->on({1500, 0}).x() + d, y));
        QVERIFY(accent > 40); // the snap line is seen
        QTest::mouseRelease(&t->bench(), Qt::LeftButton, {}, to);
        QCOMPARE(inHand()->placement.position, (Vec2{1500, 1500}));
    }

    void restsAtTheSafetyLine() {
        t->drag(t->bench(), t->on({1000, 1200}), t->on({430, 1900}));
        QCOMPARE(frame().bounds().x, 120.0); // 4 % of 3000
    }

    void cornersScaleAboutTheOpposite() {
        t->drag(t->bench(), t->on({1300, 1500}), t->on({1600, 1800}));
        const Rect b = frame().bounds();
        QVERIFY(isAbout(b.x, 700) && isAbout(b.y, 900));
        QVERIFY(std::abs(b.w - 900) <= 2 * unit() && std::abs(b.w - b.h) < 1e-6);
    }

    void theStemTurns() {
        const QPoint grip = t->on({1000, 900}) - QPoint(0, 26), middle = t->on({1000, 1200});
        const int arm = middle.y() - grip.y();
        t->drag(t->bench(), grip, middle + QPoint(arm, 1)); // to the right: a quarter turn, caught
        QCOMPARE(inHand()->placement.turn, 90.0);
        QVERIFY(isAbout(inHand()->placement.position.x, 1000) &&
                isAbout(inHand()->placement.position.y, 1200));
        QVERIFY(QString::fromStdString(t->document().history().undoName()).startsWith("Turn Square by 90"));
    }

    void cropHandMovesOneSide() {
        QTest::keyClick(&t->bench(), Qt::Key_C);
        t->drag(t->bench(), t->on({1300, 1200}), t->on({1150, 1200}));
        const Rect crop = inHand()->as<PictureContent>()->crop;
        QVERIFY(std::abs(crop.w - 0.75) < unit() / 600 && crop.x == 0 && crop.h == 1);
        QCOMPARE(t->seen({1220, 1200}), QColor(Qt::white));
        QCOMPARE(t->seen({1000, 1200}), QColor(0, 160, 60)); // what stays does not move
    }

    void escapeTakesADragBack() {
        QTest::mousePress(&t->bench(), Qt::LeftButton, {}, t->on({1000, 1200}));
        const QPoint to = t->on({2000, 2000});
        QMouseEvent move(QEvent::MouseMove, to, t->bench().mapToGlobal(QPointF(to)), Qt::NoButton,
                         Qt::LeftButton, {});
        QApplication::sendEvent(&t->bench(), &move);
        QVERIFY(t->document().shown() != t->document().release());
        QTest::keyClick(&t->bench(), Qt::Key_Escape);
        QTest::mouseRelease(&t->bench(), Qt::LeftButton, {}, to);
        QVERIFY(inHand()->placement.position == (Vec2{1000, 1200}));
        QVERIFY(t->document().shown() == t->document().release());
    }

    void clickTakesTheFrontMostOrNothing() {
        QTest::mouseClick(&t->bench(), Qt::LeftButton, {}, t->on({2500, 2500}));
        QVERIFY(t->document().layer().empty());
        QTest::mouseClick(&t->bench(), Qt::LeftButton, {}, t->on({1000, 1200}));
        QCOMPARE(t->document().layer(), id);
    }

    void wordsAreWrittenInPlaceAndEscapeGoesBack() {
        t->document().selectLayer({});
        t->action("Artist")->trigger();
        const std::string words = t->document().layer();
        const Vec2 at = findLayer(t->layers(), words)->placement.position;
        Brief brief;
        brief.artist = "GANNETS";
        t->document().edit("Brief", withBrief(t->document().release(), brief));
        t->settle();
        QTest::mouseDClick(&t->bench(), Qt::LeftButton, {}, t->on({at.x + 60, at.y + 90}));
        auto* editor = t->bench().findChild<QPlainTextEdit*>();
        QVERIFY(editor);
        QCOMPARE(editor->toPlainText(), QStringLiteral("{artist}"));
        editor->selectAll();
        typeText(editor, "Lágfjara");
        QVERIFY(t->document().shown() != t->document().release()); // seen while typing
        QTest::keyClick(editor, Qt::Key_Escape);
        QCOMPARE(findLayer(t->layers(), words)->as<TextContent>()->spec.text, std::string("{artist}"));
    }

    void tooManyWordsAreRefusedAndNoneIsLost() {
        t->action("Artist")->trigger();
        t->bench().editWords();
        auto* editor = t->bench().findChild<QPlainTextEdit*>();
        QVERIFY(editor);
        editor->selectAll();
        typeText(editor, "Lágfjara");
        QSignalSpy refused(&t->document(), &Document::refused);
        const auto paste = [&](int characters) {
            auto data = std::make_unique<QMimeData>();
            data->setText(QString(characters, QLatin1Char('m')));
            QApplication::clipboard()->setMimeData(data.release());
            editor->moveCursor(QTextCursor::End);
            editor->paste();
        };
        paste(100'000);
        QCOMPARE(refused.size(), 1);
        QVERIFY(refused[0][0].toString().contains("100,008"));
        QCOMPARE(editor->toPlainText(), QStringLiteral("Lágfjara"));
        paste(100'000 - 8); // as many as there may be
        QCOMPARE(refused.size(), 1);
        QCOMPARE(editor->toPlainText().size(), 100'000);
        typeText(editor, "x");
        QCOMPARE(refused.size(), 2);
        QTest::keyClick(editor, Qt::Key_Backspace);
        typeText(editor, "x");
        QCOMPARE(refused.size(), 2);
        QVERIFY(editor->toPlainText().endsWith("mx") && editor->toPlainText().size() == 100'000);
        editor->selectAll();
        typeText(editor, "y");
        QCOMPARE(editor->toPlainText(), QStringLiteral("y"));
        QTest::keyClick(editor, Qt::Key_Escape);
    }

    void wordsBeingTypedSurviveAnotherPanel() {
        t->action("Artist")->trigger();
        const PanelRef cover = t->document().panel();
        const std::string words = t->document().layer();
        t->bench().editWords();
        auto* editor = t->bench().findChild<QPlainTextEdit*>();
        QVERIFY(editor);
        editor->selectAll();
        typeText(editor, "Stórstreymi");
        // A click on the set does not take the focus, but it takes another panel in hand.
        QTest::mouseClick(t->window->set(), Qt::LeftButton, {},
                          t->window->set()->miniatureOf(t->piece("sleeve-12")).center());
        t->settle();
        QVERIFY(!t->bench().findChild<QPlainTextEdit*>());
        QCOMPARE(findLayer(stackOf(*t->document().release(), cover), words)->as<TextContent>()->spec.text,
                 std::string("Stórstreymi"));
        QCOMPARE(t->document().history().undoName(), std::string("Write Artist"));
    }

    void newWordsStandOutOnTheirGround() {
        QTest::keyClick(&t->bench(), Qt::Key_L);
        QTest::mouseClick(&t->bench(), Qt::LeftButton, {}, t->on({2200, 300})); // on paper
        QVERIFY(t->layers()[0]->as<TextContent>()->colour.r < 0.3f);
        QTest::keyClick(t->bench().findChild<QPlainTextEdit*>(), Qt::Key_Return, Qt::ControlModifier);
        Layer dark;
        dark.name = "Dark";
        dark.content = FillContent{Rgba{0, 0, 0.1f, 1}};
        t->document().edit("Dark", withLayer(t->document().release(), t->document().panel(), dark).release);
        t->settle();
        QTest::keyClick(&t->bench(), Qt::Key_L);
        QTest::mouseClick(&t->bench(), Qt::LeftButton, {}, t->on({2200, 800}));
        QVERIFY(t->layers()[0]->as<TextContent>()->colour.r > 0.8f);
    }

    void figuresCanBeTyped() {
        enter(t->find<NumberField>("Left edge"), "100");
        QCOMPARE(frame().bounds().x, 100.0);
        enter(t->find<NumberField>("Width"), "2in");
        QCOMPARE(frame().bounds().w, 600.0);
        enter(t->find<NumberField>("Turn"), "30");
        QVERIFY(std::abs(inHand()->placement.turn - 30) < 1e-9);
        enter(t->find<NumberField>("Opacity"), "50 %");
        QCOMPARE(inHand()->opacity, 0.5);
    }

    void blendModesAreSeen() {
        Layer ground;
        ground.name = "Ground";
        ground.content = FillContent{Rgba{0.5f, 0.5f, 0.5f, 1}};
        std::string under;
        ReleasePtr r = noting(under, withLayer(t->document().release(), t->document().panel(), ground));
        t->document().edit("Ground", withMovedLayer(r, t->document().panel(), under, {}, 2));
        auto* mode = t->find<QComboBox>("Blend mode");
        mode->setCurrentIndex(mode->findText("Multiply"));
        Q_EMIT mode->activated(mode->currentIndex());
        t->settle();
        QCOMPARE(inHand()->blend, BlendMode::Multiply);
        const QColor seen = t->seen({1000, 1200}); // half of (0, 160, 60)
        QVERIFY(seen.red() == 0 && std::abs(seen.green() - 80) <= 1 && std::abs(seen.blue() - 30) <= 1);
    }

    void linesAreSwitchedByTheirKey() {
        const auto box = [&](const QString& text) {
            for (QCheckBox* b : t->window->compose()->findChildren<QCheckBox*>())
                if (b->text() == text) return b;
            return static_cast<QCheckBox*>(nullptr);
        };
        QVERIFY(!box("Bleed")->isVisible() && !box("Fold")->isVisible()); // a screen piece has neither
        t->document().selectLayer({});
        const auto dots = [&] {
            const QImage image = t->bench().grab().toImage();
            int n = 0;
            for (int x = t->on({200, 0}).x(); x < t->on({2800, 0}).x(); ++x)
                for (int d = -1; d <= 1; ++d)
                    n += image.pixelColor(x, t->on({0, 120}).y() + d) != QColor(Qt::white);
            return n;
        };
        QVERIFY(dots() > 60);
        box("Safety")->setChecked(false);
        QCOMPARE(dots(), 0);
        t->document().selectPanel({t->piece("sleeve-12"), "front"});
        QVERIFY(box("Bleed")->isVisible());
    }

    void rulersFollowTheirUnit() {
        t->document().selectPanel({t->piece("sleeve-12"), "front"});
        t->settle();
        const QImage mm = t->bench().grab().toImage();
        t->action("Inches")->trigger();
        QVERIFY(t->bench().grab().toImage().copy(0, 0, 800, 20) != mm.copy(0, 0, 800, 20));
    }

    void coloursUnderThePointerAreTold() {
        const auto said = [&] {
            QString all;
            for (QLabel* label : t->window->findChildren<QLabel*>()) all += label->text();
            return all;
        };
        const QPoint at = t->on({1000, 1200});
        QMouseEvent move(QEvent::MouseMove, at, t->bench().mapToGlobal(QPointF(at)), Qt::NoButton,
                         Qt::NoButton, {});
        QApplication::sendEvent(&t->bench(), &move);
        QVERIFY(said().contains("colour under: 0 160 60"));
        t->window->showStep(Step::LayOut); // where nothing is pointed at yet
        QVERIFY(!said().contains("colour under"));
    }
};

GLYPTOS_TEST(BenchTest)
#include "bench_test.moc"
