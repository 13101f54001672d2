// Words typed where they stand, their figures, and the sheet of all faces, in the window.
#include "app/letter/legibility_section.h"
#include "release/edits/palette_edits.h"
#include "release/edits/style_edits.h"
#include "support/register.h"
#include "support/window.h"

#include <QComboBox>
#include <QMenu>
#include <QPlainTextEdit>
#include <QPushButton>

using namespace glyptos;
using namespace glyptos::test;

class LetteringTest : public QObject {
    Q_OBJECT
    std::unique_ptr<TestWindow> t;
    std::string id;

    const TextSpec& spec() { return t->find(id)->as<TextContent>()->spec; }
    const TextSpec& specOn(const PanelRef& panel) {
        return findLayer(stackOf(*t->document().release(), panel), id)->as<TextContent>()->spec;
    }
    std::shared_ptr<const Paragraph> set() {
        const auto& text = *t->find(id)->as<TextContent>();
        return t->engine->renderer.paragraphs().get(resolvedText(text, *t->document().release()));
    }
    /// Where a point of the set words is on the bench.
    QPoint onBench(Vec2 p) { return t->on(textToPanel(t->find(id)->placement).map(p)); }
    QPoint middleOf(size_t letter) {
        const SetLetter& l = set()->letters[letter];
        return onBench(l.map.map({l.advance * 0.25, -l.above * 0.3}));
    }
    QPlainTextEdit* editor() { return t->bench().findChild<QPlainTextEdit*>(); }

  private Q_SLOTS:
    void init() {
        t = std::make_unique<TestWindow>();
        t->window->showStep(Step::Compose);
        t->title("Slack Tide Almanac");
        Layer layer;
        layer.name = "Words";
        TextContent text;
        text.spec.text = "The {title}, low water";
        text.spec.letters.size = 180;
        text.colour = Rgba{0, 0, 0, 1};
        layer.content = text;
        layer.placement.position = {300, 800};
        id = t->put(layer);
    }
    void cleanup() { t.reset(); }

    void theCaretGoesWhereItIsClicked() {
        t->bench().editWords();
        t->settle();
        QVERIFY(editor());
        // The 25th letter shown is the l of "low": behind the field.
        const size_t low = set()->letters.size() - std::string("low water").size();
        const QPoint at = middleOf(low);
        QTest::mouseClick(editor()->viewport(), Qt::LeftButton, {},
                          editor()->viewport()->mapFrom(&t->bench(), at));
        QCOMPARE(editor()->textCursor().position(), 13); // "The {title}, "
        QTest::keyClicks(editor(), "very ");
        QTest::keyClick(editor(), Qt::Key_Return, Qt::ControlModifier);
        t->settle();
        QCOMPARE(spec().text, std::string("The {title}, very low water"));
        QCOMPARE(t->document().history().undoName(), std::string("Write Words"));
    }

    void fieldsAreTakenAsWholes() {
        t->bench().editWords();
        t->settle();
        // Inside the field: the caret stands at its nearer end, and goes over it in one step.
        QTest::mouseClick(editor()->viewport(), Qt::LeftButton, {},
                          editor()->viewport()->mapFrom(&t->bench(), middleOf(6)));
        QCOMPARE(editor()->textCursor().position(), 4);
        QTest::keyClick(editor(), Qt::Key_Right);
        QCOMPARE(editor()->textCursor().position(), 11);
        QTest::keyClick(editor(), Qt::Key_Left);
        QCOMPARE(editor()->textCursor().position(), 4);
        QTest::keyClick(editor(), Qt::Key_Delete);
        QCOMPARE(editor()->toPlainText(), QStringLiteral("The , low water"));
        editor()->undo();
        QCOMPARE(editor()->toPlainText(), QStringLiteral("The {title}, low water"));
        QTest::keyClick(editor(), Qt::Key_Escape);
        QCOMPARE(spec().text, std::string("The {title}, low water"));
    }

    void markedLettersAreChangedAlone() {
        t->bench().editWords();
        t->settle();
        QTest::keyClick(editor(), Qt::Key_End);
        for (int i = 0; i < 5; ++i) QTest::keyClick(editor(), Qt::Key_Left, Qt::ShiftModifier);
        // The figures take the focus; what is marked stays in hand.
        t->find<QLineEdit>("Type size")->setFocus();
        t->settle();
        QVERIFY(!editor());
        QVERIFY(t->document().lettersInHand().has_value());
        t->choose("Typeface", QStringLiteral("Bebas Neue"));
        QCOMPARE(spec().letters.family, std::string("Inter"));
        QCOMPARE(spec().runs.size(), size_t(1));
        QCOMPARE(spec().runs[0].letters.family, std::string("Bebas Neue"));
        QCOMPARE(spec().text.substr(spec().runs[0].from, spec().runs[0].to - spec().runs[0].from),
                 std::string("water"));
        t->type("Type size", "300");
        QCOMPARE(spec().letters.size, 180.0);
        QVERIFY(std::abs(spec().runs[0].letters.size - 300) < 1e-9);
        t->document().selectLayer({});
        t->document().selectLayer(id);
        QVERIFY(!t->document().lettersInHand());
    }

