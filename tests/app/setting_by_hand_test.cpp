// Words set by hand on the bench: pairs, lines, letters, the start on a circle; the track list as one layer;
// words taken to pieces and put behind a figure.
#include "app/bench/words_editor.h"
#include "release/edits/cutout_edits.h"
#include "release/fields.h"
#include "release/walks.h"
#include "support/register.h"
#include "support/window.h"
#include "type/hand_setting.h"

#include <QComboBox>
#include <QContextMenuEvent>
#include <QFile>
#include <QListWidget>
#include <QMenu>
#include <QPlainTextEdit>

using namespace glyptos;
using namespace glyptos::test;

class SettingByHandTest : public QObject {
    Q_OBJECT
    QTemporaryDir dictionaries;
    std::unique_ptr<TestWindow> t;
    std::string id;

    const TextContent& text() { return *t->find(id)->as<TextContent>(); }
    std::shared_ptr<const Paragraph> set() {
        return t->engine->renderer.paragraphs().get(resolvedText(text(), *t->document().release()));
    }
    std::string shownWords() { return resolvedText(text(), *t->document().release()).text; }
    QPoint onBench(Vec2 p) { return t->on(textToPanel(t->find(id)->placement).map(p)); }
    QPoint onLetter(size_t letter, Vec2 share) {
        const SetLetter& l = set()->letters[letter];
        return onBench(l.map.map({l.advance * share.x, -l.above * share.y}));
    }
    void useLetterHand() {
        t->bench().setHand(Hand::Letter);
        t->settle();
    }
    QPlainTextEdit* editor() { return t->bench().findChild<QPlainTextEdit*>(); }
    void tracks() {
        Brief brief = t->document().release()->brief;
        brief.tracks = {
            {"A", "Brim", 222, ""}, {"A", "Öldurót", 190, "Auðr Holm"}, {"B", "Fjara og flóð", 301, ""}};
        t->document().edit("Tracks", withBrief(t->document().release(), brief));
        t->settle();
    }

    /// One language, whose few words are in the folder that Hunspell looks in.
    static void writeDictionary(const QString& folder) {
        const auto write = [&](const char* name, const char* text) {
            QFile file(folder + QLatin1Char('/') + QLatin1String(name));
            QVERIFY(file.open(QIODevice::WriteOnly) && file.write(text) > 0);
        };
        write("en_GB.aff", "SET UTF-8\nTRY aetnrlw\n");
        write("en_GB.dic", "4\nTavern\nlamp\nlow\nwater\n");
    }

  private Q_SLOTS:
    void initTestCase() {
        QVERIFY(dictionaries.isValid());
        writeDictionary(dictionaries.path());
        qputenv("DICPATH", dictionaries.path().toUtf8());
    }
    void init() {
        t = std::make_unique<TestWindow>();
        t->window->showStep(Step::Compose);
        t->title("Slack Tide");
        Layer layer;
        layer.name = "Words";
        TextContent words;
        words.spec.text = "Tavern lamp\nlow water\n{title}";
        words.spec.letters.size = 260;
        words.colour = Rgba{0, 0, 0, 1};
        layer.content = words;
        layer.placement.position = {500, 600};
        id = t->put(layer);
    }
    void cleanup() { t.reset(); }

    void aPairIsDraggedCloser() {
        useLetterHand();
        const double before = set()->letters[1].map.e;
        const QPoint between = onLetter(1, {0, 0.3});
        t->drag(t->bench(), between, between - QPoint(9, 0));
        const double em = 9 / t->bench().zoom() / 260;
        QVERIFY2(std::abs(kernAt(text().spec, 1) + em) < 0.02,
                 qPrintable(QString::number(kernAt(text().spec, 1))));
        QVERIFY(std::abs(before - set()->letters[1].map.e - em * 260) < 260 * 0.02);
        QCOMPARE(t->document().history().undoName(), std::string("Kern a pair of Words"));
        t->document().undo();
        QVERIFY(text().spec.kerns.empty());
    }

