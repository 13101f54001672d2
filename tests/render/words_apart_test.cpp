// Words taken to pieces look as they did: as shapes, letter by letter, word by word; and what cannot be taken
// to pieces is refused.
#include "render/lettering/words_apart.h"

#include "file/data_folder.h"
#include "release/edits/cutout_edits.h"
#include "release/fields.h"
#include "release/placing.h"
#include "release/warp.h"
#include "render/painting.h"
#include "render/renderer.h"
#include "support/pictures.h"
#include "support/register.h"

using namespace glyptos;
using namespace glyptos::test;

namespace {

constexpr int kWide = 700, kHigh = 400;

TextSpec straight() {
    TextSpec out;
    out.text = "Slack {title}\nfjörð, Tavern";
    out.letters.size = 90, out.letters.tracking = 40;
    out.kerns = {{2, 0.12}};
    return out;
}
TextSpec round() {
    TextSpec out = straight();
    out.text = "Gannet Street once round the lamp";
    out.letters.size = 44, out.kerns.clear();
    out.frame = RoundCircle{140, -80, false};
    return out;
}
TextSpec falling() {
    TextSpec out = straight();
    out.rules = {{LetterRule::Kind::Falling, 0.5, 30, 0, 0.6}};
    out.poses = {{1, {0.1, -0.2}, 12, 1.3, 0.8}};
    return out;
}
TextSpec manyInks() {
    TextSpec out = straight();
    LetterStyle red = out.letters;
    red.paint = 1, red.family = "Bebas Neue", red.size = 70;
    out.runs = {{0, 5, red}, {14, 18, red}};
    return out;
}
TextSpec arabic() {
    TextSpec out = straight();
    out.text = "الجزر 12 Tide", out.kerns.clear();
    return out;
}

} // namespace

class WordsApartTest : public QObject {
    Q_OBJECT
    FontLibrary fonts{dataFolder() / "fonts"};
    HeldPictures pictures;
    Renderer renderer{pictures, fonts};
    ParagraphCache paragraphs{fonts};

    ReleasePtr with(const TextSpec& spec, std::string& id) {
        auto release = std::make_shared<Release>(*screenRelease(kWide, kHigh));
        release->brief.title = "Tide";
        Layer layer;
        layer.name = "Words", layer.opacity = 0.9;
        TextContent text;
        text.spec = spec, text.colour = Ink{0.1f, 0.3f, 0.8f, 1}, text.colours = {Ink{0.9f, 0.1f, 0.1f, 1}};
        layer.content = text;
        const bool isRound = std::holds_alternative<RoundCircle>(spec.frame);
        layer.placement.position = isRound ? Vec2{350, 200} : Vec2{60, 60};
        layer.placement.turn = 9, layer.placement.scaleX = 1.1;
        const Made made = withLayer(release, frontOf(release), layer);
        id = made.id;
        return made.release;
    }
    Buffer<uint8_t> drawn(const ReleasePtr& release) {
        return renderer.renderStraightRgba8(panelScene(release, frontOf(release), {1}), {0, 0, kWide, kHigh});
    }
    /// The largest difference in cover, and the share of pixels that differ by more than `slight`.
    std::pair<int, double> difference(const ReleasePtr& a, const ReleasePtr& b, int slight) {
        const auto p = drawn(a), q = drawn(b);
        int worst = 0, inked = 0;
        size_t off = 0;
        for (size_t i = 3; i < p.size(); i += 4) {
            const int by = std::abs(int(p.data()[i]) - int(q.data()[i]));
            worst = std::max(worst, by), off += by > slight, inked += p.data()[i] > 0;
        }
        return {inked > 2000 ? worst : 999, double(off) / (kWide * kHigh)};
    }

    static void addSpecs() {
        QTest::addColumn<int>("which");
        int which = 0;
        for (const char* name : {"straight", "round", "falling", "in two inks", "joined"})
            QTest::newRow(name) << which++;
    }
    static TextSpec specOf(int which) {
        return which == 0   ? straight()
               : which == 1 ? round()
               : which == 2 ? falling()
               : which == 3 ? manyInks()
                            : arabic();
    }

  private Q_SLOTS:
    void asShapesTheyLookTheSame_data() { addSpecs(); }
    void asShapesTheyLookTheSame() {
        QFETCH(int, which);
        std::string id;
        const ReleasePtr before = with(specOf(which), id);
        const auto made = withLettersAsShapes(before, frontOf(before), id, paragraphs);
        QVERIFY(made);
        const Stack& stack = stackOf(*made->release, frontOf(before));
        QCOMPARE(stack.size(), size_t(1));
        QVERIFY(!findLayer(stack, id) && stack[0]->name == "Words" && stack[0]->opacity == 0.9);
        const auto [worst, off] = difference(before, made->release, 2);
        QVERIFY2(worst <= 3, qPrintable(QString::number(worst)));
        if (which == 0) { // one shape, with nodes to move
            const auto* shape = stack[0]->as<ShapeContent>();
            QVERIFY(shape && shape->kind == ShapeKind::Free && shape->contours.size() > 15);
        }
    }

