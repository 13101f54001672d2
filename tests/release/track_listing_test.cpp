// Track lists as words: which tracks and facts, numbers, headings, columns, letters, and styles.
#include "file/data_folder.h"
#include "file/project.h"
#include "release/edits/style_edits.h"
#include "release/fields.h"
#include "release/placing.h"
#include "release/walks.h"
#include "support/register.h"
#include "type/paragraph.h"
#include "type/text_edits.h"

using namespace glyptos;

class TrackListingTest : public QObject {
    Q_OBJECT

    static Release release() {
        Release out;
        out.brief.tracks = {{"A", "Brim", 222, ""},
                            {"A", "Öldurót", 0, "Auðr Holm"},
                            {"B", "Fjara\tog flóð", 3661, ""},
                            {"B", "Þoka", 59, "Low Water Quartet"}};
        return out;
    }
    static TextContent list() {
        TextContent out;
        out.spec.frame = InTable{};
        out.tracks.emplace();
        return out;
    }
    static std::string words(const TextContent& text, const Release& r = release()) {
        return resolvedText(text, r).text;
    }

  private Q_SLOTS:
    void factsInTheOrderAskedFor() {
        TextContent text = list();
        QCOMPARE(words(text), "Side A\nA1\tBrim\t3:42\nA2\tÖldurót\t\nSide B\nB1\tFjara og flóð\t1:01:01\n"
                              "B2\tÞoka\t0:59");
        text.tracks->headings = false;
        text.tracks->facts = {TrackFact::Length, TrackFact::Title};
        QCOMPARE(words(text), "3:42\tBrim\n\tÖldurót\n1:01:01\tFjara og flóð\n0:59\tÞoka");
        const InTable table = std::get<InTable>(resolvedText(text, release()).frame);
        QCOMPARE(table.columns.size(), size_t(2));
        QVERIFY(table.columns[0].align == Align::Right && !table.columns[0].breaks);
        QVERIFY(table.columns[1].align == Align::Left && table.columns[1].breaks);
        // Titles alone are rows all the same.
        text.tracks->facts = {TrackFact::Title};
        QCOMPARE(words(text), "Brim\t\nÖldurót\t\nFjara og flóð\t\nÞoka\t");
        // What no track has makes no column.
        Release silent = release();
        for (Track& t : silent.brief.tracks) t.seconds = 0;
        text.tracks->facts = {TrackFact::Number, TrackFact::Title, TrackFact::Length};
        QCOMPARE(std::get<InTable>(resolvedText(text, silent).frame).columns.size(), size_t(2));
    }

    void performersBelowOrBeside() {
        TextContent text = list();
        text.tracks->headings = false;
        text.tracks->facts = {TrackFact::Title, TrackFact::Performer, TrackFact::Length};
        QCOMPARE(words(text), "Brim\t3:42\nÖldurót\vAuðr Holm\t\nFjara og flóð\t1:01:01\n"
                              "Þoka\vLow Water Quartet\t0:59");
        text.tracks->performerBelow = false;
        QCOMPARE(words(text), "Brim\t\t3:42\nÖldurót\tAuðr Holm\t\nFjara og flóð\t\t1:01:01\n"
                              "Þoka\tLow Water Quartet\t0:59");
    }

    void numbers_data() {
        QTest::addColumn<int>("kind");
        QTest::addColumn<QString>("wanted");
        QTest::newRow("by side") << int(TrackNumbers::BySide) << "A1 A2 B1 B2 ";
        QTest::newRow("on each side") << int(TrackNumbers::OnSide) << "1 2 1 2 ";
        QTest::newRow("through") << int(TrackNumbers::Through) << "1 2 3 4 ";
        QTest::newRow("two figures") << int(TrackNumbers::TwoFigures) << "01 02 03 04 ";
    }
    void numbers() {
        QFETCH(int, kind);
        QFETCH(QString, wanted);
        TextContent text = list();
        text.tracks->headings = false, text.tracks->facts = {TrackFact::Number};
        text.tracks->numbers = static_cast<TrackNumbers>(kind);
        QString got = QString::fromStdString(words(text)) + "\n";
        QCOMPARE(got.replace("\t\n", " "), wanted);
    }

    void discsAndListsWithoutSides() {
        Release discs = release();
        for (Track& t : discs.brief.tracks) t.side = t.side == "A" ? "1" : "2";
        TextContent text = list();
        text.tracks->headingWord = "Disc";
        QVERIFY(words(text, discs).starts_with("Disc 1\n1.1\tBrim"));
        for (Track& t : discs.brief.tracks) t.side.clear();
        QVERIFY(words(text, discs).starts_with("1\tBrim\t3:42\n2\tÖldurót"));
        // 9 and 10 stand under each other by their last figures.
        QCOMPARE(std::get<InTable>(resolvedText(text, discs).frame).columns[0].align, Align::Right);
        QCOMPARE(std::get<InTable>(resolvedText(text, release()).frame).columns[0].align, Align::Left);
    }

