// Font files that come with a release: brought in, saved, opened, written down; and words kept as they were
// set.
#include "file/font_files.h"

#include "file/project.h"
#include "file/release_json/release_json.h"
#include "render/lettering/words_to_keep.h"
#include "render/painting.h"
#include "render/renderer.h"
#include "support/fonts.h"
#include "support/pictures.h"
#include "support/register.h"

using namespace glyptos;
using namespace glyptos::test;

namespace {

constexpr int kWide = 640, kHigh = 320;

TextSpec wordsIn(const std::string& family) {
    TextSpec out;
    out.text = "Þokan {title}\nfjord, 12";
    out.letters.family = family, out.letters.size = 70;
    out.frame = InArea{600, 0}, out.align = Align::Centre;
    return out;
}

} // namespace

class FontFilesTest : public QObject {
    Q_OBJECT
    FormList forms_{screenRelease(kWide, kHigh)->pieces[0]->form};
    QTemporaryDir folder_;
    HeldPictures pictures_;

    std::filesystem::path at(const char* name) const { return folder_.filePath(name).toStdString(); }
    std::filesystem::path written(const char* name, const FontData& font) const {
        write(at(name), font);
        return at(name);
    }
    /// A cover with words in each of the families; its fonts are those files.
    static ReleasePtr releaseIn(const std::vector<TextSpec>& texts,
                                const std::vector<SourcePtr>& fonts = {}) {
        auto release = std::make_shared<Release>(*screenRelease(kWide, kHigh));
        release->brief.title = "Tide";
        release->fonts = fonts;
        ReleasePtr out = release;
        for (size_t i = 0; i < texts.size(); ++i) {
            Layer layer;
            TextContent text;
            text.spec = texts[i], text.colour = Ink{1, 0.2f, 0, 1};
            text.colours = {Ink{0, 0.2f, 1, 0.6f}};
            layer.content = text;
            layer.placement.position = {320, 10 + 150 * double(i)}, layer.placement.turn = 3;
            out = withLayer(out, frontOf(out), layer);
        }
        return out;
    }
    Buffer<uint8_t> drawn(const ReleasePtr& release, const FontLibrary& fonts) {
        Renderer renderer(pictures_, fonts);
        renderer.paragraphs().fallBackOn(release->keptWords);
        return renderer.renderStraightRgba8(panelScene(release, frontOf(release), {1}), {0, 0, kWide, kHigh});
    }
    static bool same(const Buffer<uint8_t>& a, const Buffer<uint8_t>& b) {
        return a.size() == b.size() && std::equal(a.data(), a.data() + a.size(), b.data());
    }
    static size_t inked(const Buffer<uint8_t>& pixels) {
        size_t out = 0;
        for (size_t i = 3; i < pixels.size(); i += 4) out += pixels.data()[i] > 0;
        return out;
    }

  private Q_SLOTS:
    void aFileIsAFontByItsBytes() {
        QVERIFY(isFontFile(written("picture.png", shippedFont("kristi/Kristi.ttf"))));
        QVERIFY(!isFontFile(written("font.ttf", {'n', 'o', 'n', 'e', ' '})));
        QVERIFY(!isFontFile(written("empty.ttf", {})));
        QVERIFY(!isFontFile(at("missing.ttf")));
        QVERIFY(!isFontFile(at("")));
    }

    void whatCannotBeUsedIsSaidInOneSentence() {
        const auto said = [&](const char* name, const FontData& bytes) {
            return sentence(importFont(written(name, bytes)));
        };
        const QString packed = said("þoka.woff2", {'w', 'O', 'F', '2', 1, 2, 3});
        QVERIFY2(packed.contains("“þoka.woff2” was not brought in") &&
                     packed.contains("Nothing has changed."),
                 qPrintable(packed));
        FontData cut = shippedFont("kristi/Kristi.ttf");
        cut.resize(300);
        QVERIFY(said("cut.ttf", cut).contains("damaged"));
        QVERIFY(sentence(importFont(at("missing.ttf"))).contains("missing.ttf"));
    }

