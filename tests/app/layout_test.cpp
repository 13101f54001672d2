// Lay out: panels judged as they are, art fitted, the spine worked out and overruled, panels taken in hand.
#include "file/release_json/release_json.h"
#include "support/register.h"
#include "support/window.h"

#include <QComboBox>
#include <QImage>
#include <QPushButton>
#include <QStringLiteral>

using namespace glyptos;
using namespace glyptos::test;

class LayoutTest : public QObject {
    Q_OBJECT
    std::unique_ptr<TestWindow> t;

    LayoutView& view() { return *t->window->layOut(); }
    const Flat& flat() { return *t->document().piece()->flat; }
    bool judged() {
        return t->settle([&] { return view().isJudged(); });
    }
    QPushButton* button(const QString& text) {
        for (QPushButton* b : view().findChildren<QPushButton*>())
            if (b->text() == text && b->isVisible()) return b;
        return nullptr;
    }

    /// A dark square picture that covers the front's trim alone, moved right by 1.2 mm.
    void putShortArt() {
        const auto source = importBytes(pngOf(400, 400,
                                              [](int, int) {
                                                  return std::array<uint8_t, 4>{20, 40, 60, 255};
                                              }),
                                        "Night.png")
                                .value()
                                .source;
        Layer layer;
        layer.name = "Night";
        layer.content = PictureContent{source->id, {0, 0, 1, 1}};
        layer.placement = {{157.5 + 1.2, 157.5}, 321.0 / 400, 321.0 / 400, 0, false, false};
        t->document().edit(
            "Put",
            withLayer(withSource(t->document().release(), source), t->document().panel(), layer).release);
    }

  private Q_SLOTS:
    void init() {
        t = std::make_unique<TestWindow>();
        t->document().selectPanel({t->piece("sleeve-12"), "back"});
        t->window->showStep(Step::LayOut);
        t->settle();
    }
    void cleanup() { t.reset(); }

    void emptyPanelsAreSaid() {
        QVERIFY(judged());
        for (const char* panel : {"back", "spine", "front"})
            QCOMPARE(view().verdictOf(panel), QStringLiteral("no art yet"));
        QVERIFY(!button("Fit art to panel")->isEnabled());
    }

    void shortArtIsMeasuredAndFitted() {
        putShortArt();
        QVERIFY(judged());
        // The back bleeds at its left, top and bottom; the art starts 1.2 mm too far right.
        QCOMPARE(view().verdictOf("back"), QStringLiteral("art short by 1.2 mm at left"));
        QTest::mouseClick(button("Fit art to panel"), Qt::LeftButton);
        QVERIFY(judged());
        QCOMPARE(view().verdictOf("back"), QStringLiteral("art covers the bleed"));
        const Placement& p = t->layers()[0]->placement;
        QCOMPARE(p.position, (Vec2{(315 - 3) / 2.0, 157.5}));
        QCOMPARE(p.scaleX, 321.0 / 400);
        t->document().undo();
        QVERIFY(judged());
        QCOMPARE(view().verdictOf("back"), QStringLiteral("art short by 1.2 mm at left"));
    }

    void aClickTakesAPanelInHand() {
        for (const char* panel : {"front", "spine", "back"}) {
            const Vec2 at = view().bench()->toView().map(flat().panel(panel)->onFlat.centre());
            QTest::mouseClick(view().bench(), Qt::LeftButton, {}, QPoint(int(at.x), int(at.y)));
            QCOMPARE(t->document().panel().panel, std::string(panel));
        }
    }

    void theSpineIsWorkedOutAndOverruled() {
        QCOMPARE(flat().values.at("spine"), 3.8);
        enter(t->find<NumberField>("Discs"), "2");
        QVERIFY(std::abs(flat().values.at("spine") - 6.4) < 1e-9); // 2 × 0.45 + 2 × 2.6 + 0.3
        auto* board = t->find<QComboBox>("Board");
        board->setCurrentIndex(board->findText("400 gsm"));
        Q_EMIT board->activated(board->currentIndex());
        QVERIFY(std::abs(flat().values.at("spine") - 6.54) < 1e-9);
        enter(t->find<NumberField>("Spine"), "1/4in");
        QCOMPARE(flat().values.at("spine"), 6.35);
        QCOMPARE(flat().trim().w, 636.35);
        // Why is kept with it, until it is worked out again.
        auto* why = t->find<QLineEdit>("Why Spine is set by hand");
        QVERIFY(why && why->isVisible());
        why->setFocus();
        QTest::keyClicks(why, "The plant has this crease only");
        QTest::keyClick(why, Qt::Key_Return);
        QCOMPARE(t->document().piece()->reasons.at("spine"), std::string("The plant has this crease only"));
        const auto kept = releaseFromJson(releaseToJson(*t->document().release()), shippedForms().value());
        QVERIFY(kept && kept->piece(t->document().piece()->id)->reasons == t->document().piece()->reasons);
        QTest::mouseClick(button("Work out"), Qt::LeftButton);
        QVERIFY(t->document().piece()->reasons.empty() && !why->isVisible());
        QVERIFY(std::abs(flat().values.at("spine") - 6.54) < 1e-9);
        // Out of range: refused, and said; nothing is clamped.
        enter(t->find<NumberField>("Spine"), "300");
        QVERIFY(std::abs(flat().values.at("spine") - 6.54) < 1e-9);
        QVERIFY(t->find<NumberField>("Spine")->property("wrong").toBool());
    }

