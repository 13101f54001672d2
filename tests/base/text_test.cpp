// Text from outside: well-formed or mended, and trimmed by characters.
#include "base/text.h"
#include "support/register.h"

#include <QStringDecoder>

using namespace glyptos;

class TextTest : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void trimmedByCharacters_data() {
        QTest::addColumn<QString>("given");
        QTest::addColumn<QString>("left");
        QTest::newRow("ends in à") << "  Et voilà  "
                                   << "Et voilà";
        QTest::newRow("ends in Š") << "Kamenný Š"
                                   << "Kamenný Š";
        QTest::newRow("begins with ¿") << "¿Qué?"
                                       << "¿Qué?";
        QTest::newRow("no-break, thin and wide spaces")
            << QString::fromUtf8("\u00a0\u2009Höfn\u3000\u202f") << "Höfn";
        QTest::newRow("a byte order mark") << QString::fromUtf8("\ufeffKvöld") << "Kvöld";
        QTest::newRow("nothing but blanks") << QString::fromUtf8(" \t\u2003\r\n") << "";
        QTest::newRow("emoji") << QString::fromUtf8(" 🌊 ") << QString::fromUtf8("🌊");
    }
    void trimmedByCharacters() {
        QFETCH(QString, given);
        QFETCH(QString, left);
        QCOMPARE(QString::fromStdString(trimmed(given.toStdString())), left);
    }

    void controlsAreShown_data() {
        QTest::addColumn<QByteArray>("given");
        QTest::addColumn<QString>("shown");
        QTest::newRow("words stay") << QByteArray("Þögn – “Lágfjara” 🌊 שלום عربي")
                                    << "Þögn – “Lágfjara” 🌊 שלום عربي";
        QTest::newRow("marks of direction within words stay")
            << QByteArray("a\u200fb\u061c") << "a\u200fb\u061c";
        QTest::newRow("escape") << QByteArray("\x1b[31mred") << "␛[31mred";
        QTest::newRow("bell, tab, ends of lines") << QByteArray("a\ab\tc\nd\r") << "a␇b␉c␊d␍";
        QTest::newRow("zero") << QByteArray("a\0b", 3) << "a␀b";
        QTest::newRow("delete") << QByteArray("a\x7f") << "a␡";
        QTest::newRow("C1") << QByteArray("a\u009b31m\u0085") << "a\ufffd31m\ufffd";
        QTest::newRow("overrides") << QByteArray("cover\u202egpj.exe\u202c\u2066x\u2069")
                                   << "cover\ufffdgpj.exe\ufffd\ufffdx\ufffd";
        QTest::newRow("line separator") << QByteArray("a\u2028b") << "a\ufffdb";
        QTest::newRow("no text") << QByteArray("a\xff\xc3") << "a\ufffd\ufffd";
    }
    void controlsAreShown() {
        QFETCH(QByteArray, given);
        QFETCH(QString, shown);
        QCOMPARE(QString::fromStdString(visible(given.toStdString())), shown);
    }

    void jsonStaysWhatItIs() {
        const std::string json = "{\n\t\"a\": \"\\u001b \u009b \x7f \u202e é\"\n}";
        const std::string safe = jsonWithoutControls(json);
        QCOMPARE(safe, std::string("{\n\t\"a\": \"\\u001b \\u009b \\u007f \\u202e é\"\n}"));
    }

    void everyByteOfAPathIsInItsUri() {
        QCOMPARE(fileUri("/harbour/Höfn 1%.png"), std::string("file:///harbour/H%C3%B6fn%201%25.png"));
        QCOMPARE(fileUri("/a\xff\n"), std::string("file:///a%FF%0A"));
    }

    void alsoOtherCharacters() {
        QCOMPARE(trimmed("– “Low Water” –", "–"), std::string("“Low Water”"));
        // The bytes of a dash are also those of other signs: “ shares its first two.
        QCOMPARE(trimmed("“Salt”", "–—"), std::string("“Salt”"));
    }

    /// Every string of up to four bytes from the borders of the table is judged as Qt's decoder does.
    void wellFormedAsUnicodeSays() {
        const unsigned char edges[] = {0x00, 0x41, 0x7f, 0x80, 0x8f, 0x90, 0x9f, 0xa0, 0xbf,
                                       0xc0, 0xc1, 0xc2, 0xdf, 0xe0, 0xe1, 0xec, 0xed, 0xee,
                                       0xef, 0xf0, 0xf1, 0xf3, 0xf4, 0xf5, 0xff};
        for (const auto a : edges)
            for (const auto b : edges)
                for (const auto c : edges)
                    for (const auto d : edges) {
                        const std::string bytes{char(a), char(b), char(c), char(d)};
                        QStringDecoder decoder(QStringDecoder::Utf8, QStringDecoder::Flag::Stateless);
                        const QString decoded = decoder.decode(QByteArray::fromStdString(bytes));
                        Q_UNUSED(decoded);
                        const std::string valid = validUtf8(bytes);
                        QVERIFY2((valid == bytes) == !decoder.hasError(),
                                 QByteArray::fromStdString(bytes).toHex());
                        QCOMPARE(validUtf8(valid), valid);
                    }
    }

    void whatCannotBeReadIsMarked() {
        QCOMPARE(validUtf8("Et voil\xc3"), std::string("Et voil\xef\xbf\xbd"));
        QCOMPARE(nameOf(std::filesystem::path("/photos/caf\xe9.jpg")), std::string("caf\xef\xbf\xbd.jpg"));
        QCOMPARE(stemOf(std::filesystem::path("Höfn.kvöld.png")), std::string("Höfn.kvöld"));
    }
};

GLYPTOS_TEST(TextTest)
#include "text_test.moc"
