// Codes against the tables of the standards, and read back.
#include "code/code.h"

#include "code/reader.h"
#include "support/register.h"

using namespace glyptos;

namespace {

/// Which modules of the bars are dark, in the row of their middle.
std::string modulesOf(const CodeSymbol& symbol) {
    const int w = int(symbol.width), y = 30;
    const Buffer<float> cover = coverage(symbol.bars, {}, w, y + 1);
    std::string out;
    for (int x = 0; x < w; ++x) {
        const float c = cover[size_t(y) * size_t(w) + size_t(x)];
        if (c != 0 && std::abs(c - 1) > 1e-4f) return "neither dark nor light at " + std::to_string(x);
        out += c > 0.5f ? '1' : '0';
    }
    return out;
}

/// ISO/IEC 15420, tables 1 to 3, written out once more: the 13 digits as 95 modules.
std::string eanModules(const std::string& digits) {
    static const std::array<std::string, 10> kA{"0001101", "0011001", "0010011", "0111101", "0100011",
                                                "0110001", "0101111", "0111011", "0110111", "0001011"};
    static const std::array<std::string, 10> kSets{"AAAAAA", "AABABB", "AABBAB", "AABBBA", "ABAABB",
                                                   "ABBAAB", "ABBBAA", "ABABAB", "ABABBA", "ABBABA"};
    const auto turned = [](std::string code) {
        for (char& c : code) c = c == '1' ? '0' : '1';
        return code;
    };
    std::string out = "101";
    for (size_t i = 1; i <= 6; ++i) {
        std::string code = kA[size_t(digits[i] - '0')];
        if (kSets[size_t(digits[0] - '0')][i - 1] == 'B')
            code = turned(code), std::reverse(code.begin(), code.end());
        out += code;
    }
    out += "01010";
    for (size_t i = 7; i <= 12; ++i) out += turned(kA[size_t(digits[i] - '0')]);
    return out + "101";
}

/// The last digit of all, the other way round than the code under test: weights 1 and 3 from the left.
std::string withCheck(const std::string& twelve) {
    int sum = 0;
    for (size_t i = 0; i < 12; ++i) sum += (twelve[i] - '0') * (i % 2 == 0 ? 1 : 3);
    return twelve + std::to_string((1000 - sum) % 10);
}

/// As printed: dark on light, `px` a module, with air round it.
std::optional<ReadCode> readBack(const CodeSymbol& symbol, double px) {
    const int w = int(symbol.width * px) + 40, h = int(symbol.height * px) + 40;
    const Buffer<float> cover =
        coverage(symbol.bars, Affine::translation(20, 20) * Affine::scaling(px, px), w, h);
    std::vector<uint8_t> grey;
    for (size_t i = 0; i < cover.size(); ++i) grey.push_back(uint8_t(255 - 255 * std::min(cover[i], 1.0f)));
    return readCode(grey.data(), w, h);
}

QString said(const Result<CodeSymbol>& result) {
    return result ? QStringLiteral("no error") : QString::fromStdString(result.error().message);
}

} // namespace

