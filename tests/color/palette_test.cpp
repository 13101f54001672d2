// Colours: the perceptual space, palettes of known pictures, words, harmonies, contrast, and palettes as
// text.
#include "color/colour_words.h"
#include "color/palette.h"
#include "color/palette_text.h"
#include "support/pictures.h"
#include "support/register.h"

#include <QStringLiteral>

using namespace glyptos;
using namespace glyptos::test;

namespace {

/// Whole areas of the given colours, side by side, as wide as their shares of 200 px.
Picture stripes(const std::vector<std::pair<Rgb, int>>& colours) {
    std::vector<Rgb> columns;
    for (const auto& [colour, width] : colours) columns.insert(columns.end(), size_t(width), colour);
    return pictureOf(int(columns.size()), 50, [&](int x, int) {
        const Rgb& c = columns[size_t(x)];
        return std::array<uint8_t, 4>{c[0], c[1], c[2], 255};
    });
}

float apart(const Rgba& a, const Rgb& b) {
    return distance(toOklab(a), toOklab(Rgba{float(b[0]) / 255, float(b[1]) / 255, float(b[2]) / 255, 1}));
}

std::vector<PaletteColour> paletteFrom(const Picture& picture, int most = 6) {
    ColourCount count;
    count.add(picture);
    return paletteOf(count, most);
}

} // namespace

class PaletteTest : public QObject {
    Q_OBJECT

  private Q_SLOTS:
    void oklabHasItsPublishedValues() {
        // CSS Color Module Level 4: white, red, lime and blue.
        const auto close = [](const Oklab& c, double L, double a, double b) {
            return std::abs(double(c.L) - L) < 2e-3 && std::abs(double(c.a) - a) < 2e-3 &&
                   std::abs(double(c.b) - b) < 2e-3;
        };
        QVERIFY(close(toOklab(Rgba{1, 1, 1, 1}), 1, 0, 0));
        QVERIFY(close(toOklab(Rgba{1, 0, 0, 1}), 0.62796, 0.22486, 0.12585));
        QVERIFY(close(toOklab(Rgba{0, 1, 0, 1}), 0.86644, -0.23389, 0.17950));
        QVERIFY(close(toOklab(Rgba{0, 0, 1, 1}), 0.45201, -0.03246, -0.31153));
        for (float r = 0; r <= 1; r += 0.25f)
            for (float g = 0; g <= 1; g += 0.25f)
                for (float b = 0; b <= 1; b += 0.25f) {
                    const Rgba back = toRgba(toOklab(Rgba{r, g, b, 1}));
                    QVERIFY(std::abs(back.r - r) < 2e-3f && std::abs(back.g - g) < 2e-3f &&
                            std::abs(back.b - b) < 2e-3f);
                }
    }

    void coloursOutsideOfSrgbKeepLightnessAndHue() {
        for (int hue = 0; hue < 360; hue += 15) {
            const Oklch shown = toOklch(toOklab(shownAs({0.6, 0.4, double(hue)})));
            QVERIFY(std::abs(shown.L - 0.6) < 0.01);
            QVERIFY(std::abs(std::remainder(shown.h - hue, 360)) < 2);
            QVERIFY(shown.C > 0.09 && shown.C < 0.4);
        }
    }

    void knownColoursAreFoundWithTheirShares() {
        const Rgb sea{30, 60, 90}, sand{220, 200, 160}, buoy{220, 40, 30}, night{10, 10, 20};
        const auto palette = paletteFrom(stripes({{sea, 100}, {sand, 60}, {buoy, 4}, {night, 36}}));
        QCOMPARE(palette.size(), size_t(4));
        const std::pair<Rgb, double> wanted[] = {
            {night, 0.18}, {sea, 0.5}, {buoy, 0.02}, {sand, 0.3}}; // dark to light
        for (size_t i = 0; i < 4; ++i) {
            QVERIFY2(apart(palette[i].colour, wanted[i].first) < 0.01f, toHex(palette[i].colour).c_str());
            QVERIFY(std::abs(palette[i].share - wanted[i].second) < 1e-6);
        }
    }

    void shadesOfOneColourAreOne() {
        const Picture sky = pictureOf(128, 128, [](int, int y) {
            return std::array<uint8_t, 4>{uint8_t(90 + y / 16), uint8_t(140 + y / 16), uint8_t(190 + y / 16),
                                          255};
        });
        QCOMPARE(paletteFrom(sky).size(), size_t(1));
        QVERIFY(std::abs(paletteFrom(sky)[0].share - 1) < 1e-9);
    }

