// The print file: one page with the flat of a piece, in press inks.
#pragma once

#include "base/error.h"
#include "file/data_folder.h"
#include "render/renderer.h"

#include <filesystem>
#include <span>
#include <string>

namespace glyptos {

struct PrintOptions {
    double ppi = 0;        ///< of the art; 0: the form's own
    double inkLimit = 3.3; ///< largest total of the four inks, 1 = 100 %
    std::span<const uint8_t> pressProfile = pressProfileBytes(); ///< ICC profile of four inks
    const std::atomic<bool>* cancel = nullptr;                   ///< stops the work once true
};

/// What the file holds, for the artist.
struct PrintReport {
    double trimWidthMm = 0, trimHeightMm = 0;
    double bleedMm = 0;
    double ppi = 0;
    double mostInk = 0;    ///< largest total found, 1 = 100 %
    int outlinedTexts = 0; ///< text layers kept as outlines
    uintmax_t bytes = 0;
};

/// Writes a PDF 1.6 with one page: MediaBox round the marks, BleedBox, TrimBox at exact sizes; art as one
/// DeviceCMYK image; opaque words in front of everything else as outlines, pure black ones in black ink only;
/// crop and fold marks in all inks, outside the bleed; the press profile as output intent. Art is cut at the
/// bleed and holds no guide lines. Only for pieces measured in mm. On failure nothing is left behind.
[[nodiscard]] Result<PrintReport> writePrintPdf(Renderer& renderer, const ReleasePtr& release,
                                                const std::string& piece, const PrintOptions& options,
                                                const std::filesystem::path& file);

} // namespace glyptos