    void aReleaseHoldsItsFontsAndDrawsWithThem() {
        const auto font =
            importFont(written("Own.ttf", renamed(shippedFont("kristi/Kristi.ttf"), "Kristi", "Krabbi")));
        QVERIFY2(font, qPrintable(sentence(font)));
        FontLibrary fonts("/nowhere", true);
        fonts.bring({font->font});
        const ReleasePtr release = releaseIn({wordsIn("Krabbi")}, {font->source});
        const auto before = drawn(release, fonts);
        QVERIFY(inked(before) > 3000);
        // Nothing of it needs to be kept besides, as the font itself is.
        ParagraphCache paragraphs(fonts);
        QVERIFY(!wordsToKeep(*release, fonts, paragraphs));
        for (const size_t mostHeld : {kMostHeldPictures, size_t(0)}) {
            QVERIFY(saveProject(*release, at("own.glyptos")));
            const auto back = openProject(at("own.glyptos"), forms_, mostHeld);
            QVERIFY2(back, qPrintable(sentence(back)));
            QCOMPARE((*back)->fonts.size(), size_t(1));
            QCOMPARE((*back)->fonts[0]->name, std::string("Own.ttf"));
            QCOMPARE((*back)->fonts[0]->bytes->areHeld(), mostHeld > 0);
            FontLibrary elsewhere("/nowhere", true);
            const ReleaseFonts read = fontsOf(**back);
            QVERIFY(read.trouble.empty());
            elsewhere.bring(read.fonts);
            QVERIFY(same(before, drawn(*back, elsewhere)));
            // What is known is not read again.
            QCOMPARE(fontsOf(**back, read.fonts).fonts, read.fonts);
        }
    }

    void aDamagedFontInAReleaseIsSaidAndStays() {
        auto source = std::make_shared<Source>();
        source->name = "Lost.ttf", source->format = "ttf";
        FontData cut = shippedFont("kristi/Kristi.ttf");
        cut.resize(300);
        source->id = contentId(cut);
        source->bytes = pictureBytes(cut);
        const ReleasePtr release = releaseIn({wordsIn("Kristi")}, {source});
        QVERIFY(saveProject(*release, at("lost.glyptos")));
        const auto back = openProject(at("lost.glyptos"), forms_);
        QVERIFY(back && (*back)->fonts.size() == 1);
        const ReleaseFonts read = fontsOf(**back);
        QVERIFY(read.fonts.empty());
        QVERIFY(read.trouble.find("“Lost.ttf” cannot be used") != std::string::npos);
    }

    void pictureAndFontAreNotTakenForEachOther() {
        const auto opened = [&](const char* list, const char* format, const char* more) {
            const std::string json =
                std::string("{\"version\":10,\"brief\":{\"artist\":\"\",\"title\":\"\",\"label\":\"\","
                            "\"catalogue\":\"\",\"year\":\"\",\"tracks\":[]},\"sources\":[],\"pieces\":[],"
                            "\"fonts\":[],\"") +
                list + "\":[{\"id\":\"0123456789abcdef0123456789abcdef\",\"name\":\"n\",\"format\":\"" +
                format + "\"" + more + "}]}";
            return sentence(releaseFromJson(json, forms_, noTiles, noLooks));
        };
        QCOMPARE(opened("fonts", "ttf", ""), QString());
        QCOMPARE(opened("sources", "png", ",\"width\":3,\"height\":4"), QString());
        QVERIFY(opened("sources", "ttf", "").contains("not that of a picture"));
        QVERIFY(opened("fonts", "png", ",\"width\":3,\"height\":4").contains("not that of a font"));
    }