    void inLettersTheyLookTheSame_data() { addSpecs(); }
    void inLettersTheyLookTheSame() {
        QFETCH(int, which);
        std::string id;
        const ReleasePtr before = with(specOf(which), id);
        for (const Apart how : {Apart::Letters, Apart::Words}) {
            const auto made = withWordsApart(before, frontOf(before), id, how, paragraphs);
            QVERIFY(made);
            const auto [worst, off] = difference(before, made->release, 24);
            QVERIFY2(off < 0.0005, qPrintable(QString("%1 of pixels, at most %2").arg(off).arg(worst)));
        }
    }

    void eachIsALayerOfItsOwn() {
        std::string id;
        const ReleasePtr before = with(straight(), id);
        const auto names = [&](Apart how) {
            const auto made = withWordsApart(before, frontOf(before), id, how, paragraphs);
            QStringList out;
            for (const LayerPtr& l :
                 stackOf(*made->release, frontOf(before))[0]->as<GroupContent>()->layers) {
                out << QString::fromStdString(l->name);
                if (!l->as<TextContent>() || l->id.empty()) out << "?";
            }
            return out;
        };
        QCOMPARE(names(Apart::Words), QStringList({"Slack", "Tide", "fjörð,", "Tavern"}));
        QCOMPARE(names(Apart::Letters).size(), 5 + 4 + 6 + 6);
        // What joins stays together.
        const ReleasePtr joined = with(arabic(), id);
        const auto made = withWordsApart(joined, frontOf(joined), id, Apart::Letters, paragraphs);
        QCOMPARE(stackOf(*made->release, frontOf(joined))[0]->as<GroupContent>()->layers.size(),
                 size_t(1 + 2 + 4));
    }

    /// What lies below shows where the letters are, as strongly as they covered it.
    void asAMaskTheyCutOutWhatIsBelow() {
        for (const bool isMasked : {false, true}) {
            std::string id;
            ReleasePtr r = with(round(), id);
            const PanelRef front = frontOf(r);
            Layer ground;
            ground.name = "Ground", ground.content = FillContent{Ink{0.2f, 0.7f, 0.1f, 1}};
            if (isMasked) {
                Mask half;
                ShapeContent box;
                box.width = kWide, box.height = kHigh;
                half.form = box, half.placement.position = {0, kHigh / 2.0};
                ground.mask = std::make_shared<const Mask>(half);
            }
            const Made below = withLayer(r, front, ground);
            r = withOrder(below.release, front, {below.id}, Nearer::Back);
            const auto letters = drawn(withChangedLayer(withoutLayer(r, front, below.id), front, id,
                                                        [](Layer& l) { l.opacity = 1; }));
            const auto made = withWordsAsMask(r, front, id, paragraphs);
            QVERIFY(made);
            const Stack& stack = stackOf(*made->release, front);
            QCOMPARE(stack.size(), size_t(1));
            QVERIFY(!findLayer(stack, id) && stack[0]->mask && stack[0]->id == made->id);
            const auto masked = drawn(made->release);
            int worst = 0, inked = 0;
            for (int y = 0; y < kHigh; ++y)
                for (int x = 0; x < kWide; ++x) {
                    const size_t at = (size_t(y) * kWide + size_t(x)) * 4 + 3;
                    const bool isIn = !isMasked || x < kWide / 2;
                    worst = std::max(worst, std::abs(masked.data()[at] - (isIn ? letters.data()[at] : 0)));
                    inked += masked.data()[at] > 0;
                }
            QVERIFY2(worst <= 3 && inked > 1000, qPrintable(QString("%1 %2").arg(worst).arg(inked)));
        }
        std::string id;
        const ReleasePtr alone = with(straight(), id);
        const auto refused = withWordsAsMask(alone, frontOf(alone), id, paragraphs);
        QVERIFY(sentence(refused).contains("no layer directly below"));
    }

