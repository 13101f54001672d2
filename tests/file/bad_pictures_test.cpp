// Hostile and broken pictures: each yields one clear sentence, none brings the program down.
#include "file/data_folder.h"
#include "file/pictures/picture_reader.h"
#include "support/pictures.h"
#include "support/register.h"

#include <QRandomGenerator>
#include <QTemporaryDir>

using namespace glyptos;
using namespace glyptos::test;

namespace {

std::vector<uint8_t> bytesOf(const std::string& text) {
    return {text.begin(), text.end()};
}

std::vector<uint8_t> firstHalf(std::vector<uint8_t> bytes) {
    bytes.resize(bytes.size() / 2);
    return bytes;
}

std::array<uint8_t, 4> noise(int x, int y) {
    return {uint8_t(x * 37 ^ y * 11), uint8_t(x * y), uint8_t(y * 91 + x), 255};
}

std::vector<uint8_t> tiffOfNoise() {
    return tiffOf(48, 32, 3, [](int x, int y, int c) { return noise(x, y)[size_t(c)]; });
}

/// A PNG whose header says that it is `width` × `height`, with a right checksum.
std::vector<uint8_t> pngClaiming(uint32_t width, uint32_t height) {
    std::vector<uint8_t> png = pngOf(4, 4, noise);
    const auto put = [&](size_t at, uint32_t v) {
        for (size_t i = 0; i < 4; ++i) png[at + i] = uint8_t(v >> (24 - 8 * i));
    };
    put(16, width);
    put(20, height);
    uint32_t crc = ~0u; // CRC-32 of PNG, annex D
    for (size_t i = 12; i < 29; ++i) {
        crc ^= png[i];
        for (int k = 0; k < 8; ++k) crc = crc & 1 ? 0xedb88320u ^ (crc >> 1) : crc >> 1;
    }
    put(29, ~crc);
    return png;
}

std::string svgWith(const std::string& inside, const std::string& before = {}) {
    return before +
           "<svg xmlns='http://www.w3.org/2000/svg' xmlns:xlink='http://www.w3.org/1999/xlink' width='20' "
           "height='20'>" +
           inside + "</svg>";
}

} // namespace

class BadPicturesTest : public QObject {
    Q_OBJECT
    static void row(const char* name, const std::vector<uint8_t>& bytes, Fault fault, const char* says) {
        QTest::newRow(name) << QByteArray(reinterpret_cast<const char*>(bytes.data()),
                                          qsizetype(bytes.size()))
                            << int(fault) << says;
    }

  private Q_SLOTS:
    void oneClearSentence_data() {
        QTest::addColumn<QByteArray>("bytes");
        QTest::addColumn<int>("fault");
        QTest::addColumn<QString>("says");
        row("zero bytes", {}, Fault::Damaged, "is empty");
        row("words called a picture", bytesOf("Low Water 3:42\nLantern Room 4:08\n"), Fault::Unsupported,
            "is not a JPEG, PNG, TIFF, WebP, SVG or PDF");
        row("half a JPEG", firstHalf(jpegOf(48, 32, noise)), Fault::Damaged, "cut short");
        row("half a PNG", firstHalf(pngOf(48, 32, noise)), Fault::Damaged, "cut short");
        row("half a WebP", firstHalf(webpOf(48, 32, noise)), Fault::Damaged, "cut short");
        row("half a TIFF", firstHalf(tiffOfNoise()), Fault::Damaged, "cut short");
        row("half an SVG", bytesOf("<svg xmlns='http://www.w3.org/2000/svg' width='9' height='9'><rect wid"),
            Fault::Damaged, "cut short");
        row("PNG of 10^10 pixels", pngClaiming(100000, 100000), Fault::TooLarge, "100000 × 100000 pixels");
        row("PNG of 400 megapixels", pngClaiming(20000, 20000), Fault::TooLarge, "over the limit");
        row("SVG, huge", bytesOf("<svg xmlns='http://www.w3.org/2000/svg' width='1e9' height='1e9'/>"),
            Fault::TooLarge, "over the limit");
        row("SVG with a linked file",
            bytesOf(svgWith("<image xlink:href='file:///etc/passwd' width='9' height='9'/>")), Fault::Unsafe,
            "outside itself");
        row("SVG with a relative file",
            bytesOf(svgWith("<image href='../secret.png' width='9' height='9'/>")), Fault::Unsafe,
            "outside itself");
        row("SVG with a page", bytesOf(svgWith("<use href='http://example.invalid/a.svg#b'/>")),
            Fault::Unsafe, "outside itself");
        row("SVG with a paint from outside",
            bytesOf(svgWith("<rect width='9' height='9' fill='url(http://example.invalid/#p)'/>")),
            Fault::Unsafe, "outside itself");
        row("SVG with an import", bytesOf(svgWith("<style>@import 'a.css';</style>")), Fault::Unsafe,
            "outside itself");
        row("SVG with a font from outside",
            bytesOf(svgWith("<style>@font-face { src: url(f.woff) }</style>")), Fault::Unsafe,
            "outside itself");
        row("SVG with a style sheet",
            bytesOf(svgWith("<g/>", "<?xml-stylesheet href='a.css' type='text/css'?>")), Fault::Unsafe,
            "outside itself");
        row("SVG with entities",
            bytesOf(svgWith("&a;", "<!DOCTYPE svg [<!ENTITY a SYSTEM 'file:///etc/passwd'>]>")),
            Fault::Unsafe, "entities");
        row("SVG with a billion laughs",
            bytesOf(svgWith("&b;", "<!DOCTYPE svg [<!ENTITY a 'ha'><!ENTITY b '&a;&a;&a;&a;'>]>")),
            Fault::Unsafe, "entities");
    }
    void oneClearSentence() {
        QFETCH(QByteArray, bytes);
        QFETCH(int, fault);
        QFETCH(QString, says);
        const auto result = importBytes({bytes.begin(), bytes.end()}, "Lantern Room.jpg");
        QVERIFY(!result);
        const QString message = sentence(result);
        QVERIFY2(message.contains(says), qPrintable(message));
        QVERIFY2(message.contains("“Lantern Room.jpg”") && message.endsWith('.') && message.count('\n') == 0,
                 qPrintable(message));
        QVERIFY2(message.contains("not brought in"), qPrintable(message));
        QCOMPARE(int(result.error().fault), fault);
    }

