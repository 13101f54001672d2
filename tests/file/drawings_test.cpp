// Drawings that mean harm: whatever they ask for, the program goes on, and one sentence says what was too
// much.
#include "file/pictures/picture_reader.h"
#include "support/pictures.h"
#include "support/register.h"

#include <QElapsedTimer>
#include <atomic>
#include <thread>

using namespace glyptos;
using namespace glyptos::test;

namespace {

std::vector<uint8_t> svg(const std::string& inside, const std::string& size = "width='64' height='48'") {
    const std::string text = "<svg xmlns='http://www.w3.org/2000/svg' "
                             "xmlns:xlink='http://www.w3.org/1999/xlink' " +
                             size + ">" + inside + "</svg>";
    return {text.begin(), text.end()};
}

std::string filtered(const std::string& filter, const std::string& region = "width='100%' height='100%'") {
    return "<filter id='f' x='0' y='0' " + region + " filterUnits='userSpaceOnUse'>" + filter +
           "</filter><rect width='64' height='48' fill='#c40' filter='url(#f)'/>";
}

std::string embedded(const std::vector<uint8_t>& bytes, const char* type) {
    const QByteArray text =
        QByteArray::fromRawData(reinterpret_cast<const char*>(bytes.data()), qsizetype(bytes.size()))
            .toBase64();
    return std::string("<image width='64' height='48' href='data:image/") + type + ";base64," +
           text.toStdString() + "'/>";
}

/// Groups that use each other twice, `deep` times over.
std::string doublings(int deep) {
    std::string out = "<defs><rect id='g0' width='9' height='9'/>";
    for (int i = 1; i <= deep; ++i) {
        const std::string below = "<use href='#g" + std::to_string(i - 1) + "'/>";
        out += "<g id='g" + std::to_string(i) + "'>" + below + below + "</g>";
    }
    return out + "</defs><use href='#g" + std::to_string(deep) + "'/>";
}

} // namespace

class DrawingsTest : public QObject {
    Q_OBJECT

  private Q_SLOTS:
    void nothingEndsOrHangsTheProgram_data() {
        QTest::addColumn<QByteArray>("drawing");
        QTest::addColumn<QString>("says"); ///< empty: it may be drawn
        const auto row = [](const char* name, const std::vector<uint8_t>& bytes, const char* says) {
            QTest::newRow(name) << QByteArray(reinterpret_cast<const char*>(bytes.data()),
                                              qsizetype(bytes.size()))
                                << QString::fromUtf8(says);
        };
        for (const char* order : {"0", "1e9", "100000", "1000 1000", "-3"})
            row((std::string("a matrix of order ") + order).c_str(),
                svg(filtered("<feConvolveMatrix order='" + std::string(order) + "' kernelMatrix='1'/>")), "");
        std::string million;
        for (int i = 0; i < 1'000'000; ++i) million += "1 ";
        row("a matrix of a million numbers",
            svg(filtered("<feConvolveMatrix order='1000' kernelMatrix='" + million + "'/>")),
            "cannot be drawn: it asks for something that no drawing should");
        row("endless turbulence",
            svg(filtered("<feTurbulence baseFrequency='0.5' numOctaves='100000'/>",
                         "width='4000' height='4000'"),
                "width='4000' height='4000'"),
            "takes longer than 10 seconds to draw");
        row("a huge region",
            svg(filtered("<feFlood flood-color='#123'/><feGaussianBlur stdDeviation='900'/>",
                         "width='1e6' height='1e6'")),
            "");
        row("a huge picture inside",
            svg(embedded(pngOf(20000, 20000,
                               [](int, int) {
                                   return std::array<uint8_t, 4>{0, 0, 0, 255};
                               }),
                         "png")),
            "holds a picture of more than 100 megapixels");
        row("doublings without end", svg(doublings(60)), "");
        row("groups in groups", svg([] {
                std::string out;
                for (int i = 0; i < 200000; ++i) out += "<g>";
                return out;
            }()),
            "is cut short or damaged");
        row("a path of a million parts", svg([] {
                std::string out = "<path stroke='#000' fill='none' stroke-dasharray='0.001' d='M0 0";
                for (int i = 0; i < 200000; ++i)
                    out += " L" + std::to_string(i % 64) + " " + std::to_string(i % 47);
                return out + "'/>";
            }()),
            "");
        row("wider than can be", svg("", "width='1e9' height='1'"), "over the limit");
        row("no number", svg("", "width='nan' height='inf'"), "");
    }
    void nothingEndsOrHangsTheProgram() {
        QFETCH(QByteArray, drawing);
        QFETCH(QString, says);
        const std::span<const uint8_t> bytes(reinterpret_cast<const uint8_t*>(drawing.constData()),
                                             size_t(drawing.size()));
        QElapsedTimer clock;
        clock.start();
        const auto picture = decodePicture(bytes, "Harm.svg", {});
        QVERIFY(clock.elapsed() < 60'000); // that it comes to an end at all
        const QString sentence = picture ? QString() : QString::fromStdString(picture.error().message);
        if (!says.isEmpty()) QVERIFY2(!picture && sentence.contains(says), qPrintable(sentence));
        QVERIFY2(picture || (sentence.contains("“Harm.svg”") && sentence.endsWith("it was left out.")),
                 qPrintable(sentence));
    }

    void manyAreDrawnAtOnce() {
        std::atomic<int> right = 0;
        std::vector<std::thread> threads;
        for (int t = 0; t < 4; ++t)
            threads.emplace_back([&, t] {
                for (int i = 0; i < 8; ++i) {
                    const std::string colour = "#" + std::to_string(100 + 100 * t + i);
                    const auto picture = decodePicture(
                        svg("<rect width='64' height='48' fill='" + colour + "'/>"), "a.svg", {}, 1, 2);
                    const int red = (100 + 100 * t + i) / 100 * 17;
                    if (picture && picture->width == 128 && picture->height == 96 &&
                        pixel(*picture, 64, 48)[0] == red)
                        ++right;
                }
            });
        for (std::thread& thread : threads) thread.join();
        QCOMPARE(right.load(), 32);
    }

    void aPictureInsideIsDrawn() {
        const auto png = pngOf(32, 24, [](int, int) { return std::array<uint8_t, 4>{200, 60, 20, 255}; });
        const auto picture = decodePicture(svg(embedded(png, "png")), "a.svg", {});
        QVERIFY(picture.has_value());
        QCOMPARE(pixel(*picture, 30, 20), (std::array<int, 4>{200, 60, 20, 255}));
    }
};

GLYPTOS_TEST(DrawingsTest)
#include "drawings_test.moc"
