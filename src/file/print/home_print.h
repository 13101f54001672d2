// A piece for the printer at home.
#pragma once

#include "file/print/home_plan.h"
#include "file/print/print_order.h"

#include <filesystem>

namespace glyptos {

struct HomeOptions {
    HomePaper paper = kA4;
    std::vector<size_t> sheets = {}; ///< none: all
    double ppi = 0;                  ///< of the art; 0: the form's own
    const std::atomic<bool>* cancel = nullptr;
};

struct HomeReport {
    size_t pages = 0;
    size_t tiles = 0; ///< of those, that are parts of a larger sheet
    uintmax_t bytes = 0;
};

/// Writes a PDF 1.4 in sRGB, each page as large as the paper: the sheets as planHome() lays them, with crop
/// marks; a ruler of 100 mm on each front, by which the scale can be proved; tiles are numbered and their
/// overlap marked. Fails for pieces that are not measured in mm, and where tiles would overlap wholly. On
/// failure nothing is left behind.
[[nodiscard]] Result<HomeReport> writeHomePrint(Renderer& renderer, const ReleasePtr& release,
                                                const std::string& piece, const HomeOptions& options,
                                                const std::filesystem::path& file);

} // namespace glyptos
