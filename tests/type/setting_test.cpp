#include "file/data_folder.h"
#include "support/register.h"
#include "type/paragraph.h"
#include "type/text_edits.h"

#include <cmath>
#include <numbers>

using namespace glyptos;

namespace {

const std::string kLong =
    "Low water came an hour before the light, and the pilots of Gannet Street walked out over the "
    "flats to count the lamps that the night had left behind.";

/// Where a letter stands: the middle of its advance on the baseline, and how it is turned.
Vec2 footOf(const SetLetter& letter) {
    return letter.map.map({letter.advance / 2, 0});
}
double turnOf(const SetLetter& letter) {
    const Vec2 way = letter.map.mapVector({1, 0});
    return std::atan2(way.y, way.x) * 180 / std::numbers::pi;
}

} // namespace

class SettingTest : public QObject {
    Q_OBJECT
    FontLibrary fonts{dataFolder() / "fonts", true};

    TextSpec spec(const std::string& text) const {
        TextSpec out;
        out.text = text;
        return out;
    }
    Paragraph set(const TextSpec& s) const { return setParagraph(s, fonts); }

  private Q_SLOTS:
    void justifiedLinesFillTheirMeasure() {
        TextSpec s = spec(kLong);
        s.frame = InArea{260, 0}, s.align = Align::Justified;
        const Paragraph p = set(s);
        QVERIFY(p.lines.size() >= 3);
        for (size_t i = 0; i < p.lines.size(); ++i) {
            QVERIFY(std::abs(p.lines[i].left) < 1e-9);
            const bool isLast = i + 1 == p.lines.size();
            QVERIFY(isLast ? p.lines[i].width < 260 : std::abs(p.lines[i].width - 260) < 1e-6);
        }
        // Nothing of the text is lost on the way.
        std::string back;
        for (const SetLine& l : p.lines) back += s.text.substr(l.from, l.to - l.from) + " ";
        QCOMPARE(back.substr(0, back.size() - 1), s.text);
    }

    /// A line of a longer text is shaped as it would be alone: with the forms that letters have at ends, and
    /// with no kerning towards what the next line begins with.
    void linesAreShapedAsIfAlone_data() {
        QTest::addColumn<QString>("family");
        for (const FamilyInfo& family : fonts.families())
            QTest::newRow(family.name.c_str()) << QString::fromStdString(family.name);
    }
    void linesAreShapedAsIfAlone() {
        QFETCH(QString, family);
        int compared = 0, divided = 0;
        for (const Kerning kerning : {Kerning::Font, Kerning::Optical, Kerning::None})
            for (double width = 55; width < 200; width += 13) {
                TextSpec s =
                    spec("AV Týr affairs: Þokan fjörð waffle—Tavern fiffi To. Year, officially Yours "
                         "(fjara) WAVE 10/11 offlaw Voyage AWAY Trouble");
                s.letters.family = family.toStdString(), s.letters.language = "en-GB";
                s.letters.kerning = kerning;
                s.frame = InArea{width, 0}, s.hyphenate = true;
                const Paragraph p = set(s);
                QVERIFY(p.lines.size() > 1);
                for (const SetLine& line : p.lines) {
                    TextSpec one = s;
                    one.text = s.text.substr(line.from, line.to - line.from);
                    one.frame = AtPoint{}, one.hyphenate = false;
                    const Paragraph alone = set(one);
                    size_t i = 0;
                    for (const SetLetter& letter : p.letters) {
                        if (letter.line != size_t(&line - p.lines.data())) continue;
                        if (i == alone.letters.size()) break; // the hyphen
                        QCOMPARE(letter.from - line.from, alone.letters[i].from);
                        QVERIFY(std::abs(letter.map.e - line.left - alone.letters[i].map.e) < 1e-9);
                        const bool isLast = ++i == alone.letters.size();
                        if (isLast) continue; // it may be tracked or spaced from the hyphen
                        QVERIFY(std::abs(letter.advance - alone.letters[i - 1].advance) < 1e-9);
                    }
                    QCOMPARE(i, alone.letters.size());
                    ++compared, divided += line.divided;
                }
            }
        QVERIFY(compared > 60);
        QVERIFY(divided > 0);
    }