    void referencesInsideAreFine() {
        const std::string gradient = "<linearGradient id='g'><stop stop-color='#f00'/></linearGradient><rect "
                                     "width='20' height='20' fill='url(#g)'/>";
        const auto result = importBytes(bytesOf(svgWith(gradient)), "own.svg");
        QVERIFY2(result, qPrintable(sentence(result)));
    }

    void wordsMayTalkOfUrls() {
        const auto result =
            importBytes(bytesOf(svgWith("<text>@import url(http://example.invalid/)</text>")), "words.svg");
        QVERIFY2(result, qPrintable(sentence(result)));
    }

    void foldersAndMissingFiles() {
        QTemporaryDir folder;
        const auto asFolder = importPicture(folder.path().toStdString());
        QVERIFY(sentence(asFolder).contains("it is a folder"));
        const auto missing = importPicture(folder.path().toStdString() + "/gone.jpg");
        QVERIFY(sentence(missing).contains("“gone.jpg”"));
    }

    /// Damage anywhere must end in a picture or a sentence. The sanitized build makes this a search for wild
    /// reads.
    void randomDamage_data() {
        QTest::addColumn<QByteArray>("bytes");
        const auto add = [](const char* name, const std::vector<uint8_t>& b) {
            QTest::newRow(name) << QByteArray(reinterpret_cast<const char*>(b.data()), qsizetype(b.size()));
        };
        add("jpeg", jpegOf(48, 32, noise));
        add("png", pngOf(48, 32, noise));
        add("webp", webpOf(48, 32, noise));
        add("tiff", tiffOfNoise());
        add("cmyk jpeg", cmykJpegOf(32, 32, {200, 40, 20, 30}));
        add("svg", bytesOf(svgWith("<g transform='scale(2)'><path d='M0 0L9 9 0 9z' fill='#123456'/></g>")));
    }
    void randomDamage() {
        QFETCH(QByteArray, bytes);
        QRandomGenerator random(20);
        int failed = 0;
        for (int round = 0; round < 150; ++round) {
            std::vector<uint8_t> broken(bytes.begin(), bytes.end());
            const int flips = 1 + random.bounded(6);
            for (int i = 0; i < flips; ++i)
                broken[size_t(random.bounded(int(broken.size())))] = uint8_t(random.bounded(256));
            if (round % 3 == 0) broken.resize(1 + size_t(random.bounded(int(broken.size()))));
            const auto result = importBytes(broken, "broken");
            if (result)
                QVERIFY(result->source->width > 0 && result->look->width() > 0);
            else
                QVERIFY(!result.error().message.empty());
            failed += !result;
        }
        QVERIFY(failed > 10);
    }
};

GLYPTOS_TEST(BadPicturesTest)
#include "bad_pictures_test.moc"
