// Faces by what their names say, and letters that others lend.
#include "type/font_library.h"

#include "file/data_folder.h"
#include "support/pictures.h"
#include "support/register.h"
#include "type/paragraph.h"
#include "type/style_name.h"

#include <QTemporaryDir>

using namespace glyptos;

class FontLibraryTest : public QObject {
    Q_OBJECT
    FontLibrary fonts{dataFolder() / "fonts", true};

    const FamilyInfo& family(const std::string& name) const {
        for (const FamilyInfo& f : fonts.families())
            if (f.name == name) return f;
        qFatal("no such family");
    }

  private Q_SLOTS:
    void whatANameSays_data() {
        QTest::addColumn<QString>("name");
        QTest::addColumn<int>("weight");
        QTest::addColumn<int>("width");
        QTest::addColumn<int>("slant");
        QTest::newRow("plain") << "Regular" << 80 << 100 << 0;
        QTest::newRow("nothing") << "" << 80 << 100 << 0;
        QTest::newRow("in one") << "SemiBold" << 180 << 100 << 0;
        QTest::newRow("apart") << "Semi Bold" << 180 << 100 << 0;
        QTest::newRow("hyphen") << "Demi-Bold Italic" << 180 << 100 << 100;
        QTest::newRow("extra") << "ExtraLight Oblique" << 40 << 100 << 110;
        QTest::newRow("wide") << "Semi Condensed Black" << 210 << 87 << 0;
        QTest::newRow("light") << "LIGHT" << 50 << 100 << 0;
    }
    void whatANameSays() {
        QFETCH(QString, name);
        const StyleTraits traits = traitsOf(name.toStdString());
        QTEST(traits.weight, "weight");
        QTEST(traits.width, "width");
        QTEST(traits.slant, "slant");
    }

    /// As the font files themselves say, by another way than their names.
    void namesAgreeWithWhatIsDrawn() {
        int italics = 0;
        for (const FamilyInfo& f : fonts.families())
            for (const std::string& style : f.styles) {
                const FacePtr face = fonts.face(f.name, style);
                QVERIFY(face);
                QCOMPARE(face->style(), style);
                italics += traitsOf(style).slant > 0;
            }
        QVERIFY(italics > 0);
    }

    void aNameSpelledOtherwiseIsTheSameStyle() {
        for (const FamilyInfo& f : fonts.families())
            for (const std::string& style : f.styles) {
                std::string joined, hyphened;
                for (const char c : style) {
                    if (c != ' ') joined += c;
                    hyphened += c == ' ' ? '-' : c;
                }
                const auto traits = traitsOf(style);
                for (const std::string& other : {joined, hyphened})
                    QCOMPARE(traitsOf(fonts.face(f.name, other)->style()), traits);
            }
    }

    void theNearestStyleStandsIn() {
        const auto styleFor = [&](const std::string& name, const std::string& style) {
            const FacePtr face = fonts.face(name, style);
            return face && face->family() == name ? traitsOf(face->style()) : StyleTraits{-1, -1, -1};
        };
        for (const FamilyInfo& f : fonts.families()) {
            const bool leans = std::any_of(f.styles.begin(), f.styles.end(),
                                           [](const std::string& s) { return traitsOf(s).slant > 0; });
            for (const char* wanted : {"Thin", "Black", "Semi Bold", "Black Italic"}) {
                const StyleTraits found = styleFor(f.name, wanted);
                QVERIFY2(found.weight >= 0, f.name.c_str()); // never another family
                if (!leans) QCOMPARE(found.slant, 0);
                if (leans) QCOMPARE(found.slant > 0, traitsOf(wanted).slant > 0);
                for (const std::string& s : f.styles)
                    QVERIFY(distance(found, traitsOf(wanted)) <= distance(traitsOf(s), traitsOf(wanted)));
            }
        }
    }

    /// The letter that lends a missing glyph does not depend on who asked before.
    void lentLettersDoNotDependOnTheOrder() {
        const std::vector<std::string> names{fonts.families()[0].name, fonts.families()[3].name,
                                             fonts.families()[5].name, fonts.families()[8].name};
        const std::u32string letters = U"ЖλאあΩ♩„ﬃ→";
        const auto lenders = [&](const std::vector<std::string>& order) {
            const FontLibrary fresh(dataFolder() / "fonts"); // with what is installed
            std::map<std::pair<std::string, char32_t>, std::string> out;
            for (const std::string& name : order)
                for (const char32_t c : letters) {
                    const FacePtr lent = fresh.fallbackFor(c, *fresh.face(name, "Regular"));
                    out[{name, c}] = lent ? lent->family() + " " + lent->style() : "";
                }
            return out;
        };
        auto backwards = names;
        std::reverse(backwards.begin(), backwards.end());
        QCOMPARE(lenders(names), lenders(backwards));
    }

    void lentLettersHaveTheGlyph() {
        const FacePtr face = fonts.face("Inter", "Regular");
        for (const char32_t c : U"ЖλΩ→") {
            if (!c) continue;
            const FacePtr lent = fonts.fallbackFor(c, *face);
            if (lent) QVERIFY(lent->has(c));
        }
        QVERIFY(!fonts.fallbackFor(0x10fffd, *face)); // private use
    }

    void anUnknownFamilyStillDraws() {
        const FacePtr face = fonts.face("No Such Family", "Bold Italic");
        QVERIFY(face);
        QVERIFY(face->family() != "No Such Family");
        TextSpec spec;
        spec.text = "Höfn";
        spec.letters.family = "No Such Family";
        QVERIFY(!setParagraph(spec, fonts).outline.bounds().empty());
    }

    void damagedFontsAreNotOpened() {
        QTemporaryDir folder;
        const std::string file = folder.filePath("broken.otf").toStdString();
        test::write(file, {0, 1, 2, 3});
        QVERIFY(!Face::open(file, 0, "Broken", "Regular"));
        QVERIFY(!Face::open(folder.filePath("none.otf").toStdString(), 0, "None", "Regular"));
    }
};

GLYPTOS_TEST(FontLibraryTest)
#include "font_library_test.moc"