    void hyphensOnlyWhereAskedFor() {
        TextSpec s = spec("Hafnarfjarðarhöfn öldurótsins fjöruborðið");
        s.letters.language = "is", s.frame = InArea{60, 0};
        const auto divided = [](const Paragraph& p) {
            return std::count_if(p.lines.begin(), p.lines.end(), [](const SetLine& l) { return l.divided; });
        };
        const Paragraph whole = set(s);
        QCOMPARE(divided(whole), 0);
        s.hyphenate = true;
        const Paragraph p = set(s);
        QVERIFY(divided(p) > 0);
        for (const SetLine& l : p.lines) QVERIFY(l.width <= 60 + 1e-9);
        s.letters.language = "";
        QCOMPARE(divided(set(s)), 0);
        // A hyphen that the writer put there shows only where the line ends.
        TextSpec soft = spec("öldu\u00adrót");
        QVERIFY(std::abs(set(soft).lines[0].width - set(spec("öldurót")).lines[0].width) < 1e-9);
        soft.frame = InArea{set(spec("öldu-")).lines[0].width + 0.5, 0};
        QCOMPARE(divided(set(soft)), 1);
    }

    void marksHangBeyondTheEdge() {
        TextSpec s = spec("“Low water,\nsaid the lamp.”");
        s.frame = InArea{200, 0};
        const Paragraph flush = set(s);
        s.hangPunctuation = true;
        const Paragraph hung = set(s);
        QVERIFY(hung.lines[0].left < -1 && flush.lines[0].left == 0);
        QVERIFY(std::abs(hung.lines[1].left) < 1e-9);
        s.align = Align::Right;
        QVERIFY(set(s).lines[0].left + set(s).lines[0].width > 1);
    }

    void runsLookAsTheyAre() {
        TextSpec s = spec("Slack Tide");
        s.runs = {{6, 10, {.family = "Bebas Neue", .size = 30, .paint = 2}}};
        const Paragraph p = set(s);
        QCOMPARE(p.inks.size(), size_t(2));
        QVERIFY(p.inks[0].paint == 0 && p.inks[1].paint == 2);
        // Each as it is when set alone.
        TextSpec alone = spec("Tide");
        alone.letters = s.runs[0].letters;
        QVERIFY(std::abs(p.inks[1].outline.bounds().w - set(alone).outline.bounds().w) < 1e-9);
        // Lines are led by their largest letters.
        s.text += "\nTide";
        s.runs.push_back({11, 15, s.runs[0].letters});
        QVERIFY(std::abs(set(s).baselines[1] - set(s).baselines[0] - 30 * 1.2) < 1e-9);
    }

    void oneLineMayHaveItsOwnLeading() {
        TextSpec s = spec("a\nb\nc");
        s.leadings = {{2, 2.5}};
        const auto b = set(s).baselines;
        QVERIFY(std::abs(b[1] - b[0] - 25) < 1e-9 && std::abs(b[2] - b[1] - 12) < 1e-9);
    }

    void pairsAreKernedByHand() {
        TextSpec s = spec("AVA");
        const double plain = set(s).lines[0].width;
        s.kerns = {{1, 0.1}};
        const Paragraph p = set(s);
        QVERIFY(std::abs(p.lines[0].width - plain - 1) < 1e-9);
        const Paragraph before = set(spec("AVA"));
        QVERIFY(std::abs(footOf(p.letters[1]).x - footOf(before.letters[1]).x - 1) <
                0.51); // the space is before it
        QVERIFY(std::abs(p.letters[1].map.e - before.letters[1].map.e - 1) < 1e-9);
        s.kerns = {{0, 0.1}}; // nothing stands before the first
        QVERIFY(std::abs(set(s).lines[0].width - plain) < 1e-9);
    }

