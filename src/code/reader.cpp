#include "code/reader.h"

#include <ZXing/ReadBarcode.h>

namespace glyptos {

std::optional<ReadCode> readCode(const uint8_t* grey, int width, int height) {
    if (width <= 0 || height <= 0) return std::nullopt;
    ZXing::DecodeHints hints;
    hints.setFormats(ZXing::BarcodeFormat::EAN13 | ZXing::BarcodeFormat::UPCA | ZXing::BarcodeFormat::QRCode);
    hints.setTryHarder(true);
    hints.setTryRotate(true);
    const ZXing::Result found = ZXing::ReadBarcode({grey, width, height, ZXing::ImageFormat::Lum}, hints);
    if (!found.isValid()) return std::nullopt;
    const auto format = found.format();
    return ReadCode{format == ZXing::BarcodeFormat::QRCode ? CodeKind::Qr
                    : format == ZXing::BarcodeFormat::UPCA ? CodeKind::UpcA
                                                           : CodeKind::Ean13,
                    found.text()};
}

} // namespace glyptos
