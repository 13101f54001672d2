#include "type/lines/line_breaks.h"

#include "support/register.h"
#include "type/hyphenator.h"

#include <QFile>
#include <cmath>
#include <random>

using namespace glyptos;

namespace {

/// The words of a paragraph by their widths, gaps of 10 between them.
std::vector<BreakPlace> placesOf(const std::vector<double>& words) {
    std::vector<BreakPlace> out;
    double at = 0;
    for (size_t i = 0; i < words.size(); ++i) {
        BreakPlace p;
        p.at = i + 1, p.end = at + words[i], p.next = p.end + 10, p.spaces = 10.0 * double(i),
        p.nextSpaces = 10.0 * double(i + 1);
        at = p.next;
        out.push_back(p);
    }
    return out;
}

/// The demerits of Knuth and Plass, without penalties, of lines that end behind these words.
double demerits(const std::vector<double>& words, const std::vector<size_t>& ends, double measure) {
    double all = 0;
    size_t from = 0;
    for (const size_t end : ends) {
        double width = -10;
        for (size_t i = from; i <= end; ++i) width += words[i] + 10;
        const double gaps = 10.0 * double(end - from);
        const double slack = measure - width;
        const bool isLast = end + 1 == words.size();
        if (slack < -gaps / 3 - 1e-9) return 1e18;
        double bad = 0;
        if (slack < 0) bad = 100 * std::pow(-slack / (gaps / 3), 3);
        if (slack > 0 && !isLast)
            bad = gaps > 0 ? std::min(100 * std::pow(slack / (gaps / 2), 3), 10000.0) : 10000;
        all += (1 + bad) * (1 + bad);
        from = end + 1;
    }
    return all;
}

} // namespace

class LineBreaksTest : public QObject {
    Q_OBJECT

  private Q_SLOTS:
    /// Unicode's own test of the Line Breaking Algorithm.
    void breaksWhereUnicodeAllowsIt() {
        QFile file(QStringLiteral("/usr/share/unicode/auxiliary/LineBreakTest.txt"));
        QVERIFY2(file.open(QIODevice::ReadOnly), "install unicode-data");
        LineBreaker breaker;
        int tested = 0, right = 0;
        while (!file.atEnd()) {
            const QString line = QString::fromUtf8(file.readLine()).section(QLatin1Char('#'), 0, 0).trimmed();
            if (line.isEmpty()) continue;
            std::u16string text;
            std::vector<size_t> expected;
            for (const QString& part : line.split(QLatin1Char(' '), Qt::SkipEmptyParts)) {
                if (part == QStringLiteral("÷")) {
                    if (!text.empty()) expected.push_back(text.size());
                } else if (part != QStringLiteral("×")) {
                    const char32_t code = part.toUInt(nullptr, 16);
                    text += QString::fromUcs4(&code, 1).toStdU16String();
                }
            }
            const std::vector<size_t> ours = breaker.opportunities(text, {});
            // ICU keeps a hyphen that begins a line, and a point or comma, with what follows.
            const bool isKept = text.find_first_of(u"-,.") != text.npos;
            if (ours == expected)
                ++right;
            else
                QVERIFY2(isKept, qPrintable(line));
            ++tested;
        }
        QVERIFY2(tested > 7000 && right >= tested - 22,
                 qPrintable(QStringLiteral("%1 of %2").arg(right).arg(tested)));
    }

    void wordsAreDividedByTheirLanguage() {
        const Hyphenator hyphens;
        const auto divided = [&](QString word, const char* language) {
            const auto places = hyphens.divisions(word.toStdU16String(), language);
            for (auto at = places.rbegin(); at != places.rend(); ++at)
                word.insert(int(*at), QLatin1Char('-'));
            return word;
        };
        QCOMPARE(divided(QStringLiteral("hyphenation"), "en-US"), QStringLiteral("hy-phen-ation"));
        QCOMPARE(divided(QStringLiteral("Silbentrennung"), "de"), QStringLiteral("Sil-ben-tren-nung"));
        QCOMPARE(divided(QStringLiteral("FELUSTAÐUR"), "is").count(QLatin1Char('-')) > 0, true);
        QCOMPARE(divided(QStringLiteral("tide"), "en-US"), QStringLiteral("tide")); // too short
        QCOMPARE(divided(QStringLiteral("hyphenation"), ""), QStringLiteral("hyphenation"));
        QCOMPARE(divided(QStringLiteral("hyphenation"), "xx"), QStringLiteral("hyphenation"));
        QCOMPARE(divided(QStringLiteral("hyphenation"), "../en"), QStringLiteral("hyphenation"));
        QCOMPARE(divided(QStringLiteral("приливы"), "de"), QStringLiteral("приливы")); // letters it has not
        QVERIFY(hyphens.knows("de-AT") && !hyphens.knows("tlh"));
        for (const char* there : {"de-AT", "is", "nb", "en-GB"}) QVERIFY(hyphens.has(there));
        for (const char* none : {"tlh", "", "../de", "de_AT"}) QVERIFY(!hyphens.has(none));
    }

    void fullLinesTakeWhatFits() {
        const auto places = placesOf({30, 30, 30, 200, 30, 30});
        const double measure[] = {75};
        QCOMPARE(chosenBreaks(places, measure, Fill::Full), (std::vector<size_t>{1, 2, 3, 5}));
        const double narrowing[] = {115, 75, 30}; // the last for all that follow
        QCOMPARE(chosenBreaks(places, narrowing, Fill::Full), (std::vector<size_t>{2, 3, 4, 5}));
        QVERIFY(chosenBreaks({}, measure, Fill::Full).empty());
    }

    /// Against all ways there are to break a short paragraph.
    void justifiedLinesAreTheBestThereAre() {
        std::mt19937 chance(11);
        int better = 0;
        for (int round = 0; round < 60; ++round) {
            std::vector<double> words(10);
            for (double& w : words) w = 15.0 + double(chance() % 60);
            const double measure[] = {150};
            const auto ours = chosenBreaks(placesOf(words), measure, Fill::Justified);
            double least = 1e18;
            for (unsigned set = 0; set < 1U << 9; ++set) {
                std::vector<size_t> ends;
                for (size_t i = 0; i < 9; ++i)
                    if (set >> i & 1U) ends.push_back(i);
                ends.push_back(9);
                least = std::min(least, demerits(words, ends, 150));
            }
            if (least >= 1e17) continue; // no way that fits
            QVERIFY(std::abs(demerits(words, ours, 150) - least) <= 1e-6 * least);
            better +=
                demerits(words, chosenBreaks(placesOf(words), measure, Fill::Full), 150) > least * 1.001;
        }
        QVERIFY(better > 10); // it is worth it
    }

    void evenLinesAreAlike() {
        const std::vector<double> words(7, 30); // 4 to a line
        const double measure[] = {155};
        QCOMPARE(chosenBreaks(placesOf(words), measure, Fill::Full), (std::vector<size_t>{3, 6}));
        const std::vector<double> five(5, 30);
        QCOMPARE(chosenBreaks(placesOf(five), measure, Fill::Full), (std::vector<size_t>{3, 4}));
        QCOMPARE(chosenBreaks(placesOf(five), measure, Fill::Even).size(), size_t(2));
        QVERIFY(chosenBreaks(placesOf(five), measure, Fill::Even).front() != 3); // no lonely last word
    }
};

GLYPTOS_TEST(LineBreaksTest)
#include "line_breaks_test.moc"
