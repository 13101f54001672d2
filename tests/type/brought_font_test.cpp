// Fonts that are brought in as files: told as fontconfig tells them, by terms and by names, and set from.
#include "support/fonts.h"
#include "support/register.h"
#include "type/kept_words.h"

#include <fontconfig/fontconfig.h>

using namespace glyptos;
using namespace glyptos::test;

namespace {

const std::filesystem::path kNowhere = "/nowhere";

Result<BroughtFontPtr> read(const FontData& font, const std::string& id = "one") {
    return readFont(std::make_shared<const FontData>(font), id, "Some file");
}

TextSpec wordsIn(const std::string& family, const std::string& style = "Regular") {
    TextSpec out;
    out.text = "Þokan, fjord 12";
    out.letters.family = family, out.letters.style = style, out.letters.size = 40;
    return out;
}

bool sameOutline(const Paragraph& a, const Paragraph& b) {
    const auto &p = a.outline.points(), &q = b.outline.points();
    return !p.empty() && p.size() == q.size() &&
           std::equal(p.begin(), p.end(), q.begin(), [](Vec2 x, Vec2 y) { return (x - y).length() < 1e-9; });
}

} // namespace

class BroughtFontTest : public QObject {
    Q_OBJECT
    FontLibrary shipped{dataFolder() / "fonts", true};

  private Q_SLOTS:
    /// Names, weights, widths and slants of every shipped file and instance.
    void aFontIsToldAsFontconfigTellsIt() {
        FcConfig* config = FcConfigCreate();
        FcConfigAppFontAddDir(config, reinterpret_cast<const FcChar8*>((dataFolder() / "fonts").c_str()));
        const FcFontSet* all = FcConfigGetFonts(config, FcSetApplication);
        QVERIFY(all && all->nfont > 20);
        int compared = 0;
        for (int i = 0; i < all->nfont; ++i) {
            const FcPattern* font = all->fonts[i];
            FcBool isVariable = FcFalse;
            if (FcPatternGetBool(font, FC_VARIABLE, 0, &isVariable) == FcResultMatch && isVariable) continue;
            FcChar8 *file = nullptr, *family = nullptr, *style = nullptr;
            int weight = 0, slant = 0, width = 0;
            FcPatternGetString(font, FC_FILE, 0, &file);
            FcPatternGetString(font, FC_FAMILY, 0, &family);
            FcPatternGetString(font, FC_STYLE, 0, &style);
            FcPatternGetInteger(font, FC_WEIGHT, 0, &weight);
            FcPatternGetInteger(font, FC_SLANT, 0, &slant);
            FcPatternGetInteger(font, FC_WIDTH, 0, &width);
            const auto told = read(readFile(reinterpret_cast<const char*>(file)).value());
            QVERIFY2(told, reinterpret_cast<const char*>(file));
            const auto& faces = (*told)->faces;
            const auto same = std::find_if(faces.begin(), faces.end(), [&](const BroughtFace& one) {
                return one.face->style() == reinterpret_cast<const char*>(style);
            });
            const QByteArray what = QByteArray(reinterpret_cast<const char*>(family)) + " " +
                                    reinterpret_cast<const char*>(style);
            QVERIFY2(same != faces.end(), what);
            QCOMPARE(same->face->family(), std::string(reinterpret_cast<const char*>(family)));
            QVERIFY2(std::abs(same->traits.weight - weight) <= 1, what);
            QVERIFY2(std::abs(same->traits.width - width) <= 1, what);
            QVERIFY2((same->traits.slant > 0) == (slant > 0), what);
            ++compared;
        }
        QVERIFY(compared > 20);
        FcConfigDestroy(config);
    }

    void termsAreReadFromTheFont_data() {
        QTest::addColumn<int>("fsType");
        QTest::addColumn<int>("embedding");
        QTest::addColumn<bool>("travels");
        const auto row = [](const char* name, int type, FontEmbedding means, bool travels) {
            QTest::newRow(name) << type << int(means) << travels;
        };
        row("installable", 0, FontEmbedding::Installable, true);
        row("not in parts", 0x100, FontEmbedding::Installable, true);
        row("restricted", 2, FontEmbedding::Restricted, false);
        row("to be seen and printed", 4, FontEmbedding::PreviewAndPrint, false);
        row("to be edited", 8, FontEmbedding::Editable, true);
        row("the most of several", 2 | 8, FontEmbedding::Editable, true);
        row("bitmaps alone", 0x208, FontEmbedding::BitmapsOnly, false);
    }
    void termsAreReadFromTheFont() {
        QFETCH(int, fsType);
        QFETCH(int, embedding);
        QFETCH(bool, travels);
        const auto font = read(withTerms(shippedFont("kristi/Kristi.ttf"), unsigned(fsType)));
        QVERIFY(font);
        QCOMPARE(int((*font)->embedding), embedding);
        QCOMPARE((*font)->mayTravel(), travels);
    }