    void aPartOnEachPanel() {
        TextContent text = list();
        text.tracks->sides = {"B"};
        QCOMPARE(words(text), "Side B\nB1\tFjara og flóð\t1:01:01\nB2\tÞoka\t0:59");
        text.tracks->sides.clear(), text.tracks->first = 2, text.tracks->last = 3;
        QCOMPARE(words(text), "Side A\nA2\tÖldurót\t\nSide B\nB1\tFjara og flóð\t1:01:01");
        text.tracks->first = 9, text.tracks->last = 0;
        QCOMPARE(words(text), "");
        QCOMPARE(words(list(), Release()), "");
    }

    void figuresAreTabularAndLettersAreTheirStyles() {
        TextContent text = list();
        TextSpec set = resolvedText(text, release());
        const auto at = [&](const char* what) { return lettersAt(set, set.text.find(what)); };
        QCOMPARE(at("3:42").features, (std::vector<FontFeature>{{"tnum", 1}}));
        QVERIFY(at("Brim") == text.spec.letters && at("Side A") == text.spec.letters);
        text.tracks->figures.letters =
            LetterStyle{.family = "Bebas Neue", .size = 7, .features = {{"pnum", 1}}};
        set = resolvedText(text, release());
        QCOMPARE(at("B2").family, std::string("Bebas Neue"));
        QCOMPARE(at("B2").paint, kFiguresPaint);
        QCOMPARE(at("B2").features, (std::vector<FontFeature>{{"pnum", 1}}));
        QCOMPARE(at("Þoka").paint, 0);
        // It can be set, and all of it is shown.
        const FontLibrary fonts(dataFolder() / "fonts", true);
        QCOMPARE(setParagraph(set, fonts).shown, set.text.size());
    }

    void aStyleOfTheFiguresIsFollowedOnAllPieces() {
        ReleasePtr r = std::make_shared<const Release>(release());
        const FormList forms = shippedForms().value();
        for (const auto& form : forms)
            if (form->id == "digital-cover") r = *withPiece(r, form);
        const PanelRef cover{r->pieces[0]->id, r->pieces[0]->flat->panels[0].id};
        Layer layer;
        layer.content = list();
        const Made made = withLayer(r, cover, layer);
        TextLook look;
        look.letters.size = 2, look.colour = Rgba{1, 0, 0, 1};
        const Made styled = withTextStyle(made.release, "Figures", look);
        r = withTrackLettersOf(styled.release, cover, made.id, kFiguresPaint, styled.id);
        const auto text = [&](const ReleasePtr& of) -> const TextContent& {
            return *findLayer(stackOf(*of, cover), made.id)->as<TextContent>();
        };
        QCOMPARE(followersOfStyle(*r, styled.id), 1);
        QVERIFY(std::abs(text(r).tracks->figures.letters->size - 2 * 300 / 25.4) < 1e-9);
        QCOMPARE(text(r).colourOf(kFiguresPaint), Ink(Rgba{1, 0, 0, 1}));
        look.letters.size = 3, look.letters.family = "EB Garamond";
        const ReleasePtr changed = withStyleLook(r, styled.id, look);
        QCOMPARE(text(changed).tracks->figures.letters->family, std::string("EB Garamond"));
        QVERIFY(std::abs(text(changed).tracks->figures.letters->size - 3 * 300 / 25.4) < 1e-9);
        // Without the style its letters stay as they are, and with none they are the titles'.
        const ReleasePtr gone = withoutStyle(changed, styled.id);
        QVERIFY(text(gone).tracks->figures.style.empty());
        QCOMPARE(text(gone).tracks->figures.letters->family, std::string("EB Garamond"));
        QVERIFY(!text(withTrackLettersOf(gone, cover, made.id, kFiguresPaint, {})).tracks->figures.letters);
        // All of it grows together.
        const Layer twice = scaled(*findLayer(stackOf(*changed, cover), made.id), {}, 2);
        const auto& words = *twice.as<TextContent>();
        QVERIFY(std::abs(words.tracks->figures.letters->size - 6 * 300 / 25.4) < 1e-9);
        QCOMPARE(std::get<InTable>(words.spec.frame).width, 200.0);
    }
};

GLYPTOS_TEST(TrackListingTest)
#include "track_listing_test.moc"