    void wordsLookTheSameWhereTheirFaceIsNot_data() {
        QTest::addColumn<int>("which");
        int which = 0;
        for (const char* name : {"in an area", "round a circle", "in two inks and two faces", "falling"})
            QTest::newRow(name) << which++;
    }
    void wordsLookTheSameWhereTheirFaceIsNot() {
        QFETCH(int, which);
        TextSpec spec = wordsIn("Krabbi");
        if (which == 1) spec.frame = RoundCircle{120, 30, false};
        if (which == 2) {
            LetterStyle second = spec.letters;
            second.family = "Kristi", second.paint = 1;
            spec.runs = {{0, 6, second}};
        }
        if (which == 3) {
            spec.frame = AtPoint{};
            spec.rules = {{LetterRule::Kind::Falling, 0.5, 30, 0, 0.6}};
        }
        const auto own =
            importFont(written("Own.ttf", renamed(shippedFont("kristi/Kristi.ttf"), "Kristi", "Krabbi")));
        FontLibrary fonts(dataFolder() / "fonts", true); // as if it were installed: in no release
        fonts.bring({own->font});
        const ReleasePtr made = releaseIn({spec, wordsIn("Kristi")});
        const auto before = drawn(made, fonts);
        Release release = *made;
        ParagraphCache paragraphs(fonts);
        release.keptWords = wordsToKeep(release, fonts, paragraphs);
        QVERIFY(release.keptWords);
        QCOMPARE(release.keptWords->size(), size_t(1)); // what is shipped need not be kept
        QVERIFY(saveProject(release, at("kept.glyptos")));
        const auto back = openProject(at("kept.glyptos"), forms_);
        QVERIFY2(back, qPrintable(sentence(back)));
        const FontLibrary elsewhere(dataFolder() / "fonts", true);
        const auto after = drawn(*back, elsewhere);
        int worst = 0;
        for (size_t i = 0; i < before.size(); ++i)
            worst = std::max(worst, std::abs(int(before.data()[i]) - int(after.data()[i])));
        QVERIFY2(worst <= 1, qPrintable(QString::number(worst)));
        // Without what was kept they look otherwise, as they do when they are changed.
        Release bare = **back;
        bare.keptWords = nullptr;
        QVERIFY(!same(before, drawn(std::make_shared<const Release>(bare), elsewhere)));
        ParagraphCache there(elsewhere);
        there.fallBackOn((*back)->keptWords);
        TextSpec other = (*back)->keptWords->front().spec;
        const auto kept = there.get(other);
        QVERIFY(kept->isKept && kept->usedFamily == "Krabbi");
        QCOMPARE(kept->letters.size(), paragraphs.get(other)->letters.size());
        other.text += "!";
        QVERIFY(!there.get(other)->isKept);
        // Saved once more where the face is not, they are kept on.
        ParagraphCache again(elsewhere);
        const auto onwards = wordsToKeep(**back, elsewhere, again);
        QVERIFY(onwards && onwards->size() == 1 && onwards->front().set == (*back)->keptWords->front().set);
        // Where the face is there again, they are set and not drawn from what was kept.
        ParagraphCache home(fonts);
        home.fallBackOn((*back)->keptWords);
        QVERIFY(!home.get((*back)->keptWords->front().spec)->isKept);
    }

    void keptWordsThatLieAreRefused() {
        FontLibrary fonts("/nowhere", true);
        fonts.bring(
            {readFont(std::make_shared<const FontData>(shippedFont("kristi/Kristi.ttf")), "k", "k").value()});
        Release release = *releaseIn({wordsIn("Kristi")});
        ParagraphCache paragraphs(fonts);
        release.keptWords = wordsToKeep(release, fonts, paragraphs);
        const std::string good = releaseToJson(release);
        QVERIFY(releaseFromJson(good, forms_, noTiles, noLooks));
        const auto with = [&](const std::string& from, const std::string& to) {
            const size_t at = good.find(from, good.find("\"keptWords\""));
            std::string bad = good;
            return at == std::string::npos ? QString("not found")
                                           : sentence(releaseFromJson(bad.replace(at, from.size(), to),
                                                                      forms_, noTiles, noLooks));
        };
        QVERIFY2(with("\"verbs\": \"M", "\"verbs\": \"L").contains("does not begin with a move"),
                 qPrintable(with("\"verbs\": \"M", "\"verbs\": \"L")));
        QVERIFY(with("\"verbs\": \"M", "\"verbs\": \"MC").contains("points than its verbs"));
        QVERIFY(with("\"verbs\": \"M", "\"verbs\": \"MX").contains("verb"));
        QVERIFY(!with("\"line\": 0", "\"line\": 99").isEmpty());
        QVERIFY(!with("\"shown\": ", "\"shown\": 9").isEmpty());
        QVERIFY(!with("\"ascent\": ", "\"ascent\": 1e300, \"x\": ").isEmpty());
    }
};

GLYPTOS_TEST(FontFilesTest)
#include "font_files_test.moc"