    void wordsAreFittedToTheSpine() {
        Brief brief = t->document().release()->brief;
        brief.artist = "The Gannet Hours", brief.title = "Slack Tide Almanac";
        t->document().edit("Brief", withBrief(t->document().release(), brief));
        t->settle();
        QVERIFY(!button("Fit words to the spine")); // the back is none
        t->document().selectPanel({t->piece("sleeve-12"), "spine"});
        QVERIFY(judged());
        QTest::mouseClick(button("Fit words to the spine"), Qt::LeftButton);
        t->settle();
        QCOMPARE(t->layers().size(), size_t(1));
        const auto* words = t->layers()[0]->as<TextContent>();
        QVERIFY(words && words->spec.text.find("{title}") != std::string::npos);
        const double size = words->spec.letters.size;
        // A wider spine lets them be larger; it is the same layer.
        enter(t->find<NumberField>("Discs"), "2");
        QTest::mouseClick(button("Fit words to the spine"), Qt::LeftButton);
        t->settle();
        QCOMPARE(t->layers().size(), size_t(1));
        QVERIFY(t->layers()[0]->as<TextContent>()->spec.letters.size > size * 1.2);
        enter(t->find<NumberField>("Spine"), "1");
        QTest::mouseClick(button("Fit words to the spine"), Qt::LeftButton);
        QVERIFY2(t->notice().contains("do not fit"), qPrintable(t->notice()));
    }

    /// Art that is off along a fold is said, marked and aligned in one step.
    void seamsAreSaidAndAligned() {
        const auto source = importBytes(pngOf(800, 800,
                                              [](int x, int y) {
                                                  return std::array<uint8_t, 4>{
                                                      uint8_t(128 + 90 * std::sin(x * 0.03 + y * 0.09)),
                                                      uint8_t(128 + 90 * std::sin(y * 0.05)), 90, 255};
                                              }),
                                        "Sea.png")
                                .value()
                                .source;
        ReleasePtr r = withSource(t->document().release(), source);
        const std::string piece = t->piece("sleeve-12");
        for (const Panel& panel : flat().panels) {
            Layer layer;
            layer.name = "Sea", layer.content = PictureContent{source->id, {0, 0, 1, 1}};
            const Vec2 middle{316.9, panel.id == "front" ? 157.5 + 2.4 : 157.5}; // of the flat, or lower
            layer.placement = {
                panel.toFlat().inverse()->map(middle), 0.9, 0.9, double(-panel.turn), false, false};
            r = withLayer(r, {piece, panel.id}, layer);
        }
        t->document().edit("Sea", r);
        QVERIFY(judged());
        const auto said = [&] {
            QStringList out;
            for (QLabel* label : view().findChild<SeamRows*>()->findChildren<QLabel*>())
                if (label->isVisible()) out << label->text();
            return out;
        };
        QVERIFY2(said().contains("✗ off by 2.4 mm") && said().contains("✓ meets"),
                 qPrintable(said().join("; ")));
        // On the bench the fold is marked.
        const Vec2 fold = view().bench()->toView().map({318.8, 60});
        const auto red = [&] {
            const QColor c = view().bench()->grab().toImage().pixelColor(int(fold.x) - 2, int(fold.y));
            return c.red() - (c.green() + c.blue()) / 2;
        };
        const int marked = red();
        QToolButton* word = nullptr;
        for (QToolButton* b : view().findChildren<QToolButton*>())
            if (b->text() == "Move Front" && b->isVisible()) word = b;
        QVERIFY(word);
        const size_t steps = t->document().history().steps().size();
        QTest::mouseClick(word, Qt::LeftButton);
        QTest::mouseClick(word, Qt::LeftButton); // before it has been judged anew: nothing more is moved
        QVERIFY(judged());
        QCOMPARE(t->document().history().steps().size(), steps + 1);
        QVERIFY2(!said().contains("✗ off by 2.4 mm"), qPrintable(said().join("; ")));
        QCOMPARE(said().count("✓ meets"), 2);
        QVERIFY(!word->isVisible());
        QVERIFY(red() < marked);
        t->document().undo();
        QVERIFY(judged());
        QVERIFY(said().contains("✗ off by 2.4 mm"));
    }