    void shiftAndFeatures() {
        TextSpec s = spec("H2O");
        const Paragraph plain = set(s);
        s.letters.shift = 0.3;
        QVERIFY(std::abs(plain.ink.y - set(s).ink.y - 3) < 1e-9);
        // Tabular figures of Inter are as wide as each other.
        TextSpec figures = spec("1111");
        const double narrow = set(figures).lines[0].width;
        figures.letters.features = {{"tnum", 1}};
        TextSpec eights = spec("8888");
        eights.letters.features = {{"tnum", 1}};
        QVERIFY(std::abs(set(figures).lines[0].width - set(eights).lines[0].width) < 1e-9);
        QVERIFY(set(figures).lines[0].width > narrow + 0.5);
    }

    void tabsLeadToTheirStops() {
        TextSpec s = spec("1\tLow Water\t3:42\n12\tPilot\t15:11");
        s.tabs = {{20, TabAlign::Left, ""}, {200, TabAlign::Right, "."}};
        const Paragraph p = set(s);
        for (const SetLine& l : p.lines) QVERIFY(std::abs(l.width - 200) < 1e-6);
        const auto at = [&](size_t byte) {
            return std::find_if(p.letters.begin(), p.letters.end(),
                                [&](const SetLetter& l) { return l.from == byte; })
                ->map.e;
        };
        QVERIFY(std::abs(at(2) - 20) < 1e-9 && std::abs(at(s.text.find("Pilot")) - 20) < 1e-9);
        // Leaders of both lines stand on one grid.
        std::vector<double> dots[2];
        for (const SetLetter& l : p.letters)
            if (l.from == l.to) dots[l.line].push_back(l.map.e);
        QVERIFY(dots[0].size() > 10 && dots[1].size() > 10);
        for (const double x : dots[0])
            if (x > dots[1].front() - 1e-9 && x < dots[1].back() + 1e-9)
                QVERIFY(std::any_of(dots[1].begin(), dots[1].end(),
                                    [&](double o) { return std::abs(o - x) < 1e-9; }));
        TextSpec decimals = spec("\t3.5\n\t12.25");
        decimals.tabs = {{50, TabAlign::Figures, ""}};
        const Paragraph d = set(decimals);
        const auto dot = [&](size_t line) {
            for (const SetLetter& l : d.letters)
                if (l.line == line && decimals.text[l.from] == '.') return l.map.e;
            return -1.0;
        };
        QVERIFY(std::abs(dot(0) - 50) < 1e-9 && std::abs(dot(1) - 50) < 1e-9);
    }

    void lettersStandOnACircle_data() {
        QTest::addColumn<bool>("inside");
        QTest::newRow("outside") << false;
        QTest::newRow("inside") << true;
    }
    void lettersStandOnACircle() {
        QFETCH(bool, inside);
        TextSpec s = spec("SLACK TIDE ALMANAC");
        s.align = Align::Centre;
        s.frame = RoundCircle{60, inside ? 180.0 : 0.0, inside};
        const Paragraph p = set(s);
        QCOMPARE(p.shown, s.text.size());
        double last = -1e9;
        for (const SetLetter& letter : p.letters) {
            const Vec2 foot = footOf(letter);
            QVERIFY(std::abs(std::hypot(foot.x, foot.y) - 60) < 1e-9);
            QVERIFY(foot.x > last); // read from left to right, at the top and at the bottom
            last = foot.x;
            // Upright on the circle: its height points away from the middle, or towards it.
            const Vec2 up = letter.map.mapVector({0, -1});
            const double outwards = (up.x * foot.x + up.y * foot.y) / 60;
            QVERIFY(std::abs(outwards - (inside ? -1 : 1)) < 1e-9);
        }
        // Centred: as far to the left as to the right; neighbours as far apart as their advances say.
        const double first = footOf(p.letters.front()).x - p.letters.front().advance / 2,
                     end = footOf(p.letters.back()).x;
        QVERIFY(std::abs(first + end) < 4);
        const SetLetter &a = p.letters[0], &b = p.letters[1];
        const Vec2 fa = footOf(a), fb = footOf(b);
        const double arc = 60 * std::acos((fa.x * fb.x + fa.y * fb.y) / 3600);
        QVERIFY(std::abs(arc - (a.advance + b.advance) / 2) < 1e-6);
    }