    void aLineIsDraggedNearer() {
        useLetterHand();
        const SetLine line = set()->lines[1];
        const double before = line.baseline;
        const QPoint grip = onBench({line.left, line.baseline}) - QPoint(14, 0);
        t->drag(t->bench(), grip, grip - QPoint(0, 12));
        const double by = 12 / t->bench().zoom();
        QVERIFY(std::abs(before - set()->lines[1].baseline - by) < 0.2 * by);
        QCOMPARE(text().spec.leadings.size(), size_t(1));
        QCOMPARE(text().spec.leadings[0].at, line.from);
        QCOMPARE(text().spec.leading, 1.2);
    }

    void aLetterIsDraggedOffWithAlt() {
        useLetterHand();
        const QPoint on = onLetter(3, {0.5, 0.3});
        t->drag(t->bench(), on, on + QPoint(6, -15), Qt::AltModifier);
        const LetterPose pose = poseAt(text().spec, 3);
        const double em = 1 / t->bench().zoom() / 260;
        QVERIFY(std::abs(pose.offEm.x - 6 * em) < 0.03 && std::abs(pose.offEm.y + 15 * em) < 0.03);
    }

    void theStartIsDraggedRoundACircle() {
        t->choose("Frame", QStringLiteral("Round a circle"));
        t->type("Radius", "700");
        useLetterHand();
        const auto at = [&](double degrees) {
            const double a = degrees * M_PI / 180;
            return onBench({700 * std::sin(a), -700 * std::cos(a)});
        };
        t->drag(t->bench(), at(0), at(55));
        QVERIFY(std::abs(std::get<RoundCircle>(text().spec.frame).start - 55) < 2);
        double right = 0;
        for (const SetLetter& letter : set()->letters) right += letter.map.map({0, 0}).x;
        QVERIFY(right > 0);
    }

    void lettersOfTheBriefAreLeftAlone() {
        useLetterHand();
        const size_t first = set()->letters.size() - 10; // "Slack Tide"
        const QPoint between = onLetter(first + 2, {0, 0.3});
        t->drag(t->bench(), between, between - QPoint(9, 0));
        QVERIFY(text().spec.kerns.empty());
        QVERIFY2(t->notice().contains(QStringLiteral("come from the brief")), qPrintable(t->notice()));
    }

    void aClickOnWordsOpensThemAndBesideThemAddsOthers() {
        useLetterHand();
        const size_t before = t->layers().size();
        QTest::mouseClick(&t->bench(), Qt::LeftButton, {}, onLetter(3, {0.5, 0.3}));
        t->settle();
        QVERIFY(editor());
        QCOMPARE(t->layers().size(), before);
        // By keys: Alt and the arrows set the pair at the caret and its line.
        QTextCursor cursor = editor()->textCursor();
        cursor.setPosition(13);
        editor()->setTextCursor(cursor);
        QTest::keyClick(editor(), Qt::Key_Right, Qt::AltModifier);
        QTest::keyClick(editor(), Qt::Key_Right, Qt::AltModifier);
        QVERIFY(std::abs(kernAt(text().spec, 13) - 0.02) < 1e-9);
        QTest::keyClick(editor(), Qt::Key_Down, Qt::AltModifier);
        QVERIFY(std::abs(leadingOf(text().spec, 12, 21) - 1.25) < 1e-9);
        QTest::keyClick(editor(), Qt::Key_Return, Qt::ControlModifier);
        t->settle();
        QVERIFY(!editor());
        QTest::mouseClick(&t->bench(), Qt::LeftButton, {}, t->on({2600, 2800}));
        t->settle();
        QCOMPARE(t->layers().size(), before + 1);
    }

