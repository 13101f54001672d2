// Codes that scanners read: EAN-13 and UPC-A (ISO/IEC 15420, GS1 General Specifications), QR (ISO/IEC 18004).
// Lengths are in modules, the width of the narrowest bar.
#pragma once

#include "base/error.h"
#include "raster/path.h"

#include <string>
#include <string_view>
#include <vector>

namespace glyptos {

enum class CodeKind : unsigned char { Ean13, UpcA, Qr };
inline constexpr const char* kCodeKindIds[] = {"ean-13", "upc-a", "qr"};
inline bool isBarcode(CodeKind kind) {
    return kind != CodeKind::Qr;
}

/// Width of a module at 100 %, mm; of a barcode 80 to 200 % of it are allowed, of a QR code what is not less.
inline constexpr double kBarcodeModuleMm = 0.33, kQrModuleMm = 0.4;
inline constexpr double kLeastBarcodeScale = 0.8, kMostBarcodeScale = 2;

/// Digits under a barcode, for people.
struct CodeDigits {
    std::string text;
    Rect box; ///< from the top of the digits to where they stand, and as wide as they may be spread
};

/// A symbol with the clear zone that it needs on all sides; (0, 0) is the corner of that.
struct CodeSymbol {
    std::string text; ///< what a reader reads: all digits of a barcode, or the words
    double width = 0, height = 0;
    Rect symbol; ///< without the clear zone; of a barcode its bars and digits
    Path bars;   ///< contours that do not touch each other along an edge
    std::vector<CodeDigits> digits;
};

/// The symbol of a text. Of a barcode: 12 or 13 digits (UPC-A: 11 or 12), blanks and hyphens between them
/// left out; the check digit is worked out where it is missing and verified where it is there. QR: any text
/// up to 2,953 bytes, with error correction M or better where it fits. The error says what is wrong with the
/// text.
[[nodiscard]] Result<CodeSymbol> codeSymbol(CodeKind kind, std::string_view text);

/// The check digit behind those digits: weights 3 and 1 from the right (GS1 General Specifications, 7.9).
int checkDigit(std::string_view digits);

} // namespace glyptos
