#include "type/paragraph.h"

#include "file/data_folder.h"
#include "support/pictures.h"
#include "support/register.h"

#include <hb.h>

using namespace glyptos;

class ParagraphTest : public QObject {
    Q_OBJECT
    FontLibrary fonts{dataFolder() / "fonts", true};

    TextSpec spec(const std::string& text) const {
        TextSpec s;
        s.text = text;
        return s;
    }

  private Q_SLOTS:
    void shippedFamilies() {
        QVERIFY(fonts.families().size() >= 10);
        for (const FamilyInfo& f : fonts.families()) {
            QVERIFY(f.shipped);
            for (const std::string& style : f.styles) {
                const FacePtr face = fonts.face(f.name, style);
                QVERIFY(face && face->family() == f.name && face->style() == style);
                for (const char32_t c : U"ÞÆÐÖÁÍþæðöáí") // Icelandic
                    if (c) QVERIFY2(face->has(c), f.name.c_str());
            }
        }
    }

    void advanceAgreesWithTheFont() {
        // Width of one letter without kerning is the font's own advance.
        const Paragraph p = setParagraph(spec("H"), fonts);
        const FacePtr face = fonts.face("Inter", "Regular");
        hb_codepoint_t glyph = 0;
        hb_font_get_nominal_glyph(face->font(), 'H', &glyph);
        QVERIFY(std::abs(p.box.w -
                         10 * hb_font_get_glyph_h_advance(face->font(), glyph) / face->unitsPerEm()) < 1e-9);
        QVERIFY(p.ink.w > 0 && p.ink.w < p.box.w && p.ink.y > 0 && p.ink.bottom() < p.box.bottom());
    }

    void trackingLeadingAndSize() {
        TextSpec s = spec("WAVE\nWAVE");
        const Paragraph plain = setParagraph(s, fonts);
        s.letters.tracking = 100;
        const Paragraph tracked = setParagraph(s, fonts);
        QVERIFY(std::abs(tracked.box.w - plain.box.w - 3 * 0.1 * s.letters.size) <
                1e-6); // between four letters, none behind the last
        QVERIFY(std::abs((plain.baselines[1] - plain.baselines[0]) - s.leading * s.letters.size) < 1e-9);
        s.letters.tracking = 0, s.letters.size = 20;
        QVERIFY(std::abs(setParagraph(s, fonts).box.w - 2 * plain.box.w) < 1e-9);
    }

    void kerningIsOn() {
        const double pair = setParagraph(spec("AV"), fonts).box.w;
        QVERIFY(pair < setParagraph(spec("A"), fonts).box.w + setParagraph(spec("V"), fonts).box.w - 0.1);
    }

    void alignment() {
        TextSpec s = spec("long line\nshort");
        s.align = Align::Right;
        QVERIFY(std::abs(setParagraph(s, fonts).box.right()) < 1e-9);
        s.align = Align::Centre;
        const Rect box = setParagraph(s, fonts).box;
        QVERIFY(std::abs(box.x + box.right()) < 1e-9);
    }