    /// A booklet: pages as spreads, one row each; fewer pages take theirs away, more bring them back.
    void pagesOfABooklet() {
        const FormList forms = shippedForms().value();
        for (const auto& form : forms)
            if (form->id == "disc-booklet")
                t->document().edit("Add", withPiece(t->document().release(), form));
        t->document().selectPanel({t->piece("disc-booklet"), "front"});
        QVERIFY(judged());
        const auto rows = [&] {
            QStringList out;
            for (QLabel* label : view().findChild<PanelRows*>()->findChildren<QLabel*>())
                if (label->text().contains("<b>")) out << label->text();
            return out.size();
        };
        QCOMPARE(rows(), 8);
        QCOMPARE(t->document().panel().panel, std::string("front"));
        const Vec2 at = view().bench()->toView().map(flat().panel("page-5")->onFlat.centre());
        QTest::mouseClick(view().bench(), Qt::LeftButton, {}, QPoint(int(at.x), int(at.y)));
        QCOMPARE(t->document().panel().panel, std::string("page-5"));
        t->putBox("Plate", {10, 10, 40, 40}, {1, 0, 0, 1});
        // In Compose so many panels are a list; a few are words side by side.
        t->window->showStep(Step::Compose);
        auto* list = t->find<QComboBox>("Panel");
        QVERIFY(list && list->isVisible() && list->count() == 8 && list->currentText() == "Page 5");
        list->setCurrentIndex(list->findText("Page 3"));
        Q_EMIT list->activated(list->currentIndex());
        QCOMPARE(t->document().panel().panel, std::string("page-3"));
        t->document().selectPanel({t->document().panel().piece, "page-5"});
        t->window->showStep(Step::LayOut);
        auto* pages = t->find<QComboBox>("Pages");
        const auto choose = [&](const char* count) {
            pages->setCurrentIndex(pages->findText(count));
            Q_EMIT pages->activated(pages->currentIndex());
            QVERIFY(judged());
        };
        choose("4");
        QCOMPARE(rows(), 4);
        QCOMPARE(t->document().panel().panel, std::string("front")); // page 5 is not there
        choose("16");
        QCOMPARE(rows(), 16);
        QCOMPARE(t->document().piece()->take().stack("page-5").size(), size_t(1));
        // It stays in a file that is saved while the page is away.
        choose("4");
        const auto back = releaseFromJson(releaseToJson(*t->document().release()), shippedForms().value(),
                                          noTiles, noLooks);
        QVERIFY2(back, qPrintable(sentence(back)));
        const PiecePtr piece = back->piece(t->document().panel().piece);
        QCOMPARE(withParameter(std::make_shared<const Release>(*back), piece->id, "pages", 8)
                     .value()
                     ->piece(piece->id)
                     ->take()
                     .stack("page-5")
                     .size(),
                 size_t(1));
    }

    void spineWordsTurnWithTheirPanel() {
        t->document().selectPanel({t->piece("sleeve-12"), "spine"});
        Layer ground;
        ground.content = FillContent{Rgba{1, 1, 1, 1}};
        Layer mark;
        TextContent text;
        text.spec.text = "MMMM";
        text.spec.letters.style = "Black";
        text.spec.letters.size = 3;
        text.colour = {0, 0, 0, 1};
        mark.content = text;
        mark.placement.position = {60, 0.2};
        ReleasePtr r = withLayer(t->document().release(), t->document().panel(), ground);
        t->document().edit("Mark", withLayer(r, t->document().panel(), mark).release);
        QVERIFY(judged());
        // On the flat the spine's left end is at the top, so the words stand about 60 mm below it.
        const QImage seen = view().bench()->grab().toImage();
        const auto dark = [&](double fromMm, double toMm) {
            int n = 0;
            for (double y = fromMm; y < toMm; y += 0.25) {
                const Vec2 at = view().bench()->toView().map({315 + 1.9, y});
                n += seen.pixelColor(int(at.x), int(at.y)).lightness() < 190;
            }
            return n;
        };
        for (const LineKind kind : {LineKind::Fold, LineKind::Trim}) {
            LineKey key = view().bench()->key();
            key[kind] = false;
            view().bench()->setKey(key);
        }
        QVERIFY(dark(60, 66) > 3);
        QCOMPARE(dark(100, 200), 0);
    }
};

GLYPTOS_TEST(LayoutTest)
#include "layout_test.moc"
