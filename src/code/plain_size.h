// How large codes are whose text is not known yet.
#pragma once

#include "code/code.h"

namespace glyptos {

/// In modules, with the clear zone: of every barcode, and of the QR code of a short address.
struct PlainSize {
    double width = 0, height = 0;
};
inline constexpr PlainSize kBarcodeSize{113, 78.58}, kShortQrSize{37, 37}; // 37.29 × 25.93 mm at 100 %
inline PlainSize plainSize(CodeKind kind) {
    return isBarcode(kind) ? kBarcodeSize : kShortQrSize;
}

} // namespace glyptos