    void lettersFollowAPath() {
        TextSpec s = spec("Low water");
        Contour line;
        line.closed = false;
        line.nodes = {{{0, 0}, {}, {}}, {{100, 0}, {}, {}}, {{100, 100}, {}, {}}};
        s.frame = AlongPath{line, 10, false};
        const Paragraph p = set(s);
        QVERIFY(std::abs(footOf(p.letters[0]).x - 10 - p.letters[0].advance / 2) < 1e-6);
        QVERIFY(std::abs(footOf(p.letters[0]).y) < 1e-9);
        // Beyond the corner they are turned with it.
        s.frame = AlongPath{line, 120, false};
        const Paragraph down = set(s);
        QVERIFY(std::abs(turnOf(down.letters[0]) - 90) < 1e-9 &&
                std::abs(footOf(down.letters[0]).x - 100) < 1e-9);
        // From the other side it is read the other way.
        s.frame = AlongPath{line, 120, true};
        QVERIFY(std::abs(turnOf(set(s).letters[0]) + 90) < 1e-9);
        // A path that is shorter than its words shows what fits, and says where it ends.
        s.frame = AlongPath{line, 180, false};
        const Paragraph cut = set(s);
        QVERIFY(cut.letters.size() < p.letters.size() && cut.shown == cut.letters.back().to);
        s.frame = AlongPath{{}, 0, false};
        QVERIFY(set(s).outline.empty());
    }

    void linesFillAShape() {
        TextSpec s = spec(kLong + " " + kLong + " " + kLong);
        Contour round; // a circle of radius 80
        const double k = 80 * 0.5522847498;
        round.nodes = {{{0, -80}, {-k, 0}, {k, 0}},
                       {{80, 0}, {0, -k}, {0, k}},
                       {{0, 80}, {k, 0}, {-k, 0}},
                       {{-80, 0}, {0, k}, {0, -k}}};
        s.frame = InShape{{round}}, s.align = Align::Centre;
        const Paragraph p = set(s);
        QVERIFY(p.lines.size() > 5);
        for (const SetLetter& letter : p.letters) {
            if (letter.isSpace) continue;
            for (const Vec2 corner : {Vec2{0, 0}, Vec2{letter.advance, 0}})
                QVERIFY(std::hypot(letter.map.map(corner).x, letter.map.map(corner).y) < 80.5);
        }
        QVERIFY(p.shown < s.text.size());         // and what has no room is told
        QCOMPARE(p.shown, p.lines.back().to + 1); // the space between them
    }

    void anAreaOfAHeightShowsWhatFits() {
        TextSpec s = spec("a\nb\nc\nd");
        s.frame = InArea{50, 30};
        const Paragraph p = set(s);
        QCOMPARE(p.lines.size(), size_t(2));
        QCOMPARE(p.shown, size_t(4));
    }

