// Pictures in: every format upright, in the working space, at its own depth, its bytes kept.
#include "file/pictures/picture_reader.h"

#include "file/data_folder.h"
#include "support/pictures.h"
#include "support/register.h"

#include <QStringLiteral>
#include <QTemporaryDir>
#include <lcms2.h>

using namespace glyptos;
using namespace glyptos::test;

namespace {

constexpr int kLossy = 12; // of 255: JPEG in the middle of a flat area

std::array<uint8_t, 4> fourColours(int x, int y) {
    return quarters(x, y, 40, 24);
}

Picture decoded(const std::vector<uint8_t>& bytes) {
    auto picture = decodePicture(bytes, "made", pressProfileBytes());
    if (!picture) qFatal("%s", picture.error().message.c_str());
    return std::move(*picture);
}

bool near(const std::array<int, 4>& got, const std::array<int, 4>& want, int within) {
    for (size_t c = 0; c < 4; ++c)
        if (std::abs(got[c] - want[c]) > within) return false;
    return true;
}

/// Colours in the middle of the quarters, left-top, right-top, left-bottom, right-bottom: "RGBW" upright.
QString quarterLetters(const Picture& p) {
    QString out;
    for (const int y : {p.height / 4, p.height * 3 / 4})
        for (const int x : {p.width / 4, p.width * 3 / 4}) {
            const auto c = pixel(p, x, y);
            out += c[0] > 128 && c[1] > 128 ? 'W' : c[0] > 128 ? 'R' : c[1] > 128 ? 'G' : 'B';
        }
    return out;
}

std::vector<uint8_t> saved(cmsHPROFILE profile) {
    cmsUInt32Number size = 0;
    cmsSaveProfileToMem(profile, nullptr, &size);
    std::vector<uint8_t> out(size);
    cmsSaveProfileToMem(profile, out.data(), &size);
    cmsCloseProfile(profile);
    return out;
}

/// sRGB with its red and green primaries exchanged: red in this profile is sRGB's green.
std::vector<uint8_t> exchangedProfile() {
    const cmsCIExyY white{0.3127, 0.3290, 1};
    const cmsCIExyYTRIPLE primaries{{0.30, 0.60, 1}, {0.64, 0.33, 1}, {0.15, 0.06, 1}};
    const double srgb[] = {2.4, 1 / 1.055, 0.055 / 1.055, 1 / 12.92, 0.04045};
    cmsToneCurve* curve = cmsBuildParametricToneCurve(nullptr, 4, srgb);
    cmsToneCurve* curves[] = {curve, curve, curve};
    const auto bytes = saved(cmsCreateRGBProfile(&white, &primaries, curves));
    cmsFreeToneCurve(curve);
    return bytes;
}

/// What Little CMS makes of inks in doubles, in bytes.
std::array<int, 4> inkInSrgb(std::array<uint8_t, 4> inks) {
    const auto& bytes = pressProfileBytes();
    cmsHPROFILE in = cmsOpenProfileFromMem(bytes.data(), cmsUInt32Number(bytes.size())),
                out = cmsCreate_sRGBProfile();
    cmsHTRANSFORM t = cmsCreateTransform(in, TYPE_CMYK_DBL, out, TYPE_RGB_DBL, INTENT_RELATIVE_COLORIMETRIC,
                                         cmsFLAGS_BLACKPOINTCOMPENSATION);
    const double percent[] = {inks[0] / 2.55, inks[1] / 2.55, inks[2] / 2.55, inks[3] / 2.55};
    double rgb[3];
    cmsDoTransform(t, percent, rgb, 1);
    cmsDeleteTransform(t);
    cmsCloseProfile(in);
    cmsCloseProfile(out);
    const auto byte = [](double v) { return int(std::lround(std::clamp(v, 0.0, 1.0) * 255)); };
    return {byte(rgb[0]), byte(rgb[1]), byte(rgb[2]), 255};
}

} // namespace

