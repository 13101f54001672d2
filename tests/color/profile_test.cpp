#include "color/profile.h"

#include "file/data_folder.h"
#include "support/pictures.h"
#include "support/register.h"

#include <lcms2.h>

using namespace glyptos;

class ProfileTest : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void inkNeverPassesTheLimit() {
        const auto press = ToPress::create(pressProfileBytes(), 2.4);
        QVERIFY(press);
        std::vector<uint8_t> rgb;
        for (int r = 0; r < 256; r += 15)
            for (int g = 0; g < 256; g += 15)
                for (int b = 0; b < 256; b += 15) rgb.insert(rgb.end(), {uint8_t(r), uint8_t(g), uint8_t(b)});
        std::vector<uint8_t> ink(rgb.size() / 3 * 4);
        (*press)->convert(rgb.data(), ink.data(), rgb.size() / 3);
        int most = 0, limited = 0;
        for (size_t i = 0; i < ink.size(); i += 4) {
            const int sum = ink[i] + ink[i + 1] + ink[i + 2] + ink[i + 3];
            most = std::max(most, sum), limited += sum > 590;
        }
        QVERIFY(most <= 2.4 * 255);
        QVERIFY(limited > 10); // the limit was met, so it was needed
    }

    void pressColoursAgreeWithLittleCms() {
        const auto press = ToPress::create(pressProfileBytes(), 4.0);
        const auto& bytes = pressProfileBytes();
        cmsHPROFILE out = cmsOpenProfileFromMem(bytes.data(), cmsUInt32Number(bytes.size())),
                    in = cmsCreate_sRGBProfile();
        cmsHTRANSFORM t = cmsCreateTransform(in, TYPE_RGB_DBL, out, TYPE_CMYK_DBL,
                                             INTENT_RELATIVE_COLORIMETRIC, cmsFLAGS_BLACKPOINTCOMPENSATION);
        for (const test::Rgb& c : {test::Rgb{200, 40, 30}, test::Rgb{12, 60, 90}, test::Rgb{255, 255, 255},
                                   test::Rgb{128, 128, 128}}) {
            const double rgb[3] = {c[0] / 255.0, c[1] / 255.0, c[2] / 255.0};
            double want[4];
            cmsDoTransform(t, rgb, want, 1);
            uint8_t ink[4];
            (*press)->convert(c.data(), ink, 1);
            for (size_t i = 0; i < 4; ++i)
                QVERIFY(std::abs(ink[i] / 2.55 - want[i]) < 1.5); // per cent of ink; 8-bit tables
        }
        cmsDeleteTransform(t);
        cmsCloseProfile(in);
        cmsCloseProfile(out);
    }

    /// Colours off the table's lattice, judged by what their inks look like: against the profile itself, in
    /// floating point.
    void inksLookAsTheProfileSays() {
        const auto press = ToPress::create(pressProfileBytes(), 4.0);
        const auto& bytes = pressProfileBytes();
        cmsHPROFILE profile = cmsOpenProfileFromMem(bytes.data(), cmsUInt32Number(bytes.size())),
                    srgb = cmsCreate_sRGBProfile(), lab = cmsCreateLab4Profile(nullptr);
        cmsHTRANSFORM toInk =
            cmsCreateTransform(srgb, TYPE_RGB_DBL, profile, TYPE_CMYK_DBL, INTENT_RELATIVE_COLORIMETRIC,
                               cmsFLAGS_BLACKPOINTCOMPENSATION | cmsFLAGS_NOOPTIMIZE);
        cmsHTRANSFORM toLab = cmsCreateTransform(profile, TYPE_CMYK_DBL, lab, TYPE_Lab_DBL,
                                                 INTENT_RELATIVE_COLORIMETRIC, cmsFLAGS_NOOPTIMIZE);
        double sum = 0, worst = 0;
        int count = 0;
        for (int r = 2; r < 256; r += 11)
            for (int g = 5; g < 256; g += 11)
                for (int b = 1; b < 256; b += 11, ++count) {
                    const uint8_t colour[3] = {uint8_t(r), uint8_t(g), uint8_t(b)};
                    const double exact[3] = {r / 255.0, g / 255.0, b / 255.0};
                    uint8_t ink[4];
                    (*press)->convert(colour, ink, 1);
                    double inks[2][4];
                    for (size_t c = 0; c < 4; ++c) inks[0][c] = ink[c] / 2.55;
                    cmsDoTransform(toInk, exact, inks[1], 1);
                    cmsCIELab seen[2];
                    cmsDoTransform(toLab, inks, seen, 2);
                    const double off = cmsCIE2000DeltaE(&seen[0], &seen[1], 1, 1, 1);
                    sum += off, worst = std::max(worst, off);
                }
        QVERIFY2(sum / count < 0.15 && worst < 0.9,
                 qPrintable(QString("mean %1, worst %2").arg(sum / count).arg(worst)));
        cmsDeleteTransform(toInk);
        cmsDeleteTransform(toLab);
        for (cmsHPROFILE p : {profile, srgb, lab}) cmsCloseProfile(p);
    }

    void blackTypeIsBlackInk() {
        const auto press = ToPress::create(pressProfileBytes(), 3.3);
        const Cmyk black = (*press)->convertSolid({0, 0, 0, 1});
        QVERIFY(black.c == 0 && black.m == 0 && black.y == 0 && black.k == 1);
    }

    void notAPressProfile() {
        QVERIFY(!ToPress::create(srgbProfileBytes(), 3.3));
        QVERIFY(!ToPress::create(std::vector<uint8_t>{1, 2, 3}, 3.3));
    }

    void lyingProfilesAreIgnored() {
        const ToWorkingSpace cmykProfileOnRgb(SampleSpace::Rgb, false, pressProfileBytes(), {});
        QVERIFY(cmykProfileOnRgb.profileIgnored() && cmykProfileOnRgb.isIdentity());
        const ToWorkingSpace junk(SampleSpace::Rgb, false, std::vector<uint8_t>(200, 7), {});
        QVERIFY(junk.profileIgnored());
    }

    void inksWithoutAnyProfile() {
        const ToWorkingSpace plain(SampleSpace::Cmyk, false, {}, {});
        const uint8_t ink[8] = {0, 0, 0, 0, 255, 0, 0, 0};
        uint8_t rgb[6];
        plain.convert(ink, rgb, 2);
        QCOMPARE(std::vector<uint8_t>(rgb, rgb + 6), (std::vector<uint8_t>{255, 255, 255, 0, 255, 255}));
    }

    void hexThereAndBack() {
        for (const char* hex : {"#000000", "#1e7a6c", "#ffffff80"})
            QCOMPARE(toHex(*rgbaFromHex(hex)), std::string(hex));
        QCOMPARE(toHex(*rgbaFromHex("fa0")), "#ffaa00");
        for (const char* bad : {"", "#12", "#gggggg", "#1234567"}) QVERIFY(!rgbaFromHex(bad));
    }

    void embeddedProfileRepeats() {
        QVERIFY(srgbProfileBytes().size() > 300 && srgbProfileBytes() == srgbProfileBytes());
    }
};

GLYPTOS_TEST(ProfileTest)
#include "profile_test.moc"
