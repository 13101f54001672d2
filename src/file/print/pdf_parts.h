// Internal to file: objects that our PDFs are made of.
#pragma once

#include "base/geometry.h"
#include "color/color.h"

#include <atomic>
#include <qpdf/QPDF.hh>
#include <span>
#include <string>
#include <vector>

namespace glyptos {

/// A picture of 8 bits a sample in that colour space, packed by Deflate on all cores.
QPDFObjectHandle pdfPicture(QPDF& pdf, std::span<const uint8_t> samples, const IntRect& area,
                            const QPDFObjectHandle& space, const std::atomic<bool>* cancel);

/// One ink as a colour space (ISO 32000-1, 8.6.6.4): what it looks like in the four is for screens alone.
QPDFObjectHandle pdfSeparation(const std::string& name, const Cmyk& look);

/// The finished file, made in memory, since the writer does not notice a disk that is full.
std::vector<uint8_t> pdfBytes(QPDF& pdf, const char* version);

} // namespace glyptos
