// The sheets of a piece as pictures in press inks.
#pragma once

#include "file/print/print_order.h"
#include "render/renderer.h"

#include <filesystem>

namespace glyptos {

/// Writes a TIFF (revision 6.0) with one CMYK picture of 8 bits a sheet: art with its bleed, cut where it
/// prints, no marks, at its resolution, with the press profile; packed by Deflate. Words are pixels. Only for
/// pieces measured in mm. On failure nothing is left behind.
[[nodiscard]] Result<PrintReport> writePrintTiff(Renderer& renderer, const ReleasePtr& release,
                                                 const std::string& piece, const PrintOptions& options,
                                                 const std::filesystem::path& file);

} // namespace glyptos
