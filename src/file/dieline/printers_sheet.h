// A printer's own sheet, as plants send it: PDF or SVG, with lines on layers or in inks that say what they
// are for.
#pragma once

#include "base/error.h"
#include "form/dieline.h"

#include <cstdint>
#include <span>

namespace glyptos {

struct PrintersSheet {
    std::string name;             ///< of the file
    double width = 0, height = 0; ///< mm
    std::vector<DielineLine> lines;
    size_t pages = 1;
    std::string format;         ///< "pdf" or "svg"
    std::vector<uint8_t> bytes; ///< a file of the page that was read alone
};

/// Reads one page, counted from 0. Lines are stroked paths, curves within 0.02 mm; of a PDF with the ink they
/// are stroked in (a separation's name) or the layer they are on, of an SVG with the id, label or class of
/// the nearest group that says what they are for. Files over 64 MB, locked or damaged ones, a page that is
/// not there and one on which no line is drawn are refused with a sentence.
[[nodiscard]] Result<PrintersSheet> readPrintersSheet(std::span<const uint8_t> bytes, const std::string& name,
                                                      size_t page = 0);

} // namespace glyptos
