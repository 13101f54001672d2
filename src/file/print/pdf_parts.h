// Internal to file: objects that our PDFs are made of.
#pragma once

#include "base/error.h"
#include "base/geometry.h"
#include "color/color.h"

#include <atomic>
#include <filesystem>
#include <qpdf/QPDF.hh>
#include <span>
#include <string>

namespace glyptos {

/// A picture of 8 bits a sample in that colour space, packed by Deflate on all cores.
QPDFObjectHandle pdfPicture(QPDF& pdf, std::span<const uint8_t> samples, const IntRect& area,
                            const QPDFObjectHandle& space, const std::atomic<bool>* cancel);

/// One ink as a colour space (ISO 32000-1, 8.6.6.4): what it looks like in the four is for screens alone.
QPDFObjectHandle pdfSeparation(const std::string& name, const Cmyk& look);

/// Writes the finished file, wholly or not at all (atomic_file.h), and says how many bytes it has. What is
/// cut short by `cancel` is not written. Throws as QPDF does.
[[nodiscard]] Result<size_t> writePdf(QPDF& pdf, const char* version, const std::filesystem::path& file,
                                      const std::atomic<bool>* cancel);

} // namespace glyptos
