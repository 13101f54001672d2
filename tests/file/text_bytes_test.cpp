#include "file/text_bytes.h"

#include "support/register.h"

#include <QStringEncoder>

using namespace glyptos;

namespace {

std::string read(const std::string& bytes) {
    return textOf({reinterpret_cast<const uint8_t*>(bytes.data()), bytes.size()});
}

} // namespace

class TextBytesTest : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void plainAndOldText() {
        QCOMPARE(read(""), std::string());
        QCOMPARE(read("Höfn at dusk"), std::string("Höfn at dusk"));
        QCOMPARE(read("H\xf6"
                      "fn"),
                 std::string("Höfn"));
        // Cut in the middle of a character, it is not UTF-8 throughout.
        QCOMPARE(read("H\xc3"), std::string("HÃ"));
    }

    /// Every encoding that a mark can name, with letters inside and outside of the first plane.
    void marked_data() {
        QTest::addColumn<int>("encoding");
        for (const auto encoding :
             {QStringConverter::Utf8, QStringConverter::Utf16LE, QStringConverter::Utf16BE,
              QStringConverter::Utf32LE, QStringConverter::Utf32BE})
            QTest::newRow(QStringConverter::nameForEncoding(encoding)) << int(encoding);
    }
    void marked() {
        QFETCH(int, encoding);
        const QString text = QStringLiteral("Þögn;3:12\nЗаря;4:00\n𝄞;0:09\n");
        QStringEncoder encoder(QStringConverter::Encoding(encoding), QStringConverter::Flag::WriteBom);
        const QByteArray bytes = encoder(text);
        QVERIFY(!encoder.hasError());
        QCOMPARE(read(bytes.toStdString()), text.toStdString());
    }

    /// What a mark promises and the bytes do not keep.
    void brokenAfterAMark() {
        QCOMPARE(read("\xef\xbb\xbf"
                      "a\xff"
                      "b"),
                 std::string("a\xef\xbf\xbd"
                             "b"));
    }
};

GLYPTOS_TEST(TextBytesTest)
#include "text_bytes_test.moc"