class PictureReaderTest : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void everyFormat_data() {
        QTest::addColumn<QByteArray>("bytes");
        QTest::addColumn<QString>("format");
        QTest::addColumn<int>("within");
        const auto row = [](const char* format, const std::vector<uint8_t>& bytes, int within) {
            QTest::newRow(format) << QByteArray(reinterpret_cast<const char*>(bytes.data()),
                                                qsizetype(bytes.size()))
                                  << format << within;
        };
        row("jpeg", jpegOf(40, 24, fourColours), kLossy);
        row("png", pngOf(40, 24, fourColours), 0);
        row("webp", webpOf(40, 24, fourColours), 0);
        row("tiff", tiffOf(40, 24, 3, [](int x, int y, int c) { return fourColours(x, y)[size_t(c)]; }), 0);
        const std::string svg =
            "<svg xmlns='http://www.w3.org/2000/svg' width='40' height='24'>"
            "<rect width='40' height='24' fill='#fff'/><rect width='20' height='12' fill='#f00'/>"
            "<rect x='20' width='20' height='12' fill='#0f0'/><rect y='12' width='20' height='12' "
            "fill='#00f'/></svg>";
        row("svg", {svg.begin(), svg.end()}, 0);
    }
    void everyFormat() {
        QFETCH(QByteArray, bytes);
        QFETCH(QString, format);
        QFETCH(int, within);
        const std::vector<uint8_t> raw(bytes.begin(), bytes.end());
        const auto info = inspectPicture(raw, "made");
        QVERIFY2(info, qPrintable(sentence(info)));
        QCOMPARE(QString::fromStdString(info->format), format);
        QCOMPARE(info->width, 40);
        QCOMPARE(info->height, 24);
        const Picture p = decoded(raw);
        QVERIFY(p.opaque);
        for (const int y : {5, 18})
            for (const int x : {9, 31}) {
                const auto want = fourColours(x, y);
                QVERIFY(near(pixel(p, x, y), {want[0], want[1], want[2], want[3]}, within));
            }
    }

    void exifTurns_data() {
        QTest::addColumn<int>("orientation");
        QTest::addColumn<QString>("letters");
        // Exif 2.32, Orientation: which stored corner is at the left top when seen upright.
        const char* seen[] = {"RGBW", "GRWB", "WBGR", "BWRG", "RBGW", "BRWG", "WGBR", "GWRB"};
        for (int i = 1; i <= 8; ++i) QTest::newRow(seen[i - 1]) << i << seen[i - 1];
    }
    void exifTurns() {
        QFETCH(int, orientation);
        QFETCH(QString, letters);
        const auto jpeg = withOrientation(jpegOf(40, 24, fourColours), orientation);
        const auto tiff = tiffOf(
            40, 24, 3, [](int x, int y, int c) { return fourColours(x, y)[size_t(c)]; }, {}, orientation);
        for (const auto& bytes : {jpeg, tiff}) {
            const Picture p = decoded(bytes);
            QCOMPARE(p.width, orientation >= 5 ? 24 : 40);
            QCOMPARE(quarterLetters(p), letters);
            QCOMPARE(inspectPicture(bytes, "made")->width, p.width);
        }
    }

    void sixteenBitsStay() {
        const auto shade = [](int x, int) {
            return std::array<uint16_t, 4>{uint16_t(1000 + x), 30000, 65535,
                                           uint16_t(x < 10 ? 32768 : 65535)};
        };
        const Picture p = decoded(png16Of(20, 4, shade));
        QVERIFY(p.is16());
        QVERIFY(!p.opaque);
        QCOMPARE(int(p.row<uint16_t>(1)[4 * 15]), 1015);
        QCOMPARE(int(p.row<uint16_t>(1)[4 * 15 + 1]), 30000);
        // Half alpha: colours stay as they are in the file.
        QCOMPARE(int(p.row<uint16_t>(1)[4 * 3 + 2]), 65535);
        QCOMPARE(int(p.row<uint16_t>(1)[4 * 3]), 1003);
    }

    /// In rows or in tiles, also of the least size, that do not divide the picture; floats become 16 bits,
    /// and what they hold beyond black and white is cut off.
    void tiffsInTilesAndOfFloats() {
        const auto sample = [](int x, int y, int c) {
            return c == 3 ? float(y % 5) / 4 : c == 0 ? float(x) / 40 : c == 1 ? float(y) / 40 : 0.25f;
        };
        for (const int bits : {8, 16, 32})
            for (const int tile : {0, 16, 48}) {
                const Picture p = decoded(tiledTiffOf(37, 29, tile, bits, sample));
                QCOMPARE(p.width, 37);
                QCOMPARE(p.is16(), bits > 8);
                for (int y = 0; y < 29; ++y)
                    for (int x = 0; x < 37; ++x)
                        for (int c = 0; c < 4; ++c) {
                            const int got =
                                p.is16() ? p.row<uint16_t>(y)[4 * x + c] : p.row<uint8_t>(y)[4 * x + c];
                            QCOMPARE(got, int(std::lround(sample(x, y, c) * (p.is16() ? 65535.f : 255.f))));
                        }
            }
        const Picture bright = decoded(tiledTiffOf(4, 1, 0, 32, [](int x, int, int c) {
            constexpr float values[] = {-3, 7, NAN, 1};
            return c == 3 ? 1 : values[x];
        }));
        QCOMPARE(int(bright.row<uint16_t>(0)[0]), 0);
        QCOMPARE(int(bright.row<uint16_t>(0)[4]), 65535);
        QCOMPARE(int(bright.row<uint16_t>(0)[8]), 0);
        auto cut = tiledTiffOf(64, 64, 16, 8, sample);
        cut.resize(cut.size() / 2);
        QVERIFY(!decodePicture(cut, "cut.tif", {}));
    }

    void coloursOfSeeThroughPixelsStayWhole() {
        const auto shade = [](int x, int) { return std::array<uint8_t, 4>{255, 100, 0, uint8_t(x * 12)}; };
        for (const auto& bytes : {pngOf(20, 3, shade), webpOf(20, 3, shade)}) {
            const Picture p = decoded(bytes);
            QVERIFY(!p.opaque);
            QVERIFY(near(pixel(p, 10, 1), {255, 100, 0, 120}, bytes[0] == 'R' ? 2 : 0));
            QCOMPARE(pixel(p, 0, 1)[3], 0);
        }
    }

    void embeddedProfileIsHonoured() {
        const auto red = [](int, int, int c) { return uint8_t(c == 0 ? 255 : 0); };
        QVERIFY(near(pixel(decoded(tiffOf(8, 8, 3, red)), 4, 4), {255, 0, 0, 255}, 0));
        QVERIFY(near(pixel(decoded(tiffOf(8, 8, 3, red, exchangedProfile())), 4, 4), {0, 255, 0, 255}, 2));
    }

    void inksComeIn() {
        const std::array<uint8_t, 4> inks{120, 40, 20, 30};
        const auto want = inkInSrgb(inks);
        const auto sample = [&](int, int, int c) { return inks[size_t(c)]; };
        QVERIFY(near(pixel(decoded(cmykJpegOf(16, 16, inks)), 8, 8), want, 3));
        QVERIFY(near(pixel(decoded(tiffOf(16, 16, 4, sample)), 8, 8), want, 2));
        QVERIFY(near(pixel(decoded(tiffOf(16, 16, 4, sample, pressProfileBytes())), 8, 8), want, 2));
        // No ink is white, all black ink is nearly black: not the other way round.
        QVERIFY(near(pixel(decoded(cmykJpegOf(16, 16, {0, 0, 0, 0})), 8, 8), {255, 255, 255, 255}, 2));
        QVERIFY(pixel(decoded(cmykJpegOf(16, 16, {0, 0, 0, 255})), 8, 8)[0] < 60);
    }

    void drawingsAreSharpAtAnyScale() {
        const std::string svg = "<svg xmlns='http://www.w3.org/2000/svg' width='10' height='10'><rect "
                                "width='5' height='10' fill='#000'/></svg>";
        const std::vector<uint8_t> bytes(svg.begin(), svg.end());
        const auto large = decodePicture(bytes, "edge.svg", {}, 1, 40);
        QVERIFY(large);
        QCOMPARE(large->width, 400);
        QVERIFY(near(pixel(*large, 199, 200), {0, 0, 0, 255}, 0));
        QVERIFY(near(pixel(*large, 200, 200), {0, 0, 0, 0}, 0));
    }

    void coarseJpegShowsTheSame() {
        const auto bytes = jpegOf(400, 240, [](int x, int y) { return quarters(x, y, 400, 240); });
        const auto coarse = decodePicture(bytes, "photo.jpg", {}, 8);
        QVERIFY(coarse);
        QCOMPARE(coarse->width, 50);
        QCOMPARE(quarterLetters(*coarse), QStringLiteral("RGBW"));
    }

    void bytesAreKeptAndNamedByContent() {
        const auto bytes = jpegOf(40, 24, fourColours);
        QTemporaryDir folder;
        const auto file = std::filesystem::path(folder.path().toStdString()) / "Höfn við þröskuld.jpg";
        write(file, bytes);
        const auto imported = importPicture(file);
        QVERIFY2(imported, qPrintable(sentence(imported)));
        QVERIFY(**imported->source->bytes->read() == bytes);
        QCOMPARE(QString::fromStdString(imported->source->name), QStringLiteral("Höfn við þröskuld.jpg"));
        QCOMPARE(imported->source->id, importBytes(bytes, "another name.jpg")->source->id);
        QVERIFY(imported->source->id != importBytes(pngOf(40, 24, fourColours), "a.png")->source->id);
    }

    void theNameDoesNotDecide() {
        const auto info = inspectPicture(jpegOf(40, 24, fourColours), "really-a-jpeg.png");
        QVERIFY(info && info->format == "jpeg");
    }
};

GLYPTOS_TEST(PictureReaderTest)
#include "picture_reader_test.moc"
