// What makes a PDF a PDF/X-4 (ISO 15930-7): output intent, identification, boxes.
#pragma once

#include "base/geometry.h"

#include <cstdint>
#include <qpdf/QPDF.hh>
#include <span>
#include <string>

namespace glyptos {

/// The press profile as the file's output intent; `condition` is its name in the registry of ICC (empty:
/// none, and the profile alone counts).
void addOutputIntent(QPDF& pdf, std::span<const uint8_t> profile, const std::string& description,
                     const std::string& condition);
/// Title, times and the PDF/X version, in the information dictionary and in XMP (ISO 16684-1) alike. `moment`
/// is seconds since 1970. The same title, moment and `seed` give the same ids.
void addIdentification(QPDF& pdf, const std::string& title, int64_t moment, const std::string& seed);
/// A rectangle in points.
QPDFObjectHandle pdfBox(const Rect& r);

} // namespace glyptos