    void rulesAndHandsMoveLetters() {
        TextSpec s = spec("WAVES");
        const Paragraph plain = set(s);
        s.rules = {{.kind = LetterRule::Kind::Wave, .rise = 0.5, .period = 4}};
        const Paragraph wave = set(s);
        const double expected[] = {0, -5, 0, 5, 0};
        for (size_t i = 0; i < 5; ++i)
            QVERIFY(std::abs(footOf(wave.letters[i]).y - footOf(plain.letters[i]).y - expected[i]) < 1e-9);
        s.rules = {{.kind = LetterRule::Kind::Falling, .rise = 1, .turn = 40, .fade = 0.8}};
        const Paragraph falling = set(s);
        QVERIFY(std::abs(turnOf(falling.letters[4]) - 40) < 1e-9 &&
                std::abs(turnOf(falling.letters[2]) - 20) < 1e-9);
        QCOMPARE(falling.inks.size(), size_t(5)); // each fainter than the one before
        QVERIFY(std::abs(falling.inks.back().opacity - 0.2) < 1e-9);
        s.rules = {{.kind = LetterRule::Kind::Chance, .rise = 0.2, .turn = 15, .spread = 0.3, .seed = 7}};
        QVERIFY(set(s).ink == set(s).ink);
        const Rect seven = set(s).ink;
        s.rules[0].seed = 8;
        QVERIFY(!(set(s).ink == seven));
        s.rules.clear();
        s.poses = {{1, {0, 1}, 90, 2, 1}};
        const Paragraph posed = set(s);
        QVERIFY(std::abs(footOf(posed.letters[1]).y - footOf(plain.letters[1]).y - 10) < 1e-9);
        QVERIFY(std::abs(turnOf(posed.letters[1]) - 90) < 1e-9 &&
                footOf(posed.letters[2]).y == footOf(plain.letters[2]).y);
    }

    void rightToLeftLinesEndAtTheLeft() {
        TextSpec s = spec("שלום ABC גלים");
        const Paragraph p = set(s);
        double latin = 0, first = 0;
        for (const SetLetter& letter : p.letters) {
            if (s.text[letter.from] == 'A') latin = letter.map.e;
            if (letter.from == 0) first = letter.map.e;
        }
        QVERIFY(first > latin && latin > 0); // the first word stands at the right
    }

    void editsKeepWhatBelongsToLetters() {
        TextSpec s = spec("low water");
        s.runs = {{4, 9, {.style = "Bold"}}};
        s.kerns = {{5, 0.1}, {1, 0.2}};
        std::sort(s.kerns.begin(), s.kerns.end(), [](auto a, auto b) { return a.at < b.at; });
        const TextSpec typed = replaced(s, 9, 9, "s"); // behind the last letter: bold too
        QVERIFY(typed.runs.front().to == 10 && typed.kerns == s.kerns);
        const TextSpec before = replaced(s, 4, 4, "the "); // in front of it: not bold
        QVERIFY(before.runs.front().from == 8 && before.runs.front().to == 13 && before.kerns[1].at == 9);
        const TextSpec gone = replaced(s, 3, 9, "");
        QVERIFY(gone.runs.empty() && gone.kerns.size() == 1);
        const TextSpec part = replaced(s, 2, 6, "X"); // from outside into the run
        QVERIFY(part.text == "loXter" && part.runs.front().from == 3 && part.runs.front().to == 6);

        const auto italic = [](LetterStyle& l) { l.style = "Italic"; };
        const TextSpec both = restyled(s, 2, 6, italic);
        QCOMPARE(both.runs.size(), size_t(2));
        QVERIFY(both.runs[0].from == 2 && both.runs[0].to == 6 && both.runs[1].to == 9);
        QCOMPARE(restyled(both, 2, 9, [](LetterStyle& l) { l.style = "Regular"; }).runs.size(), size_t(0));
        QCOMPARE(lettersAt(s, 6).style, std::string("Bold"));
        QCOMPARE(lettersAt(s, 9).style, std::string("Bold"));
        const TextSpec twice = scaled(both, 2);
        QVERIFY(set(twice).box.w == 2 * set(both).box.w ||
                std::abs(set(twice).box.w - 2 * set(both).box.w) < 1e-9);
    }
};

GLYPTOS_TEST(SettingTest)
#include "setting_test.moc"