    void seeThroughPixelsDoNotCount() {
        const Picture cut = pictureOf(64, 64, [](int x, int) {
            return x < 32 ? std::array<uint8_t, 4>{0, 0, 0, 0} : std::array<uint8_t, 4>{199, 39, 39, 128};
        });
        const auto palette = paletteFrom(cut);
        QCOMPARE(palette.size(), size_t(1));
        QVERIFY(apart(palette[0].colour, {199, 39, 39}) < 0.02f);
        QVERIFY(paletteFrom(pictureOf(4, 4, [](int, int) { return std::array<uint8_t, 4>{}; })).empty());
    }

    void sixteenBitsCountAsEightDo() {
        Picture deep = Picture::create<uint16_t>(32, 32);
        deep.opaque = true;
        for (int y = 0; y < 32; ++y)
            for (int x = 0; x < 32; ++x) {
                uint16_t* p = deep.row<uint16_t>(y) + 4 * x;
                p[0] = uint16_t(x < 8 ? 0xff00 : 0x2000), p[1] = 0x4000, p[2] = 0x8000, p[3] = 0xffff;
            }
        const auto palette = paletteFrom(deep);
        QCOMPARE(palette.size(), size_t(2));
        QVERIFY(apart(palette[1].colour, {255, 64, 128}) < 0.01f && std::abs(palette[1].share - 0.25) < 1e-6);
    }

    void severalPicturesAddUp() {
        ColourCount red, blue, both;
        red.add(stripes({{{200, 30, 30}, 200}}));
        blue.add(stripes({{{30, 30, 200}, 20}}));
        both.add(red, 1);
        both.add(blue, 1); // as much as the other, though it is smaller
        const auto palette = paletteOf(both, 5);
        QCOMPARE(palette.size(), size_t(2));
        QVERIFY(std::abs(palette[0].share - 0.5) < 1e-9);
    }

    void palettesAreStable() {
        const Picture noisy = pictureOf(200, 200, [](int x, int y) {
            const auto v = uint32_t(x * 7919 + y * 104729);
            return std::array<uint8_t, 4>{uint8_t(v * 13 >> 3), uint8_t(v * 29 >> 5), uint8_t(v * 53 >> 7),
                                          255};
        });
        const auto once = paletteFrom(noisy), again = paletteFrom(noisy);
        QCOMPARE(once.size(), again.size());
        for (size_t i = 0; i < once.size(); ++i)
            QVERIFY(once[i].colour == again[i].colour && once[i].share == again[i].share);
        for (size_t i = 1; i < once.size(); ++i)
            QVERIFY(toOklab(once[i - 1].colour).L <= toOklab(once[i].colour).L + 1e-4f);
    }

    void distancesOfPalettes() {
        const auto one = [](const Rgb& c) { return paletteFrom(stripes({{c, 100}})); };
        QVERIFY(distance(one({10, 80, 90}), one({10, 80, 90})) < 1e-6);
        QVERIFY(std::abs(distance(one({0, 0, 0}), one({255, 255, 255})) - 1) < 0.02);
        const auto mixed = paletteFrom(stripes({{{0, 0, 0}, 50}, {{255, 255, 255}, 50}}));
        QVERIFY(std::abs(distance(one({0, 0, 0}), mixed) - 0.5) < 0.02); // half of it is carried all the way
    }

    void coloursHaveNames_data() {
        QTest::addColumn<QString>("hex");
        QTest::addColumn<QString>("name");
        QTest::newRow("black") << "#050505"
                               << "black";
        QTest::newRow("white") << "#ffffff"
                               << "white";
        QTest::newRow("grey") << "#808080"
                              << "grey";
        QTest::newRow("paper") << "#f4f1ea"
                               << "very pale";
        QTest::newRow("red") << "#e01020"
                             << "vivid red";
        QTest::newRow("rust") << "#7a4520"
                              << "brown";
        QTest::newRow("navy") << "#14284a"
                              << "dark blue";
        QTest::newRow("verdigris") << "#1e7a6c"
                                   << "verdigris";
    }
    void coloursHaveNames() {
        QFETCH(QString, hex);
        QFETCH(QString, name);
        const std::string got = nameOf(*rgbaFromHex(hex.toStdString()));
        QVERIFY2(got.find(name.toStdString()) != got.npos, got.c_str());
    }

