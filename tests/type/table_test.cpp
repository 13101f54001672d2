// Tables of words: columns, one grid, rows that break and stay whole, strips, headings, leaders.
#include "file/data_folder.h"
#include "support/register.h"
#include "type/paragraph.h"
#include "type/text_fit.h"

#include <cmath>

using namespace glyptos;

namespace {

const std::string kList = "Side A\n"
                          "A1\tLow Water\t4:08\n"
                          "A2\tThe Pilots of Gannet Street Walk Out Before the Light\t12:31\n"
                          "A3\tÖldurót\t3:02\n"
                          "Side B\n"
                          "B1\tLamps the Night Left Behind\t5:45\n"
                          "B2\tGannet\t6:10";

InTable threeColumns(double width) {
    InTable out;
    out.width = width, out.gap = 5, out.grid = 14;
    out.columns = {{Align::Left, false}, {Align::Left, true}, {Align::Right, false}};
    return out;
}

} // namespace

class TableTest : public QObject {
    Q_OBJECT
    FontLibrary fonts{dataFolder() / "fonts", true};

    TextSpec spec(const InTable& table, const std::string& text = kList) const {
        TextSpec out;
        out.text = text, out.frame = table;
        return out;
    }
    Paragraph set(const TextSpec& s) const { return setParagraph(s, fonts); }
    /// The line that shows the beginning of `words`.
    static const SetLine& lineOf(const Paragraph& p, const std::string& text, const std::string& words) {
        const size_t at = text.find(words);
        const auto line = std::find_if(p.lines.begin(), p.lines.end(),
                                       [&](const SetLine& l) { return l.from <= at && at < l.to; });
        if (line == p.lines.end()) qFatal("“%s” is not there", words.c_str());
        return *line;
    }

  private Q_SLOTS:
    void columnsStandUnderEachOther() {
        const Paragraph p = set(spec(threeColumns(170)));
        const double titles = lineOf(p, kList, "Low Water").left;
        double widest = 0;
        for (const char* number : {"A1", "A2", "A3", "B1", "B2"}) {
            QVERIFY(std::abs(lineOf(p, kList, number).left) < 1e-9);
            widest = std::max(widest, lineOf(p, kList, number).width);
        }
        QVERIFY(std::abs(titles - widest - 5) < 1e-9);
        for (const char* title : {"The Pilots", "Öldurót", "Lamps", "Gannet\t"})
            QVERIFY(std::abs(lineOf(p, kList, title).left - titles) < 1e-9);
        for (const char* length : {"4:08", "12:31", "3:02", "5:45", "6:10"}) {
            const SetLine& l = lineOf(p, kList, length);
            QVERIFY(std::abs(l.left + l.width - 170) < 1e-9);
        }
        QCOMPARE(p.shown, kList.size());
    }

    void allBaselinesAreOnTheGrid() {
        TextSpec s = spec(threeColumns(120));
        // Headings are larger: they take the steps they need.
        LetterStyle large = s.letters;
        large.size = 24;
        s.runs = {{0, 6, large}};
        const Paragraph p = set(s);
        const double first = lineOf(p, kList, "A1").baseline;
        for (const SetLine& l : p.lines) {
            const double steps = (l.baseline - first) / 14;
            QVERIFY(std::abs(steps - std::round(steps)) < 1e-9);
        }
        QCOMPARE(std::round((first - lineOf(p, kList, "Side A").baseline) / 14), 1.0);
        // A step of air over the second heading.
        QCOMPARE(
            std::round((lineOf(p, kList, "Side B").baseline - lineOf(p, kList, "Öldurót").baseline) / 14),
            2.0);
    }

