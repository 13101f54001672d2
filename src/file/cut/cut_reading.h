// Internal to cut: what the readers of SVG and DXF share.
#pragma once

#include "file/cut/cut_job.h"

#include <stdexcept>

namespace glyptos {

inline constexpr double kCutTolerance = 0.01; // mm, of curves as lines
inline constexpr double kLargestCutMm = 5000;
inline constexpr size_t kMostCutPoints = 1'000'000;

/// Why a file is not read, as the end of a sentence.
struct NotCut : std::runtime_error {
    using std::runtime_error::runtime_error;
};

/// The tool of a layer's or a group's name, whichever way it is written; nothing for other names.
std::optional<CutTool> toolNamed(std::string name);

/// These throw NotCut. Lines come in the file's own units.
CutJob readCutSvg(std::span<const uint8_t> bytes);
CutJob readCutDxf(std::span<const uint8_t> bytes);

} // namespace glyptos