    void familiesOfColours() {
        const auto family = [](const char* hex) { return familyOf(toOklab(*rgbaFromHex(hex))); };
        QCOMPARE(family("#d02020"), ColourFamily::Red);
        QCOMPARE(family("#f08020"), ColourFamily::Orange);
        QCOMPARE(family("#f0e020"), ColourFamily::Yellow);
        QCOMPARE(family("#30a040"), ColourFamily::Green);
        QCOMPARE(family("#209090"), ColourFamily::Teal);
        QCOMPARE(family("#2040c0"), ColourFamily::Blue);
        QCOMPARE(family("#7030a0"), ColourFamily::Violet);
        QCOMPARE(family("#f070b0"), ColourFamily::Pink);
        QCOMPARE(family("#6a4020"), ColourFamily::Brown);
        QCOMPARE(family("#000000"), ColourFamily::Black);
        QCOMPARE(family("#909090"), ColourFamily::Grey);
        QCOMPARE(family("#fafafa"), ColourFamily::White);
    }

    void harmoniesGoRoundTheCircle() {
        const Rgba base = *rgbaFromHex("#4a7a70");
        const Oklch c = toOklch(toOklab(base));
        for (const Harmony& h : harmoniesOf(base)) {
            QVERIFY(h.colours.front() == base && h.colours.size() > 1);
            for (const Rgba& colour : h.colours)
                QVERIFY(colour.r >= 0 && colour.r <= 1 && colour.g >= 0 && colour.g <= 1 && colour.b >= 0 &&
                        colour.b <= 1);
        }
        const Oklch opposite = toOklch(toOklab(harmoniesOf(base)[0].colours[1]));
        QVERIFY(std::abs(std::abs(std::remainder(opposite.h - c.h, 360)) - 180) < 2);
        QVERIFY(std::abs(opposite.L - c.L) < 0.01);
    }

    void contrastIsThatOfTheGuidelines() {
        QVERIFY(std::abs(contrastRatio({0, 0, 0, 1}, {1, 1, 1, 1}) - 21) < 1e-3);
        QVERIFY(std::abs(contrastRatio(*rgbaFromHex("#777777"), {1, 1, 1, 1}) - 4.48) < 0.01);
        QVERIFY(std::abs(contrastRatio(*rgbaFromHex("#767676"), {1, 1, 1, 1}) - 4.54) < 0.01);
        QCOMPARE(QString(contrastGrade(4.48)), QStringLiteral("AA large"));
        QCOMPARE(QString(contrastGrade(4.54)), QStringLiteral("AA"));
        QCOMPARE(QString(contrastGrade(2.9)), QStringLiteral("too low"));
    }

    void palettesAsTextComeBack() {
        const std::vector<NamedColour> palette{{"low water", *rgbaFromHex("#1e7a6c")},
                                               {"þoka", *rgbaFromHex("#d9d3c6")},
                                               {"low water", *rgbaFromHex("#102030")}};
        const auto lines = paletteFromText(paletteAsLines(palette), "a.txt");
        QVERIFY(lines && *lines == palette);
        const std::string css = paletteAsCss(palette);
        QVERIFY(css.find("--low-water: #1e7a6c;") != css.npos &&
                css.find("--low-water-2: #102030;") != css.npos);
        const auto back = paletteFromText(css, "a.css");
        QVERIFY(back && back->size() == 3 && (*back)[1] == palette[1] && (*back)[2].name == "low water 2");
    }

    void cssOfOthersIsRead() {
        const auto read = paletteFromText(
            "/* --no: #111111; */ .a{--Sea: rgb(30, 122 ,108);--gap:4px;\n--fog : rgb(85% 83% 78% / 0.5)}",
            "x.css");
        QVERIFY(read && read->size() == 2);
        QCOMPARE(QString::fromStdString(toHex((*read)[0].colour)), QStringLiteral("#1e7a6c"));
        QVERIFY(std::abs((*read)[1].colour.a - 0.5f) < 1e-6f);
    }

    void badPalettesAreRefused() {
        for (const char* text : {"", "\n#nothing\n", "12 300 4 too much", "12 30", "hello",
                                 ":root { --a: 4px; }", "1 2 3 good\nbad"}) {
            const auto read = paletteFromText(text, "bad.txt");
            QVERIFY(!read);
            QVERIFY(sentence(read).contains("bad.txt") && sentence(read).endsWith('.'));
        }
    }
};

GLYPTOS_TEST(PaletteTest)
#include "palette_test.moc"