class CodeTest : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void barsAreThoseOfTheTables() {
        // Every first digit chooses another set for the digits on the left.
        for (int first = 0; first < 10; ++first) {
            std::string twelve = std::to_string(first);
            for (int i = 0; i < 11; ++i) twelve += char('0' + (first * 7 + i * 3 + i * i) % 10);
            const auto symbol = codeSymbol(CodeKind::Ean13, twelve);
            QVERIFY2(symbol.has_value(), qPrintable(said(symbol)));
            QCOMPARE(symbol->text, withCheck(twelve));
            QCOMPARE(symbol->width, 113.0);
            const std::string modules = modulesOf(*symbol);
            QCOMPARE(modules, std::string(11, '0') + eanModules(symbol->text) + std::string(7, '0'));
        }
    }

    void aUpcIsAnEanThatBeginsWithZero() {
        const auto symbol = codeSymbol(CodeKind::UpcA, "7 25000-00417");
        QVERIFY2(symbol.has_value(), qPrintable(said(symbol)));
        QCOMPARE("0" + symbol->text, withCheck("072500000417"));
        QCOMPARE(modulesOf(*symbol),
                 std::string(9, '0') + eanModules("0" + symbol->text) + std::string(9, '0'));
        QCOMPARE(int(symbol->digits.size()), 4);
    }

    void digitsStandUnderTheirBars() {
        const auto symbol = codeSymbol(CodeKind::Ean13, "200000000417");
        std::string digits;
        for (const CodeDigits& d : symbol->digits) {
            digits += d.text;
            QVERIFY(d.box.x >= 0 && d.box.right() <= symbol->width &&
                    d.box.bottom() <= symbol->height + 0.01);
            // No bar runs through them.
            const Buffer<float> cover =
                coverage(symbol->bars, Affine::translation(-d.box.x, -d.box.y), int(d.box.w), int(d.box.h));
            for (size_t i = 0; i < cover.size(); ++i) QCOMPARE(cover[i], 0.0f);
        }
        QCOMPARE(digits, symbol->text);
        QVERIFY(std::abs(symbol->height * kBarcodeModuleMm - 25.93) < 0.01);
        QVERIFY(std::abs(symbol->width * kBarcodeModuleMm - 37.29) < 0.01);
    }

    void everyCodeIsReadBack() {
        const std::string longer = [] {
            std::string words;
            for (int i = 0; i < 40; ++i) words += "Þórr ríður á Ægi, " + std::to_string(i) + ". ";
            return words;
        }();
        const std::pair<CodeKind, std::string> codes[] = {
            {CodeKind::Ean13, "200000000417"},
            {CodeKind::Ean13, "978000000042"},
            {CodeKind::UpcA, "72500000417"},
            {CodeKind::Qr, "https://slack-tide.example/almanac"},
            {CodeKind::Qr, "Þokan yfir höfninni — ljós"},
            {CodeKind::Qr, "潮汐"},
            {CodeKind::Qr, longer}};
        for (const auto& [kind, text] : codes)
            for (const double px : {2.6, 4.0}) {
                const auto symbol = codeSymbol(kind, text);
                QVERIFY2(symbol.has_value(), qPrintable(said(symbol)));
                const auto read = readBack(*symbol, px);
                QVERIFY2(read.has_value(), text.c_str());
                QCOMPARE(read->text, symbol->text);
                QVERIFY(read->kind == kind);
            }
    }

    void squaresOfAQrCodeLeaveNoSeams() {
        const auto symbol = codeSymbol(CodeKind::Qr, "Lantern Room");
        const int side = int(symbol->width);
        // On whole pixels every pixel is dark or light; on thirds none that lies inside the dark shows light.
        const Buffer<float> whole = coverage(symbol->bars, {}, side, side);
        int dark = 0;
        for (size_t i = 0; i < whole.size(); ++i) {
            QVERIFY(std::abs(whole[i]) < 1e-4f || std::abs(whole[i] - 1) < 1e-4f);
            dark += whole[i] > 0.5f;
        }
        const int fine = side * 3 / 2;
        const Buffer<float> between = coverage(symbol->bars, Affine::scaling(1.5, 1.5), fine, fine);
        double area = 0;
        for (size_t i = 0; i < between.size(); ++i) {
            QVERIFY(between[i] < 1.0001f);
            area += double(between[i]);
        }
        QVERIFY2(std::abs(area - dark * 2.25) < 0.01, qPrintable(QString::number(area)));
        QVERIFY(dark > 150);
        // Four modules on each side are clear.
        for (int i = 0; i < side; ++i)
            for (int k = 0; k < 4; ++k) QCOMPARE(whole[size_t(k) * size_t(side) + size_t(i)], 0.0f);
    }

    void wrongTextsAreSaid() {
        const auto ean = [](const char* text) { return said(codeSymbol(CodeKind::Ean13, text)); };
        QVERIFY(ean("20000000041X").contains("made of digits"));
        QVERIFY(ean("slack tide").contains("slack tide"));
        QVERIFY(ean("12345").contains("here are 5"));
        QVERIFY(ean("").contains("here are 0"));
        const std::string right = withCheck("200000000417");
        std::string wrong = right;
        wrong.back() = right.back() == '0' ? '1' : char(right.back() - 1);
        QVERIFY(codeSymbol(CodeKind::Ean13, right).has_value());
        QVERIFY2(ean(wrong.c_str()).contains(QStringLiteral("worked out it is ") + right.back()),
                 qPrintable(ean(wrong.c_str())));
        QVERIFY(said(codeSymbol(CodeKind::Qr, " \n")).contains("no words yet"));
        QVERIFY(said(codeSymbol(CodeKind::Qr, std::string(3000, 'a'))).contains("2953 bytes"));
        QVERIFY(codeSymbol(CodeKind::Qr, std::string(2900, 'a')).has_value());
        QVERIFY(codeSymbol(CodeKind::Qr, std::string("a\0b", 3)).has_value());
        QVERIFY(codeSymbol(CodeKind::Qr, "\xff\xfe broken").has_value());
    }

    void aCodeThatIsNotThereIsNotRead() {
        const std::vector<uint8_t> grey(200 * 200, 200);
        QVERIFY(!readCode(grey.data(), 200, 200));
        QVERIFY(!readCode(grey.data(), 0, 0));
    }
};

GLYPTOS_TEST(CodeTest)
#include "code_test.moc"