    void longTitlesBreakEvenlyInTheirColumn() {
        const Paragraph p = set(spec(threeColumns(170)));
        const SetLine& first = lineOf(p, kList, "The Pilots");
        std::vector<const SetLine*> lines;
        const size_t end = kList.find("\t12:31");
        for (const SetLine& l : p.lines)
            if (l.from >= first.from && l.to <= end) lines.push_back(&l);
        QVERIFY(lines.size() >= 2);
        double widest = 0, narrowest = 1e9;
        for (const SetLine* l : lines) {
            QVERIFY(std::abs(l->left - first.left) < 1e-9);
            widest = std::max(widest, l->width), narrowest = std::min(narrowest, l->width);
        }
        QVERIFY2(narrowest > 0.5 * widest, qPrintable(QString::number(narrowest / widest)));
        // The row below it stands below all of them.
        QVERIFY(lineOf(p, kList, "A3").baseline > lines.back()->baseline + 13);
        // Lengths stand where the title begins, or with leaders where it ends.
        QVERIFY(std::abs(lineOf(p, kList, "12:31").baseline - first.baseline) < 1e-9);
        InTable led = threeColumns(170);
        led.leader = ".";
        const Paragraph q = set(spec(led));
        QVERIFY(std::abs(lineOf(q, kList, "12:31").baseline - lines.back()->baseline) < 1e-9);
    }

    void leadersStandUnderEachOtherAndStopShort() {
        InTable table = threeColumns(300);
        table.leader = " .";
        const Paragraph p = set(spec(table));
        std::vector<double> places;
        size_t rows = 0;
        for (const char* title : {"Low Water", "Öldurót", "Lamps", "Gannet\t"}) {
            const SetLine& line = lineOf(p, kList, title);
            const auto index = size_t(&line - p.lines.data());
            size_t points = 0;
            double last = 0;
            for (const SetLetter& l : p.letters)
                if (l.line == index && l.from == l.to) {
                    ++points, last = l.map.e + l.advance;
                    places.push_back(l.map.e);
                    QVERIFY(l.map.e > line.left + line.width);
                }
            QVERIFY(points > 10);
            const size_t tab = kList.find('\t', kList.find(title)) + 1;
            QVERIFY(last <= lineOf(p, kList, kList.substr(tab, 4)).left);
            ++rows;
        }
        // Each place is that of a point in nearly every row, not one of its own.
        std::sort(places.begin(), places.end());
        size_t different = 1;
        for (size_t i = 1; i < places.size(); ++i) different += places[i] - places[i - 1] > 1e-6;
        QVERIFY2(different * 2 < places.size(), qPrintable(QString::number(different)));
        QCOMPARE(rows, size_t(4));
    }

    void stripsAreAboutAsHighAndKeepHeadingsWithTheirRows() {
        InTable table = threeColumns(400);
        table.strips = 2, table.gutter = 20;
        const Paragraph p = set(spec(table));
        const SetLine &a = lineOf(p, kList, "Side A"), &b = lineOf(p, kList, "Side B");
        QVERIFY(std::abs(a.left) < 1e-9 && std::abs(b.left - 210) < 1e-9);
        // At the top of a strip there is no air above a heading.
        QVERIFY(std::abs(a.baseline - b.baseline) < 1e-9);
        QVERIFY(std::abs(lineOf(p, kList, "6:10").left + lineOf(p, kList, "6:10").width - 400) < 1e-9);
        // A heading never ends a strip, however many there are.
        for (table.strips = 3; table.strips < 8; ++table.strips) {
            const Paragraph q = set(spec(table));
            const SetLine &heading = lineOf(q, kList, "Side B"), &row = lineOf(q, kList, "B1");
            QVERIFY(std::abs(row.left - heading.left) < 1e-9 && row.baseline > heading.baseline);
        }
    }

    void whatHasNoRoomIsToldRowByRow() {
        InTable table = threeColumns(300);
        table.height = 14 * 3 + 1;
        const Paragraph p = set(spec(table));
        QCOMPARE(p.shown, kList.find("A3"));
        for (const SetLine& l : p.lines) QVERIFY(l.baseline <= table.height);
        const auto fitted = fittedToFrame(spec(table), fonts);
        QVERIFY(fitted && set(*fitted).shown == kList.size());
        for (const SetLine& l : set(*fitted).lines) QVERIFY(l.baseline <= table.height);
    }

