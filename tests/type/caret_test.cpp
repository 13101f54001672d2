#include "type/caret.h"

#include "file/data_folder.h"
#include "support/register.h"

using namespace glyptos;

class CaretTest : public QObject {
    Q_OBJECT
    FontLibrary fonts{dataFolder() / "fonts", true};

    static TextSpec spec(const std::string& text) {
        TextSpec out;
        out.text = text;
        return out;
    }

  private Q_SLOTS:
    void everyPlaceIsFoundAgain_data() {
        QTest::addColumn<QString>("text");
        QTest::addColumn<double>("measure");
        QTest::newRow("Latin") << QStringLiteral("Low water") << 0.0;
        QTest::newRow("Icelandic, two lines") << QStringLiteral("Þögn á\nÍsafirði") << 0.0;
        QTest::newRow("broken") << QStringLiteral("the lamp that the night had left behind") << 70.0;
        QTest::newRow("an empty line") << QStringLiteral("a\n\nb") << 0.0;
        QTest::newRow("Hebrew") << QStringLiteral("שלום ים") << 0.0;
    }
    /// The caret before each character stands where a click means that very place.
    void everyPlaceIsFoundAgain() {
        QFETCH(QString, text);
        QFETCH(double, measure);
        TextSpec s = spec(text.toStdString());
        if (measure > 0) s.frame = InArea{measure, 0};
        const Paragraph set = setParagraph(s, fonts);
        for (size_t byte = 0; byte <= s.text.size(); ++byte) {
            if (byte < s.text.size() && (s.text[byte] & 0xc0) == 0x80) continue;
            const auto caret = caretAt(set, s.text, byte);
            QVERIFY(caret);
            const size_t back = byteAt(set, s.text, (caret->top + caret->bottom) * 0.5);
            const auto again = caretAt(set, s.text, back);
            // At the break of a line one place has two bytes.
            QVERIFY2(back == byte || (again->top - caret->top).length() < 1e-6,
                     qPrintable(QStringLiteral("%1 %2").arg(byte).arg(back)));
        }
    }

    void ligaturesAreEnteredInTheirMiddle() {
        TextSpec s = spec("office");
        s.letters.family = "CMU Concrete";
        const Paragraph set = setParagraph(s, fonts);
        double last = -1;
        for (size_t byte = 0; byte <= 6; ++byte) {
            const auto caret = caretAt(set, s.text, byte);
            QVERIFY(caret && caret->x > last);
            last = caret->x;
        }
        QVERIFY(set.letters.size() < 6); // there is one
    }

    void fromLineToLine() {
        const TextSpec s = spec("long first line\nb\nthird");
        const Paragraph set = setParagraph(s, fonts);
        const double x = caretAt(set, s.text, 10)->x;
        const size_t second = byteOnNextLine(set, s.text, 10, 1, x);
        QCOMPARE(second, size_t(17)); // the end of the short one
        const size_t third = byteOnNextLine(set, s.text, second, 1, x);
        QCOMPARE(third, s.text.size());
        QCOMPARE(byteOnNextLine(set, s.text, third, 1, x), s.text.size());
        QCOMPARE(byteOnNextLine(set, s.text, 3, -1, x), size_t(0));
        QCOMPARE(lineAround(set, 10), std::pair(size_t(0), size_t(15)));
        QCOMPARE(lineAround(set, 17), std::pair(size_t(16), size_t(17)));
    }

    void boxesGoRoundTheirLetters() {
        TextSpec s = spec("SLACK");
        s.frame = RoundCircle{40, 0, false};
        const Paragraph set = setParagraph(s, fonts);
        const auto boxes = boxesBetween(set, 1, 3);
        QCOMPARE(boxes.size(), size_t(2));
        for (const auto& box : boxes) {
            const Vec2 foot = (box[2] + box[3]) * 0.5, head = (box[0] + box[1]) * 0.5;
            QVERIFY(std::hypot(head.x, head.y) > std::hypot(foot.x, foot.y)); // they stand on the circle
        }
        QVERIFY(boxesBetween(set, 2, 2).empty());
    }

    void wordsWithoutRoomHaveNoPlace() {
        TextSpec s = spec("a\nb\nc");
        s.frame = InArea{50, 15};
        const Paragraph set = setParagraph(s, fonts);
        QVERIFY(caretAt(set, s.text, 0) && !caretAt(set, s.text, s.text.size()));
        QVERIFY(byteAt(set, s.text, {0, 1000}) <= set.shown);
        QCOMPARE(byteAt(setParagraph(spec(""), fonts), "", {5, 5}), size_t(0));
    }
};

GLYPTOS_TEST(CaretTest)
#include "caret_test.moc"
