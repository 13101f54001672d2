// Internal to dieline: what the readers of PDF and SVG share.
#pragma once

#include "file/dieline/printers_sheet.h"

#include <stdexcept>

namespace glyptos {

inline constexpr double kDielineTolerance = 0.02; // mm, of curves as lines
inline constexpr size_t kMostDielinePoints = 500'000;

/// Why a file is not read, as the end of a sentence.
struct NoSheet : std::runtime_error {
    using std::runtime_error::runtime_error;
};

/// Adds the contours of a path in mm.
void addLines(PrintersSheet& sheet, const Path& mm, const std::string& name, size_t& points);

/// These throw NoSheet.
PrintersSheet readPdfSheet(std::span<const uint8_t> bytes, size_t page);
PrintersSheet readSvgSheet(std::span<const uint8_t> bytes);

} // namespace glyptos