    void wordsThatNoDictionaryHasAreMarkedAndMended() {
        t->document().edit("Language",
                           withChangedLayer(t->document().release(), t->document().panel(), id, [](Layer& l) {
                               std::get<TextContent>(l.content).spec.letters.language = "en-GB";
                           }));
        t->bench().editWords();
        t->settle();
        const QPointer<WordsEditor> words = qobject_cast<WordsEditor*>(editor());
        QVERIFY(words);
        QTRY_VERIFY(words->spelling().isKnown());
        QVERIFY(words->spelling().words().empty()); // nor is the field's name, which is no word of the text
        QTest::keyClick(words, Qt::Key_Home, Qt::ControlModifier);
        for (int i = 0; i < 4; ++i) QTest::keyClick(words, Qt::Key_Right);
        QTest::keyClick(words, Qt::Key_Delete); // Taven lamp
        QTRY_VERIFY(words->spelling().isKnown());
        QCOMPARE(words->spelling().words(), (std::vector<Misspelt>{{0, 5}}));
        // Dots in the colour of faults under its letters.
        const SetLetter letter = set()->letters[1];
        const QImage seen = t->bench().grab().toImage();
        const QPoint foot = onBench(letter.map.map({letter.advance / 2, letter.below}));
        int marked = 0;
        for (int x = -12; x <= 12; ++x)
            for (int y = -3; y <= 3; ++y) {
                const QColor c = seen.pixelColor(foot + QPoint(x, y));
                marked += c.red() > 150 && c.green() < 140;
            }
        QVERIFY(marked > 3);
        QContextMenuEvent ask(QContextMenuEvent::Mouse,
                              words->viewport()->mapFrom(&t->bench(), onLetter(2, {0.5, 0.3})), QPoint(5, 5));
        QApplication::sendEvent(words->viewport(), &ask);
        QMenu* menu = nullptr;
        for (auto* one : words->findChildren<QMenu*>())
            if (one->isVisible()) menu = one;
        QVERIFY(menu && !menu->actions().isEmpty());
        QCOMPARE(menu->actions()[0]->text(), QStringLiteral("Tavern"));
        menu->actions()[0]->trigger();
        QVERIFY(words->toPlainText().startsWith(QStringLiteral("Tavern lamp")));
        QVERIFY(words->spelling().words().empty());
        words->finish(true);
        t->settle();
        QVERIFY(text().spec.text.starts_with("Tavern lamp"));
    }

    void markedLettersGetAPose() {
        t->bench().editWords();
        t->settle();
        QTest::keyClick(editor(), Qt::Key_Home, Qt::ControlModifier);
        for (int i = 0; i < 2; ++i) QTest::keyClick(editor(), Qt::Key_Right, Qt::ShiftModifier);
        t->find<QLineEdit>("Type size")->setFocus();
        t->settle();
        t->type("Turn of the marked letters", "20");
        t->type("Opacity of the marked letters", "0.5");
        QCOMPARE(text().spec.poses.size(), size_t(2));
        QVERIFY(poseAt(text().spec, 1).turn == 20 && poseAt(text().spec, 1).opacity == 0.5);
        t->type("Space before the marked letters", "0.1");
        QCOMPARE(kernAt(text().spec, 0), 0.1);
    }

    void theTrackListFollowsTheBrief() {
        tracks();
        t->action("Track list")->trigger();
        t->settle();
        id = t->document().layer();
        QVERIFY(text().tracks);
        QCOMPARE(shownWords(), std::string("Side A\nA1\tBrim\t3:42\nA2\tÖldurót\t3:10\nSide B\n"
                                           "B1\tFjara og flóð\t5:01"));
        // Its words are those of the brief.
        t->bench().editWords();
        QVERIFY(!editor() && t->notice().contains(QStringLiteral("brief")));
        auto* facts = t->find<QListWidget>("Facts of a track");
        facts->item(3)->setCheckState(Qt::Checked); // performers
        t->settle();
        QVERIFY2(shownWords().find("Öldurót\vAuðr Holm\t3:10") != std::string::npos, shownWords().c_str());
        facts->setFocus();
        facts->setCurrentRow(2);
        QTest::keyClick(facts, Qt::Key_Up, Qt::ControlModifier);
        QTest::keyClick(facts, Qt::Key_Up, Qt::ControlModifier);
        QVERIFY2(shownWords().starts_with("Side A\n3:42\tA1\tBrim"), shownWords().c_str());
        t->choose("Numbers", QStringLiteral("01"));
        t->type("First track", "2");
        QVERIFY2(shownWords().starts_with("Side A\n3:10\t02\tÖldurót"), shownWords().c_str());
        t->type("Word before a side", "Disc");
        QVERIFY(shownWords().starts_with("Disc A\n"));
        QLabel* centred = nullptr;
        for (auto* label : t->window->findChildren<QLabel*>())
            if (label->text().contains(QStringLiteral("Centred lists read badly"))) centred = label;
        QVERIFY(centred && !centred->isVisible());
        t->choose("Alignment", QStringLiteral("Centre"));
        QVERIFY(centred->isVisible());
        t->choose("Alignment", QStringLiteral("Left"));
        t->type("Strips", "2");
        t->type("Baseline grid", "140");
        const auto shown = set();
        for (const SetLine& line : shown->lines) {
            const double steps = (line.baseline - shown->lines[0].baseline) / 140;
            QVERIFY(std::abs(steps - std::round(steps)) < 1e-9);
        }
        // A title changed in the brief changes here.
        Brief brief = t->document().release()->brief;
        brief.tracks[1].title = "Brimalda";
        t->document().edit("Title", withBrief(t->document().release(), brief));
        QVERIFY(shownWords().find("Brimalda") != std::string::npos);
    }

