// The soft proof against Little CMS's own proofing pipeline, and against what the inks are known to do.
#include "color/proof.h"

#include "color/difference.h"
#include "file/data_folder.h"
#include "support/register.h"

#include <lcms2.h>

using namespace glyptos;

namespace {

constexpr double kLimit = 3.3;

std::shared_ptr<const Proof> shipped(double limit = kLimit) {
    return Proof::create(pressProfileBytes(), limit).value();
}

struct Pixel {
    uint8_t b = 0, g = 0, r = 0, a = 255;
};

struct Shown {
    Pixel pixel;
    ProofTally tally;
};
Shown shown(const Proof& proof, const Pixel& art, const ProofLook& look = {}) {
    Shown out;
    out.tally = proof.show(&art.b, &out.pixel.b, 1, look);
    return out;
}

double apart(const Pixel& a, const uint8_t* rgb) {
    const auto lab = [](int r, int g, int b) {
        return toLab({float(r) / 255, float(g) / 255, float(b) / 255, 1});
    };
    return ciede2000(lab(a.r, a.g, a.b), lab(rgb[0], rgb[1], rgb[2]));
}

} // namespace

class ProofTest : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    /// Where no limit takes ink back: sRGB to the press and back in one transform of Little CMS.
    void itIsWhatTheProfileSays() {
        const auto bytes = pressProfileBytes();
        cmsHPROFILE press = cmsOpenProfileFromMem(bytes.data(), cmsUInt32Number(bytes.size()));
        cmsHPROFILE srgb = cmsCreate_sRGBProfile();
        cmsHPROFILE chain[] = {srgb, press, press, srgb};
        const auto proof = shipped(4);
        for (const bool paper : {true, false}) {
            const cmsUInt32Number back = paper ? INTENT_ABSOLUTE_COLORIMETRIC : INTENT_RELATIVE_COLORIMETRIC;
            cmsUInt32Number intents[] = {INTENT_RELATIVE_COLORIMETRIC, INTENT_RELATIVE_COLORIMETRIC, back,
                                         back};
            cmsBool black[] = {TRUE, TRUE, !paper, !paper};
            cmsFloat64Number adaptation[] = {1, 1, 1, 1};
            cmsHTRANSFORM whole =
                cmsCreateExtendedTransform(nullptr, 4, chain, black, intents, adaptation, nullptr, 0,
                                           TYPE_RGB_8, TYPE_RGB_8, cmsFLAGS_NOOPTIMIZE);
            QVERIFY(whole);
            double worst = 0, sum = 0;
            int all = 0;
            ProofLook look;
            look.paperWhite = paper;
            for (int r = 0; r < 256; r += 15)
                for (int g = 0; g < 256; g += 15)
                    for (int b = 0; b < 256; b += 15) {
                        const uint8_t in[3] = {uint8_t(r), uint8_t(g), uint8_t(b)};
                        uint8_t want[3];
                        cmsDoTransform(whole, in, want, 1);
                        const double off = apart(shown(*proof, {in[2], in[1], in[0]}, look).pixel, want);
                        worst = std::max(worst, off), sum += off, ++all;
                    }
            cmsDeleteTransform(whole);
            // Inks are rounded to bytes on the way.
            QVERIFY2(worst < 2 && sum / all < 0.3,
                     qPrintable(QStringLiteral("%1, mean %2").arg(worst).arg(sum / all)));
        }
        cmsCloseProfile(press), cmsCloseProfile(srgb);
    }

    void paperIsNoScreen() {
        const auto proof = shipped();
        const Rgba paper = proof->paper();
        QVERIFY(paper.r < 0.99f && paper.r > 0.8f && paper.b > 0.75f);
        const Pixel white{255, 255, 255};
        const Pixel on = shown(*proof, white).pixel;
        QVERIFY(std::abs(on.r - paper.r * 255) < 1.01 && std::abs(on.b - paper.b * 255) < 1.01);
        ProofLook screen;
        screen.paperWhite = false;
        QVERIFY(shown(*proof, white, screen).pixel.g >= 254);
        // Black on paper is not as black as a screen's.
        const Pixel black{0, 0, 0};
        QVERIFY(shown(*proof, black).pixel.r > 10 && shown(*proof, black, screen).pixel.r < 12);
    }

    void coloursThatInksCannotShowAreFound() {
        const auto proof = shipped();
        ProofLook look;
        look.mark = ProofMark::Gamut;
        for (const Pixel& vivid :
             {Pixel{0, 255, 0}, Pixel{255, 0, 0}, Pixel{255, 255, 0}, Pixel{255, 0, 255}}) {
            const Shown s = shown(*proof, vivid, look);
            QCOMPARE(s.tally.outOfGamut, size_t(1));
            QCOMPARE(s.pixel.r, Proof::kGamutMark[0]);
        }
        for (const Pixel& dull :
             {Pixel{128, 128, 128}, Pixel{90, 110, 140}, Pixel{200, 210, 220}, Pixel{60, 40, 30}}) {
            const Shown s = shown(*proof, dull, look);
            QCOMPARE(s.tally.outOfGamut, size_t(0));
            QVERIFY(s.pixel.r != Proof::kGamutMark[0]);
        }
        // The marks agree with the difference that the proof itself shows.
        ProofLook plain;
        plain.paperWhite = false;
        int told = 0, off = 0;
        for (int r = 5; r < 256; r += 25)
            for (int g = 5; g < 256; g += 25)
                for (int b = 5; b < 256; b += 25) {
                    const uint8_t rgb[3] = {uint8_t(r), uint8_t(g), uint8_t(b)};
                    const Pixel in{rgb[2], rgb[1], rgb[0]};
                    const double change = apart(shown(*shipped4, in, plain).pixel, rgb);
                    if (std::abs(change - 3) < 1) continue;
                    ++told;
                    off += (shown(*shipped4, in, plain).tally.outOfGamut == 1) != (change > 3);
                }
        QVERIFY2(told > 700 && off < told / 100, qPrintable(QStringLiteral("%1 of %2").arg(off).arg(told)));
    }

    void tooMuchInkIsFound() {
        const auto tight = shipped(2);
        ProofLook look;
        look.mark = ProofMark::Ink;
        const Shown dark = shown(*tight, {20, 25, 30}, look);
        QCOMPARE(dark.tally.overInk, size_t(1));
        QVERIFY(dark.tally.mostInk > 2);
        QCOMPARE(dark.pixel.r, Proof::kInkMark[0]);
        const Shown light = shown(*tight, {220, 225, 230}, look);
        QCOMPARE(light.tally.overInk, size_t(0));
        QVERIFY(light.tally.mostInk < 1);
    }

    void platesAreGreyAndAddUp() {
        const auto proof = shipped();
        const auto ink = [&](const Pixel& art, ProofPlate plate) {
            ProofLook look;
            look.plate = plate;
            const Pixel p = shown(*proof, art, look).pixel;
            if (p.r != p.g || p.g != p.b) qFatal("no grey");
            return 255 - p.r;
        };
        // Yellow is on its own plate, paper on none, and dark grey on all.
        const Pixel yellow{40, 230, 250}, white{255, 255, 255}, grey{50, 50, 50};
        QVERIFY(ink(yellow, ProofPlate::Yellow) > 150 && ink(yellow, ProofPlate::Cyan) < 40);
        for (const ProofPlate plate :
             {ProofPlate::Cyan, ProofPlate::Magenta, ProofPlate::Yellow, ProofPlate::Black}) {
            QVERIFY(ink(white, plate) <= 2);
            QVERIFY(ink(grey, plate) > 60);
        }
    }

    void seeThroughArtIsOnPaper() {
        const auto proof = shipped();
        const Pixel none{0, 0, 0, 0};
        const Shown nothing = shown(*proof, none);
        QCOMPARE(nothing.pixel.a, uint8_t(0));
        QCOMPARE(nothing.tally.shown, size_t(0));
        // Half of black is as grey on white is.
        const Pixel half{0, 0, 0, 128}, grey{127, 127, 127, 255};
        const Pixel a = shown(*proof, half).pixel, b = shown(*proof, grey).pixel;
        QVERIFY(a.r == b.r && a.g == b.g && a.b == b.b && a.a == 255);
    }

    /// A whole ink over white paper is its colour; half of it takes half of what it takes; over what prints
    /// in the four it takes its share of that.
    void inksBesidesTheFour() {
        const Rgba gold{0.8f, 0.6f, 0.2f, 1};
        const Pixel whole{255, 255, 255, 255}, none{0, 0, 0, 255}, nothing{0, 0, 0, 0},
            half{128, 128, 128, 255}, faint{64, 64, 64, 64};
        const Pixel covers[] = {whole, none, nothing, half, faint, half};
        Pixel shown[] = {{255, 255, 255}, {10, 20, 30},    {10, 20, 30},
                         {255, 255, 255}, {255, 255, 255}, {100, 150, 200}};
        const Pixel before[6] = {shown[0], shown[1], shown[2], shown[3], shown[4], shown[5]};
        layInk(&covers[0].b, &shown[0].b, 6, gold);
        for (size_t i = 0; i < 6; ++i) {
            const double cover = covers[i].g / 255.0;
            const auto expected = [&](int was, double ink) { return was * (1 - cover + cover * ink); };
            QVERIFY(std::abs(shown[i].r - expected(before[i].r, gold.r)) <= 0.51);
            QVERIFY(std::abs(shown[i].g - expected(before[i].g, gold.g)) <= 0.51);
            QVERIFY(std::abs(shown[i].b - expected(before[i].b, gold.b)) <= 0.51);
        }
        QCOMPARE(int(shown[0].r), 204);
        Pixel alone[6];
        const Pixel art[] = {whole, whole, nothing, none, faint, whole};
        showInkAlone(&art[0].b, &covers[0].b, &alone[0].b, 6);
        QCOMPARE((std::vector<int>{alone[0].g, alone[1].g, alone[3].g, alone[4].g}),
                 (std::vector<int>{0, 255, 127, 191}));
        QVERIFY(alone[2].a == 0 && alone[2].g == 0);
    }

    void longRowsAreWhole() {
        const auto proof = shipped();
        std::vector<Pixel> art(10'001, Pixel{200, 150, 100}), out(art.size());
        art[9'000] = {0, 255, 0};
        const ProofTally tally = proof->show(&art[0].b, &out[0].b, art.size(), {});
        QCOMPARE(tally.shown, art.size());
        QCOMPARE(tally.outOfGamut, size_t(1));
        QVERIFY(out.front().r == out.back().r && out.back().a == 255);
    }

    void otherProfilesAreRefused() {
        QVERIFY(!Proof::create({}, kLimit));
        const std::vector<uint8_t> junk(300, 7);
        QVERIFY(!Proof::create(junk, kLimit));
    }

  private:
    std::shared_ptr<const Proof> shipped4 = shipped(4);
};

GLYPTOS_TEST(ProofTest)
#include "proof_test.moc"