    void wordsGoRoundACircle() {
        t->choose("Frame", QStringLiteral("Round a circle"));
        t->type("Radius", "700");
        const auto* circle = std::get_if<RoundCircle>(&spec().frame);
        QVERIFY(circle && circle->radius == 700);
        for (const SetLetter& letter : set()->letters) {
            const Vec2 foot = letter.map.map({letter.advance / 2, 0});
            QVERIFY(std::abs(std::hypot(foot.x, foot.y) - 700) < 1e-6);
        }
        // And the ink is where the letters are: at the top of the circle, not in its middle.
        const Vec2 middle = t->find(id)->placement.position;
        const QImage seen = t->bench().grab().toImage();
        const auto darkAlong = [&](double radius) {
            int dark = 0;
            for (int degrees = -60; degrees <= 60; ++degrees) {
                const double turn = degrees * M_PI / 180;
                const QPoint p =
                    t->on({middle.x + radius * std::sin(turn), middle.y - radius * std::cos(turn)});
                dark += seen.rect().contains(p) && seen.pixelColor(p).lightness() < 90;
            }
            return dark;
        };
        QVERIFY(darkAlong(700 + 180 * 0.3) > 10);
        QCOMPARE(darkAlong(300), 0);
    }

    void wordsWithoutRoomAreFitted() {
        t->choose("Frame", QStringLiteral("In an area"));
        t->type("Line width", "600");
        t->type("Height of the area", "300");
        QVERIFY(set()->shown <
                resolvedText(*t->find(id)->as<TextContent>(), *t->document().release()).text.size());
        for (auto* button : t->window->findChildren<QPushButton*>())
            if (button->isVisible() && button->text() == QStringLiteral("Fit")) button->click();
        t->settle();
        QCOMPARE(set()->shown,
                 resolvedText(*t->find(id)->as<TextContent>(), *t->document().release()).text.size());
        QVERIFY(spec().letters.size < 180);
    }

    void lettersFollowARule() {
        t->choose("Rule of the letters", QStringLiteral("Falling"));
        t->type("How far letters turn", "60");
        QCOMPARE(spec().rules.size(), size_t(1));
        const Vec2 way = set()->letters.back().map.mapVector({1, 0});
        QVERIFY(std::abs(std::atan2(way.y, way.x) * 180 / M_PI - 60) < 1e-6);
        t->choose("Rule of the letters", QStringLiteral("In their places"));
        QVERIFY(spec().rules.empty());
    }

    void stylesAreSharedByPieces() {
        // A style from these words, given to words on the sleeve, then changed.
        const Made made = withTextStyle(t->document().release(), "Track title",
                                        lookOf(*t->find(id)->as<TextContent>(), Unit::Px));
        t->document().edit("Style", made.release);
        t->settle();
        t->choose("Text style", QStringLiteral("Track title"));
        const PanelRef cover = t->document().panel();
        t->document().selectPanel({t->piece("sleeve-12"), "front"});
        Layer layer;
        layer.name = "Back", layer.content = TextContent{};
        const std::string other = t->put(layer);
        t->choose("Text style", QStringLiteral("Track title"));
        QVERIFY(std::abs(t->find(other)->as<TextContent>()->spec.letters.size - 180 * 25.4 / 300) < 1e-6);
        t->choose("Typeface", QStringLiteral("Bebas Neue"));
        QCOMPARE(specOn(cover).letters.family, std::string("Inter")); // its own so far
        for (auto* button : t->window->findChildren<QPushButton*>())
            if (button->isVisible() && button->text() == QStringLiteral("Into the style")) button->click();
        t->settle();
        QCOMPARE(specOn(cover).letters.family, std::string("Bebas Neue"));
        QCOMPARE(t->find(other)->as<TextContent>()->spec.letters.family, std::string("Bebas Neue"));
    }