    void aListSetFreeLooksTheSame() {
        tracks();
        t->action("Track list")->trigger();
        t->settle();
        id = t->document().layer();
        const auto before = set();
        for (auto* button : t->window->findChildren<QToolButton*>())
            if (button->isVisible() && button->text() == QStringLiteral("Set free")) button->click();
        t->settle();
        QVERIFY(!text().tracks && text().spec.text.starts_with("Side A\nA1\tBrim"));
        QCOMPARE(set()->letters.size(), before->letters.size());
        for (size_t i = 0; i < before->letters.size(); ++i)
            QVERIFY((set()->letters[i].map.map({0, 0}) - before->letters[i].map.map({0, 0})).length() < 1e-9);
    }

    void wordsComeApartAndBecomeShapes() {
        const size_t letters = [&] {
            size_t out = 0;
            for (const SetLetter& l : set()->letters) out += !l.isSpace;
            return out;
        }();
        t->action("Each letter a layer")->trigger();
        t->settle();
        const LayerPtr group = t->document().selectedLayer();
        QVERIFY(group && group->as<GroupContent>());
        QCOMPARE(group->as<GroupContent>()->layers.size(), letters);
        t->document().undo();
        t->document().selectLayer(id);
        t->action("As shapes")->trigger();
        QVERIFY(t->document().selectedLayer()->as<ShapeContent>());
        QCOMPARE(t->document().history().undoName(), std::string("Words as shapes"));
    }

    void wordsStandBehindAFigure() {
        // A dark figure on a light ground, over which the words lie.
        const auto figure = [](int x, int y) -> std::array<uint8_t, 4> {
            const double away = std::hypot((x - 200) / 90.0, (y - 210) / 150.0);
            const auto grain = uint8_t((x * 7 + y * 13) % 9);
            if (away < 1) return {uint8_t(60 + grain), 30, 40, 255};
            return {uint8_t(190 + grain), uint8_t(205 + grain), 220, 255};
        };
        const auto imported = importBytes(jpegOf(400, 400, figure), "figure.jpg");
        QVERIFY(imported);
        t->document().edit("Source", withSource(t->document().release(), imported->source));
        Layer picture;
        picture.name = "Figure", picture.content = PictureContent{imported->source->id};
        picture.placement.position = {1500, 1500};
        picture.placement.scaleX = picture.placement.scaleY = 7;
        const std::string photo = t->put(picture);
        t->document().edit("Order",
                           withOrder(t->document().release(), t->document().panel(), {photo}, Nearer::Back));
        t->document().selectLayer(id);
        t->action("Behind the figure")->trigger();
        QVERIFY(t->settle([&] { return t->document().history().undoName() == "Words behind Figure"; }));
        const Stack& stack = t->layers();
        const auto isGround = [&](const LayerPtr& l) { return l->id == photo; };
        const size_t ground = size_t(std::find_if(stack.begin(), stack.end(), isGround) - stack.begin());
        QVERIFY(ground >= 2 && ground < stack.size());
        QCOMPARE(stack[ground - 1]->id, id);
        const LayerPtr front = firstLayer({stack[ground - 2]}, [&](const Layer& l) {
            return l.as<PictureContent>() && isCutOut(l, *t->document().release());
        });
        QVERIFY(front);
    }
};

GLYPTOS_TEST(SettingByHandTest)
#include "setting_by_hand_test.moc"