    void breaksAsWordsAddedOneByOne_data() {
        QTest::addColumn<QString>("text");
        QTest::addColumn<double>("tracking");
        const QString icelandic =
            QStringLiteral("Það var einu sinni á Ísafirði að öldurnar sögðu frá þögn og ljósi ");
        QTest::newRow("Icelandic") << icelandic.repeated(6) << 0.0;
        QTest::newRow("tracked") << icelandic.repeated(3) << 120.0;
        QTest::newRow("many spaces") << QStringLiteral("   Low   water  and   a    long     quay  ") << 0.0;
        QTest::newRow("Hebrew and Latin")
            << QStringLiteral("שלום ים low tide גלים harbour ").repeated(4) << 0.0;
        QTest::newRow("Arabic") << QStringLiteral("سلام على البحر والمدينة ").repeated(4) << 0.0;
        QTest::newRow("marks that combine") << QStringLiteral("e\u0301t\u0308 a\u030a ").repeated(9) << 0.0;
        QTest::newRow("one long word")
            << QStringLiteral("Hafgúa ") + QString(60, QLatin1Char('m')) + QStringLiteral(" end") << 0.0;
        QTest::newRow("nothing") << QString() << 0.0;
        QTest::newRow("spaces alone") << QStringLiteral("    ") << 0.0;
    }
    /// The plain way: words are added as long as the line, shaped anew, is not too wide.
    void breaksAsWordsAddedOneByOne() {
        QFETCH(QString, text);
        QFETCH(double, tracking);
        for (const double measure : {12.0, 40.0, 77.5, 150.0, 1e9}) {
            TextSpec whole = spec(text.toStdString());
            whole.letters.tracking = tracking;
            const auto widthOf = [&](const QString& line) {
                TextSpec one = whole;
                one.text = line.toStdString();
                return setParagraph(one, fonts).box.w;
            };
            QStringList lines;
            QString current;
            for (const QString& word : text.split(QLatin1Char(' '))) {
                const QString longer = current.isEmpty() ? word : current + QLatin1Char(' ') + word;
                // Spaces at the end of a line have no width.
                const bool breaks = !current.isEmpty() && !word.isEmpty() && widthOf(longer) > measure;
                while (breaks && current.endsWith(QLatin1Char(' '))) current.chop(1);
                if (breaks) lines << current;
                current = breaks ? word : longer;
            }
            lines << current;
            TextSpec broken = whole;
            broken.text = lines.join(QLatin1Char('\n')).toStdString();
            whole.frame = InArea{measure, 0};
            const Paragraph ours = setParagraph(whole, fonts), plain = setParagraph(broken, fonts);
            QCOMPARE(ours.baselines.size(), plain.baselines.size());
            QVERIFY(std::abs(ours.box.w - plain.box.w) < 1e-6);
            // Lines alone find their own direction; those of a paragraph have that of its first word.
            if (!ours.letters.empty() && ours.letters.front().rightToLeft) continue;
            QVERIFY(std::abs(ours.ink.right() - plain.ink.right()) < 1e-6);
        }
    }

    void breaksBetweenWords() {
        TextSpec s = spec("Slack Tide Almanac");
        s.frame = InArea{setParagraph(spec("Slack Tide"), fonts).box.w + 0.01, 0};
        QCOMPARE(setParagraph(s, fonts).baselines.size(), size_t(2));
        s.frame = InArea{1, 0}; // narrower than any word: words stay whole
        QCOMPARE(setParagraph(s, fonts).baselines.size(), size_t(3));
    }

    void columnsLineUp() {
        const Paragraph p = setParagraph(spec("A1\tLow Water\t3:42\nB12\tThe Pilot Boat\t15:11"), fonts);
        const Paragraph first = setParagraph(spec("B12"), fonts),
                        second = setParagraph(spec("The Pilot Boat"), fonts),
                        third = setParagraph(spec("15:11"), fonts);
        QVERIFY(std::abs(p.box.w - (first.box.w + second.box.w + third.box.w + 2 * 10)) < 1e-6);
    }

    void missingLettersAreSaid() {
        const Paragraph p = setParagraph(spec("tide \U0010fffd"), fonts);
        QCOMPARE(p.unprintable.size(), size_t(1));
        TextSpec s = spec("Ж");
        const auto lacks = [&](const FamilyInfo& f) {
            return !fonts.face(f.name, f.styles.front())->has(U'Ж');
        };
        const auto families = fonts.families();
        const auto family = std::find_if(families.begin(), families.end(), lacks);
        QVERIFY(family != families.end() && !std::all_of(families.begin(), families.end(), lacks));
        s.letters.family = family->name, s.letters.style = family->styles.front();
        const Paragraph other = setParagraph(s, fonts);
        QVERIFY(other.unprintable.empty());
        QCOMPARE(other.stoodIn.size(), size_t(1)); // another face lent it, and that is told
        QVERIFY(other.ink.w > 0);
        QVERIFY(setParagraph(spec("tide"), fonts).stoodIn.empty());
    }

    void missingFamilyIsSaid() {
        TextSpec s = spec("x");
        s.letters.family = "No Such Family";
        QVERIFY(setParagraph(s, fonts).usedFamily != s.letters.family);
    }

    void brokenUtf8AndNothing() {
        QVERIFY(setParagraph(spec("a\xff\xfe b"), fonts).box.w > 0);
        QVERIFY(setParagraph(spec(""), fonts).box.w > 0);
    }
};

GLYPTOS_TEST(ParagraphTest)
#include "paragraph_test.moc"