    /// Where there are letters the picture is seen, and it slides under them.
    void aPictureFillsThemAndSlidesUnderThem() {
        std::string id;
        const ReleasePtr plain = with(manyInks(), id);
        const PanelRef front = frontOf(plain);
        const ReleasePtr r = pictures.add(plain, "sea", pictureOf(700, 400, [](int x, int) {
                                              return std::array<uint8_t, 4>{uint8_t(x / 3), 60, 200, 255};
                                          }));
        const auto made = withPictureInWords(r, front, id, r->source("sea"), paragraphs);
        QVERIFY(made);
        const Stack& stack = stackOf(*made->release, front);
        QVERIFY(stack.size() == 2 && stack[0]->id == made->id && stack[0]->clipped && stack[1]->id == id);
        const auto letters = drawn(plain), filled = drawn(made->release);
        const ReleasePtr slid = withChangedLayer(made->release, front, made->id, [](Layer& l) {
            l = moved(l, {25, 0});
        });
        const auto after = drawn(slid);
        int inked = 0, reds = 0;
        for (size_t i = 0; i < letters.size(); i += 4) {
            QVERIFY(std::abs(letters.data()[i + 3] - filled.data()[i + 3]) <= 1);
            QVERIFY(std::abs(letters.data()[i + 3] - after.data()[i + 3]) <= 1 || i / 4 % kWide < 100);
            if (filled.data()[i + 3] < 220) continue;
            ++inked;
            QVERIFY(std::abs(filled.data()[i + 2] - 200) <= 3); // nothing of the inks
            reds += after.data()[i] < filled.data()[i];
        }
        QVERIFY2(inked > 3000 && reds > inked / 2, qPrintable(QString("%1 %2").arg(inked).arg(reds)));
        const ReleasePtr clipped = withChangedLayer(r, front, id, [](Layer& l) { l.clipped = true; });
        QVERIFY(sentence(withPictureInWords(clipped, front, id, r->source("sea"), paragraphs))
                    .contains("shows only inside another layer"));
    }

    void whatCannotBeTakenToPiecesIsSaid() {
        std::string id;
        TextSpec none = straight();
        none.text = "  ";
        const ReleasePtr empty = with(none, id);
        const auto refused = withLettersAsShapes(empty, frontOf(empty), id, paragraphs);
        QVERIFY(!refused && refused.error().message.find("shows no letters") != std::string::npos);
        TextSpec many = straight();
        many.text = std::string(600, 'a');
        many.letters.size = 4;
        const ReleasePtr crowd = with(many, id);
        const auto tooMany = withWordsApart(crowd, frontOf(crowd), id, Apart::Letters, paragraphs);
        QVERIFY(!tooMany && tooMany.error().message.find("600") != std::string::npos);
        const ReleasePtr plain = with(straight(), id);
        const ReleasePtr bent = withChangedLayer(plain, frontOf(plain), id, [](Layer& l) {
            Warp warp;
            warp.corners = std::array<Vec2, 4>{Vec2{0, 0}, {1, 0.1}, {0.9, 1}, {0.1, 1}};
            l.warp = std::make_shared<const Warp>(warp);
        });
        QVERIFY(!withWordsApart(bent, frontOf(bent), id, Apart::Words, paragraphs));
        QVERIFY(!withLettersAsShapes(plain, frontOf(plain), "gone", paragraphs));
    }

    void wordsStandBetweenAFigureAndItsGround() {
        std::string words;
        ReleasePtr r = with(straight(), words);
        const PanelRef front = frontOf(r);
        r = pictures.add(r, "photo", pictureOf(60, 40, [](int, int) {
                             return std::array<uint8_t, 4>{9, 90, 9, 255};
                         }));
        Layer photo;
        photo.name = "Photo", photo.content = PictureContent{"photo"};
        const Made placed = withLayer(r, front, photo);
        r = withOrder(placed.release, front, {placed.id}, Nearer::Back);
        Layer haze;
        haze.name = "Haze", haze.content = FillContent{};
        r = withLayer(r, front, haze);
        const auto names = [&](const ReleasePtr& of) {
            QStringList out;
            for (const LayerPtr& l : stackOf(*of, front)) out << QString::fromStdString(l->name);
            return out;
        };
        QCOMPARE(names(r), QStringList({"Haze", "Words", "Photo"}));
        const PixelTilesPtr cover = tilesOf(AlphaMap(60, 40), 0, 0);
        const Made inside = withWordsInside(r, front, words, placed.id, cover, nullptr);
        QCOMPARE(names(inside.release), QStringList({"Haze", "Photo", "Words", "Photo"}));
        QVERIFY(isCutOut(*findLayer(stackOf(*inside.release, front), inside.id), *inside.release));
        // One that is cut out already: behind all of it.
        const ReleasePtr cut = withCutOut(r, front, placed.id, cover, nullptr);
        QCOMPARE(names(withWordsBehind(cut, front, words, placed.id)),
                 QStringList({"Haze", "Photo", "Words"}));
    }
};

GLYPTOS_TEST(WordsApartTest)
#include "words_apart_test.moc"
