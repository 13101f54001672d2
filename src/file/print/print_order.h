// What of a piece is printed, as all print files are asked for it.
#pragma once

#include "base/error.h"
#include "file/data_folder.h"
#include "render/fit/code_verdicts.h"

#include <span>

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
    std::vector<std::string> notes = {}; ///< what is doubtful of its codes, a sentence each

    double mostInk() const;
    int outlinedTexts() const;
};

/// The piece, and the sheets that are wanted of it. Fails when there is no such piece or sheet, or when it is
/// not measured in mm.
struct PrintOrder {
    PiecePtr piece;
    std::vector<size_t> sheets;
};
[[nodiscard]] Result<PrintOrder> printOrder(const Release& release, const std::string& piece,
                                            const PrintOptions& options);

/// Reads the codes on those sheets back. Fails at the first that must not be printed as it is; else tells
/// what is doubtful.
[[nodiscard]] Result<std::vector<std::string>> readBackCodes(Renderer& renderer, const ReleasePtr& release,
                                                             const PrintOrder& order,
                                                             const std::atomic<bool>* cancel);

} // namespace glyptos