    void whatIsNoFontIsSaid() {
        const auto said = [](const FontData& bytes) {
            const auto font = read(bytes);
            return font ? QString("taken") : QString::fromStdString(font.error().message);
        };
        QVERIFY(said({}).contains("no TrueType"));
        QVERIFY(said({'%', 'P', 'D', 'F', '-', '1'}).contains("no TrueType"));
        QVERIFY(said({'w', 'O', 'F', '2', 0, 0, 0, 0}).contains("for pages of the web"));
        FontData cut = shippedFont("kristi/Kristi.ttf");
        cut.resize(200);
        QVERIFY(said(cut).contains("damaged"));
        FontData bare = shippedFont("kristi/Kristi.ttf");
        for (const char* tag : {"glyf", "CFF "}) { // the table is there under another name
            const std::string name(tag);
            const auto at = std::search(bare.begin(), bare.end(), name.begin(), name.end());
            if (at != bare.end()) at[3] = 'g'; // the directory stays in order
        }
        QVERIFY2(said(bare).contains("no outlines"), qPrintable(said(bare)));
    }

    void damagedAnywhereItIsReadOrRefused() {
        const FontData good = shippedFont("league-mono/LeagueMono-Bold.otf");
        int taken = 0;
        for (size_t i = 0; i < good.size(); i += i < 500 ? 5 : 997) {
            FontData bad = good;
            bad[i] ^= uint8_t(0x21 | (i % 128));
            const auto font = read(bad);
            taken += font.has_value();
            if (!font) continue;
            FontLibrary fonts(kNowhere, true);
            fonts.bring({*font});
            QVERIFY(!setParagraph(wordsIn((*font)->faces[0].face->family()), fonts).box.empty());
        }
        QVERIFY(taken > 20);
    }

    void wordsAreSetInIt() {
        FontLibrary fonts(kNowhere, true);
        const int before = fonts.generation();
        QVERIFY(!fonts.has("Kristi"));
        fonts.bring({read(shippedFont("kristi/Kristi.ttf")).value()});
        QVERIFY(fonts.generation() != before);
        QVERIFY(fonts.has("Kristi"));
        QCOMPARE(fonts.families().size(), size_t(1));
        QVERIFY(fonts.families()[0].brought && !fonts.families()[0].shipped);
        QVERIFY(
            sameOutline(setParagraph(wordsIn("Kristi"), fonts), setParagraph(wordsIn("Kristi"), shipped)));
        fonts.bring({});
        QVERIFY(!fonts.has("Kristi"));
        QVERIFY(fonts.families().empty());
    }

    /// Of two with one name the one that was brought, and of two that were the later one.
    void itStandsBeforeOthersOfItsName() {
        FontLibrary fonts(dataFolder() / "fonts", true);
        const Paragraph own = setParagraph(wordsIn("Kristi"), fonts);
        const auto again = read(withTerms(shippedFont("kristi/Kristi.ttf"), 8), "c");
        fonts.bring({*again});
        QCOMPARE(fonts.face("Kristi", "Regular").get(), (*again)->faces[0].face.get());
        const auto later = read(shippedFont("kristi/Kristi.ttf"), "d");
        fonts.bring({*again, *later});
        QCOMPARE(fonts.face("Kristi", "Regular").get(), (*later)->faces[0].face.get());
        QVERIFY(sameOutline(own, setParagraph(wordsIn("Kristi"), fonts)));
        int found = 0;
        for (const FamilyInfo& family : fonts.families()) found += family.name == "Kristi";
        QCOMPARE(found, 1);
    }

    void aCharacterThatNoOtherHasComesFromIt() {
        FontLibrary fonts(dataFolder() / "fonts" / "bebas-neue", true);
        const FacePtr bebas = fonts.face("Bebas Neue", "Regular");
        const auto greek = read(shippedFont("gfs-didot/GFSDidot.otf")).value();
        QVERIFY(!bebas->has(0x1F80) && greek->faces[0].face->has(0x1F80));
        QVERIFY(!fonts.fallbackFor(0x1F80, *bebas));
        fonts.bring({greek});
        QCOMPARE(fonts.fallbackFor(0x1F80, *bebas).get(), greek->faces[0].face.get());
    }

    void allFacesOfWordsAreAskedFor() {
        TextSpec spec = wordsIn("Kristi");
        LetterStyle other = spec.letters;
        other.family = "Bebas Neue";
        spec.runs = {{0, 3, other}, {5, 7, other}};
        const auto faces = facesAskedFor(spec);
        QCOMPARE(faces.size(), size_t(2));
        QVERIFY(faces[0] == FaceName("Kristi", "Regular") && faces[1] == FaceName("Bebas Neue", "Regular"));
        spec.runs[1].letters.family = "Gone";
        const auto got = facesFor(spec, shipped);
        QCOMPARE(got.size(), size_t(3));
        QVERIFY(got[0] == FaceName("Kristi", "Medium")); // all there is of that family
        QVERIFY(got[1] == FaceName("Bebas Neue", "Regular"));
        QVERIFY(got[2].first != "Gone" && !got[2].first.empty());
    }
};

GLYPTOS_TEST(BroughtFontTest)
#include "brought_font_test.moc"
