// The print file: the sheets of a piece as pages, in press inks.
#pragma once

#include "file/print/print_order.h"
#include "render/renderer.h"

#include <filesystem>

namespace glyptos {

/// Writes a PDF/X-4 (ISO 15930-7) with one page a sheet: MediaBox round the marks, BleedBox and TrimBox at
/// exact sizes; art as one DeviceCMYK picture, cut where it prints; opaque words in front of everything else
/// as outlines, pure black ones in black ink only; crop and fold marks in all inks, outside the bleed; the
/// press profile as output intent. No guide line is in it. Only for pieces measured in mm. On failure nothing
/// is left behind.
[[nodiscard]] Result<PrintReport> writePrintPdf(Renderer& renderer, const ReleasePtr& release,
                                                const std::string& piece, const PrintOptions& options,
                                                const std::filesystem::path& file);

} // namespace glyptos