    /// The menu of the style has the inks of the release besides the four.
    void aStylePrintsInAnInk() {
        const Made made = withTextStyle(t->document().release(), "Track title",
                                        lookOf(*t->find(id)->as<TextContent>(), Unit::Px));
        ReleasePtr r = withSwatches(made.release, {{"Silver", {0.7f, 0.7f, 0.7f, 1}}});
        const std::string silver = r->palette.back().id;
        t->document().edit("Ink", withSwatchPlate(r, silver, Plate::Own));
        t->settle();
        t->choose("Text style", QStringLiteral("Track title"));
        const auto inks = [&] {
            for (QAction* action : t->window->findChildren<QAction*>())
                if (action->text() == QStringLiteral("Print it in")) return action->menu();
            return static_cast<QMenu*>(nullptr);
        }();
        QVERIFY(inks);
        Q_EMIT inks->aboutToShow();
        QCOMPARE(inks->actions().size(), 2);
        QVERIFY(inks->actions()[0]->isChecked());
        QCOMPARE(inks->actions()[1]->text(), QStringLiteral("Silver"));
        inks->actions()[1]->trigger();
        QCOMPARE(textStyle(*t->document().release(), made.id)->spot, silver);
        Q_EMIT inks->aboutToShow();
        QVERIFY(inks->actions()[1]->isChecked());
    }

    void legibilityIsMeasuredAgainstWhatIsBehind() {
        const auto said = [&] {
            const auto* section = t->window->findChild<LegibilitySection*>();
            t->settle([&] { return section->isMeasured(); });
            return t->find<QLabel>("Legibility")->text();
        };
        QVERIFY2(said().contains(QStringLiteral("21.0")), qPrintable(said())); // black on paper
        const Rect words = t->bounds(id);
        t->putBox("Night", words.grown(40), {0.1F, 0.1F, 0.1F, 1});
        t->document().selectLayer(id);
        QVERIFY2(said().contains(QStringLiteral("21.0")),
                 qPrintable(said())); // what is in front does not count
        const TextContent black = *t->find(id)->as<TextContent>();
        Layer over;
        over.name = "Over", over.content = black, over.placement = t->find(id)->placement;
        t->put(over);
        QVERIFY2(said().contains(QStringLiteral("too low")), qPrintable(said()));
    }

    void facesAreTriedAndTaken() {
        SpecimenSheet& sheet = *t->window->compose()->specimens();
        sheet.open();
        QVERIFY(t->settle([&] { return sheet.isMeasured() && sheet.list()->isSettled(); }));
        const auto& rows = sheet.list()->rows();
        const auto bebas = std::find_if(rows.begin(), rows.end(),
                                        [](const Specimen& s) { return s.family == "Bebas Neue"; });
        QVERIFY(bebas != rows.end());
        const int row = int(bebas - rows.begin());
        QMouseEvent over(QEvent::MouseMove, sheet.list()->rowRect(row).center(),
                         sheet.list()->viewport()->mapToGlobal(sheet.list()->rowRect(row).center()),
                         Qt::NoButton, {}, {});
        QApplication::sendEvent(sheet.list()->viewport(), &over);
        QTRY_VERIFY(t->document().shown() != t->document().release());
        QCOMPARE(findLayer(stackOf(*t->document().shown(), t->document().panel()), id)
                     ->as<TextContent>()
                     ->spec.letters.family,
                 std::string("Bebas Neue"));
        QTest::keyClick(sheet.list(), Qt::Key_Escape);
        QVERIFY(t->document().shown() == t->document().release() && !sheet.isVisible());

        sheet.open();
        QVERIFY(t->settle([&] { return sheet.list()->isSettled(); }));
        QTest::mouseClick(sheet.list()->viewport(), Qt::LeftButton, {},
                          sheet.list()->rowRect(row).topLeft() + QPoint(40, 20));
        QCOMPARE(spec().letters.family, std::string("Bebas Neue"));
        // By keys, and with a star.
        QTest::keyClick(sheet.list(), Qt::Key_Space);
        QVERIFY(sheet.list()->rows()[size_t(row)].starred);
        QTest::keyClick(sheet.list(), Qt::Key_Down);
        QTest::keyClick(sheet.list(), Qt::Key_Return);
        QCOMPARE(spec().letters.family, sheet.list()->rows()[size_t(row) + 1].family);
    }

    void facesAreFoundByWhatTheyAre() {
        SpecimenSheet& sheet = *t->window->compose()->specimens();
        sheet.open();
        QVERIFY(t->settle([&] { return sheet.isMeasured(); }));
        const size_t all = sheet.list()->rows().size();
        for (auto* chip : sheet.findChildren<QToolButton*>())
            if (chip->text() == QStringLiteral("blackletter")) chip->click();
        t->settle();
        const auto& rows = sheet.list()->rows();
        QVERIFY(!rows.empty() && rows.size() < all);
        QVERIFY(std::all_of(rows.begin(), rows.end(), [](const Specimen& s) {
            return s.caption.contains(QStringLiteral("blackletter"));
        }));
        QTest::keyClicks(sheet.findChild<QLineEdit*>(), "no such face");
        QVERIFY(sheet.list()->rows().empty());
    }
};

GLYPTOS_TEST(LetteringTest)
#include "lettering_test.moc"