    void numbersHangAndRowsWithoutColumnsFollowEachOther() {
        InTable table = threeColumns(300);
        table.hangs = true;
        const Paragraph p = set(spec(table));
        QVERIFY(std::abs(lineOf(p, kList, "Low Water").left) < 1e-9);
        QVERIFY(std::abs(lineOf(p, kList, "Side A").left) < 1e-9);
        QVERIFY(lineOf(p, kList, "A1").left < -5);
        TextSpec s = spec(table);
        s.align = Align::Centre;
        const Paragraph centred = set(s);
        const SetLine& row = lineOf(centred, kList, "A1");
        QCOMPARE(row.to, kList.find("\nA2"));
        QVERIFY(std::abs(row.left + row.width / 2 - 150) < 1e-6);
        QVERIFY(row.width > set(spec(InTable{}, "A1 Low Water 4:08")).lines[0].width + 5);
    }

    void linesBegunByHandAndRunsKeepTheirBytes() {
        const std::string text = "1\tLow Water\vAuðr Holm\t4:08\n2\tÖldurót\t3:02";
        InTable table = threeColumns(200);
        table.leader = ".";
        TextSpec s = spec(table, text);
        LetterStyle small = s.letters;
        small.size = 7, small.paint = 2;
        s.runs = {{text.find("Auðr"), text.find("\t4:08"), small}};
        const Paragraph p = set(s);
        QVERIFY(std::abs(lineOf(p, text, "Auðr").baseline - lineOf(p, text, "Low").baseline - 14) < 1e-9);
        // The length goes with the title, not with the line below it.
        QVERIFY(std::abs(lineOf(p, text, "4:08").baseline - lineOf(p, text, "Low").baseline) < 1e-9);
        QCOMPARE(p.inks.size(), size_t(2));
        const TextSpec alone = [&] {
            TextSpec out = spec({}, "Auðr Holm");
            out.frame = AtPoint{}, out.letters = small;
            return out;
        }();
        QVERIFY(std::abs(lineOf(p, text, "Auðr").width - set(alone).lines[0].width) < 1e-6);
    }

    /// As a file may have it: time that grows with the rows, not with their square.
    void thousandsOfRows() {
        std::string text;
        std::vector<TextRun> runs;
        LetterStyle small = TextSpec().letters;
        small.size = 6, small.paint = 1;
        for (int i = 0; i < 3000; ++i) {
            const size_t at = text.size();
            text += std::to_string(i) + "\tLow water\t3:42\n";
            runs.push_back({at, text.find('\t', at), small});
        }
        InTable table = threeColumns(200);
        for (const double grid : {0.0, 1e-12, 14.0}) {
            table.grid = grid;
            TextSpec s = spec(table, text);
            s.runs = runs;
            const Paragraph p = set(s);
            QVERIFY(p.lines.size() > 9000 && std::isfinite(p.box.h));
            QCOMPARE(p.shown, text.size());
        }
    }

    void oddTablesAreSetAllTheSame_data() {
        QTest::addColumn<QByteArray>("text");
        QTest::addColumn<double>("width");
        QTest::newRow("nothing") << QByteArray("") << 100.0;
        QTest::newRow("only tabs") << QByteArray("\t\t\t\n\t") << 100.0;
        QTest::newRow("no width") << QByteArray(kList.c_str()) << 0.0;
        QTest::newRow("more cells than columns") << QByteArray("1\t2\t3\t4\t5\n1") << 60.0;
        QTest::newRow("only headings") << QByteArray("Side A\nSide B\n\n") << 60.0;
        QTest::newRow("right to left") << QByteArray("1\tשפל הגאות\t4:08\n2\tالجزر\t3:11") << 120.0;
    }
    void oddTablesAreSetAllTheSame() {
        QFETCH(QByteArray, text);
        QFETCH(double, width);
        for (const int strips : {1, 3})
            for (const Align align : {Align::Left, Align::Centre, Align::Right, Align::Justified})
                for (const double height : {0.0, 1.0, 40.0}) {
                    InTable table = threeColumns(width);
                    table.strips = strips, table.height = height, table.leader = ".";
                    TextSpec s = spec(table, text.toStdString());
                    s.align = align;
                    const Paragraph p = set(s);
                    QVERIFY(p.shown <= s.text.size() && !p.box.empty());
                    for (const SetLetter& l : p.letters)
                        QVERIFY(l.from <= l.to && l.to <= s.text.size() && std::isfinite(l.map.e));
                }
    }
};

GLYPTOS_TEST(TableTest)
#include "table_test.moc"
