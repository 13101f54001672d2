#include "type/optical_kerning.h"

#include "file/data_folder.h"
#include "support/register.h"
#include "type/paragraph.h"

#include <cmath>
#include <hb.h>
#include <numeric>

using namespace glyptos;

namespace {

constexpr double kEm = 200; // px

/// The area between two letters as the eye has it: white pixels between their nearest inks in each row that
/// either takes up, those beyond `kDeepestGap` of a letter's own edge not counted; by the height, in em.
double areaBetween(const Path& left, const Path& right) {
    const int width = int(kEm * 3), height = int(kEm * 1.4);
    const Affine place = Affine::translation(kEm / 2, 0) * Affine::scaling(kEm / 10, kEm / 10);
    const auto a = coverage(left, place, width, height), b = coverage(right, place, width, height);
    int furthestRight = 0, furthestLeft = width;
    std::vector<std::pair<int, int>> rows;
    for (int y = 0; y < height; ++y) {
        int end = -1, begin = width;
        for (int x = 0; x < width; ++x) {
            if (a.data()[size_t(y) * size_t(width) + size_t(x)] > 0.5F) end = x;
            if (b.data()[size_t(y) * size_t(width) + size_t(x)] > 0.5F && begin == width) begin = x;
        }
        if (end >= 0 || begin < width) rows.emplace_back(end, begin);
        furthestRight = std::max(furthestRight, end), furthestLeft = std::min(furthestLeft, begin);
    }
    double sum = 0;
    const int deepest = int(kDeepestGap * kEm);
    for (const auto& [end, begin] : rows)
        sum += std::min(begin, furthestLeft + deepest) - std::max(end, furthestRight - deepest);
    return sum / double(rows.size()) / kEm;
}

double spreadOf(const std::vector<double>& all) {
    const double mean = std::accumulate(all.begin(), all.end(), 0.0) / double(all.size());
    double squares = 0;
    for (const double v : all) squares += (v - mean) * (v - mean);
    return std::sqrt(squares / double(all.size()));
}

} // namespace

class OpticalKerningTest : public QObject {
    Q_OBJECT
    FontLibrary fonts{dataFolder() / "fonts", true};

    std::vector<double> areas(const std::string& family, Kerning kerning) const {
        constexpr std::string_view kPairs[]{"AV", "AT", "AY", "AW", "LT", "LV", "LY", "TA", "VA", "WA",
                                            "YA", "PA", "FA", "To", "Te", "Ta", "Vo", "Wa", "Yo", "Ye",
                                            "AO", "OA", "OV", "VO", "TO", "OT", "LO", "KO", "RT", "DY",
                                            "rt", "ry", "vo", "wo", "yo", "xo", "ko", "fo", "RV", "OX"};
        static_assert(std::size(kPairs) == 40);
        std::vector<double> out;
        for (const std::string_view pair : kPairs) {
            TextSpec s;
            s.text = pair, s.letters.family = family, s.letters.kerning = kerning;
            s.runs = {{1, 2, s.letters}};
            s.runs[0].letters.paint = 1;
            // Both in one run for the kerning; apart by their places.
            TextSpec whole = s;
            whole.runs.clear();
            const Paragraph set = setParagraph(whole, fonts);
            Path parts[2];
            for (size_t i = 0; i < 2; ++i) {
                TextSpec one = whole;
                one.text = std::string(pair.substr(i, 1));
                const Paragraph alone = setParagraph(one, fonts);
                parts[i].append(alone.outline,
                                Affine::translation(set.letters[i].map.e - alone.letters[0].map.e, 0));
            }
            out.push_back(areaBetween(parts[0], parts[1]));
        }
        return out;
    }

  private Q_SLOTS:
    void areasAreEven_data() {
        QTest::addColumn<QString>("family");
        QTest::newRow("grotesque") << QStringLiteral("Inter");
        QTest::newRow("serif") << QStringLiteral("EB Garamond");
    }
    void areasAreEven() {
        QFETCH(QString, family);
        const double plain = spreadOf(areas(family.toStdString(), Kerning::None)),
                     font = spreadOf(areas(family.toStdString(), Kerning::Font)),
                     optical = spreadOf(areas(family.toStdString(), Kerning::Optical));
        qInfo("spread of areas: none %.4f, font %.4f, optical %.4f em", plain, font, optical);
        QVERIFY(optical < plain / 2);
        QVERIFY(optical < font);
    }

    void plainPairsStayAsTheyAre() {
        const FacePtr face = fonts.face("Inter", "Regular");
        OpticalKerning kerning;
        const auto glyph = [&](char c) {
            hb_codepoint_t out = 0;
            hb_font_get_nominal_glyph(face->font(), hb_codepoint_t(c), &out);
            return out;
        };
        double sum = 0;
        for (const char c : {'n', 'o', 'H', 'O'}) {
            sum += kerning.space(*face, glyph(c), glyph(c));
            QVERIFY2(std::abs(kerning.space(*face, glyph(c), glyph(c))) < 0.05,
                     qPrintable(QString::number(kerning.space(*face, glyph(c), glyph(c)))));
        }
        QVERIFY(std::abs(sum) < 1e-9);
        QVERIFY(kerning.space(*face, glyph('A'), glyph('V')) < -0.05);
        QCOMPARE(kerning.space(*face, glyph('A'), glyph(' ')), 0.0);
    }
};

GLYPTOS_TEST(OpticalKerningTest)
#include "optical_kerning_test.moc"
