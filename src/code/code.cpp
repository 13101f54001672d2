#include "code/code.h"

#include "base/text.h"
#include "code/module_outline.h"
#include "code/plain_size.h"

#include <algorithm>
#include <memory>
#include <zint.h>

namespace glyptos {
namespace {

using ZintSymbol = std::unique_ptr<zint_symbol, decltype(&ZBarcode_Delete)>;

constexpr double kBarHeight = 69.24, kGuardLonger = 5; // modules: 22.85 mm, and 1.65 more
constexpr double kDigitHeight = 2.75 / kBarcodeModuleMm, kDigitGap = 0.5;
constexpr double kQrClear = 4;
constexpr int kBarcodeModules = 95;
constexpr size_t kLongestQr = 2953; // bytes: version 40, error correction L

/// Where the digits of a barcode stand and how its clear zones are, in modules from the left of the bars.
struct BarcodeLayout {
    double clearLeft, clearRight;
    int sides;               ///< digits that stand beside the bars on the left, and on the right
    int longLeft, longRight; ///< modules at both ends whose bars reach down between the digits
};
constexpr BarcodeLayout kEanLayout{11, 7, 0, 3, 3}, kUpcLayout{9, 9, 1, 10, 10};

bool isDigit(char c) {
    return c >= '0' && c <= '9';
}

/// Digits alone, with a check digit that is right.
Result<std::string> barcodeDigits(std::string_view text, size_t length, const char* name) {
    std::string digits;
    for (const char c : text) {
        if (c == ' ' || c == '-') continue;
        if (!isDigit(c))
            return fail(Fault::Usage, std::string(name) + " is made of digits, and “" + visible(text) +
                                          "” has something else in it.");
        digits += c;
    }
    if (digits.size() != length && digits.size() + 1 != length)
        return fail(Fault::Usage, std::string(name) + " has " + std::to_string(length) +
                                      " digits, or one less where the check digit is worked out; here are " +
                                      std::to_string(digits.size()) + ".");
    const int check = checkDigit(std::string_view(digits).substr(0, length - 1));
    if (digits.size() < length) return digits + char('0' + check);
    if (digits.back() - '0' != check)
        return fail(Fault::Usage, "The check digit of " + digits + " is " + digits.back() +
                                      ", and worked out it is " + std::to_string(check) +
                                      ": one of the digits is mistyped.");
    return digits;
}

Result<ModuleGrid> modulesOf(int symbology, const std::string& text, int correction) {
    const ZintSymbol symbol(ZBarcode_Create(), ZBarcode_Delete);
    if (!symbol) return fail(Fault::Internal, "There is no memory for the code.");
    symbol->symbology = symbology;
    symbol->input_mode = UNICODE_MODE;
    if (correction > 0) symbol->option_1 = correction;
    const int said = ZBarcode_Encode(symbol.get(), reinterpret_cast<const unsigned char*>(text.data()),
                                     static_cast<int>(text.size()));
    if (said >= ZINT_ERROR)
        return fail(Fault::Usage, "This cannot be made a code: " + std::string(symbol->errtxt) + ".");
    ModuleGrid out(symbol->width, symbol->rows);
    for (int y = 0; y < symbol->rows; ++y)
        for (int x = 0; x < symbol->width; ++x)
            out.set(x, y, (symbol->encoded_data[y][x / 8] >> (x % 8)) & 1);
    return out;
}

/// Bars reach farther down at both ends and in the middle.
Path barsOf(const ModuleGrid& modules, const BarcodeLayout& layout) {
    Path out;
    const auto isLong = [&](int x) {
        return x < layout.longLeft || (x >= 45 && x < 50) || x >= kBarcodeModules - layout.longRight;
    };
    for (int x = 0; x < modules.width();) {
        int to = x;
        while (to < modules.width() && modules.at(to, 0)) ++to;
        if (to > x)
            out.addRect(
                {layout.clearLeft + x, 0, double(to - x), kBarHeight + (isLong(x) ? kGuardLonger : 0)});
        x = std::max(to, x + 1);
    }
    return out;
}

std::vector<CodeDigits> digitsOf(const std::string& digits, const BarcodeLayout& layout) {
    const double top = kBarHeight + kDigitGap, bars = layout.clearLeft;
    const auto box = [&](double from, double to) { return Rect{from, top, to - from, kDigitHeight}; };
    constexpr double kBeside = 7; // modules that a digit beside the bars takes
    const double left = bars + layout.longLeft + 1, middle = bars + 45;
    const double right = bars + kBarcodeModules - layout.longRight - 1;
    if (layout.sides == 0)
        return {{digits.substr(0, 1), box(bars - 2 - kBeside, bars - 2)},
                {digits.substr(1, 6), box(left, middle)},
                {digits.substr(7), box(middle + 5, right)}};
    return {{digits.substr(0, 1), box(bars - 2 - kBeside, bars - 2)},
            {digits.substr(1, 5), box(left, middle)},
            {digits.substr(6, 5), box(middle + 5, right)},
            {digits.substr(11), box(bars + kBarcodeModules + 1, bars + kBarcodeModules + 1 + kBeside)}};
}

Result<CodeSymbol> barcode(CodeKind kind, std::string_view text) {
    const bool isEan = kind == CodeKind::Ean13;
    const BarcodeLayout& layout = isEan ? kEanLayout : kUpcLayout;
    auto digits = barcodeDigits(text, isEan ? 13 : 12, isEan ? "An EAN-13" : "A UPC-A");
    if (!digits) return tl::unexpected(digits.error());
    const auto modules = modulesOf(isEan ? BARCODE_EANX : BARCODE_UPCA, *digits, 0);
    if (!modules) return tl::unexpected(modules.error());
    if (modules->width() != kBarcodeModules)
        return fail(Fault::Internal, "The code did not come out as wide as it must be.");
    CodeSymbol out{*digits,
                   layout.clearLeft + kBarcodeModules + layout.clearRight,
                   kBarcodeSize.height,
                   {layout.clearLeft, 0, kBarcodeModules, kBarcodeSize.height},
                   barsOf(*modules, layout),
                   digitsOf(*digits, layout)};
    return out;
}

Result<CodeSymbol> qrCode(std::string_view text) {
    const std::string words = validUtf8(text);
    if (trimmed(words).empty()) return fail(Fault::Usage, "The QR code has no words yet.");
    if (words.size() > kLongestQr)
        return fail(Fault::TooLarge, "A QR code holds " + std::to_string(kLongestQr) +
                                         " bytes of text at most; these are " + std::to_string(words.size()) +
                                         ".");
    auto modules = modulesOf(BARCODE_QRCODE, words, 2);
    if (!modules) modules = modulesOf(BARCODE_QRCODE, words, 1);
    if (!modules) return tl::unexpected(modules.error());
    const double side = modules->width();
    return CodeSymbol{words,
                      side + 2 * kQrClear,
                      side + 2 * kQrClear,
                      {kQrClear, kQrClear, side, side},
                      outlineOf(*modules, {kQrClear, kQrClear}),
                      {}};
}

} // namespace

int checkDigit(std::string_view digits) {
    int sum = 0, weight = 3;
    for (auto at = digits.rbegin(); at != digits.rend(); ++at, weight = 4 - weight)
        sum += (*at - '0') * weight;
    return (10 - sum % 10) % 10;
}

Result<CodeSymbol> codeSymbol(CodeKind kind, std::string_view text) {
    return isBarcode(kind) ? barcode(kind, text) : qrCode(text);
}

} // namespace glyptos
