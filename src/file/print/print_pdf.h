// The print file: the sheets of a piece as pages, in press inks.
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
    std::vector<size_t> sheets = {};                             ///< in that order; none: all
    int64_t moment = 0; ///< seconds since 1970 at which it says that it was made; 0: now
};

/// What one page holds, for the artist.
struct PrintedPage {
    std::string sheet; ///< its name; empty where the piece has but one
    double trimWidthMm = 0, trimHeightMm = 0;
    double mostInk = 0;    ///< largest total found, 1 = 100 %
    int outlinedTexts = 0; ///< text layers kept as outlines
};

struct PrintReport {
    double bleedMm = 0;
    double ppi = 0;
    std::vector<PrintedPage> pages;
    uintmax_t bytes = 0;

    double mostInk() const;
    int outlinedTexts() const;
};

/// Writes a PDF/X-4 (ISO 15930-7) with one page a sheet: MediaBox round the marks, BleedBox and TrimBox at
/// exact sizes; art as one DeviceCMYK picture, cut where it prints; opaque words in front of everything else
/// as outlines, pure black ones in black ink only; crop and fold marks in all inks, outside the bleed; the
/// press profile as output intent. No guide line is in it. Only for pieces measured in mm. On failure nothing
/// is left behind.
[[nodiscard]] Result<PrintReport> writePrintPdf(Renderer& renderer, const ReleasePtr& release,
                                                const std::string& piece, const PrintOptions& options,
                                                const std::filesystem::path& file);

} // namespace glyptos
