// What of a piece is printed, as all print files are asked for it.
#pragma once

#include "base/error.h"
#include "color/profile.h"
#include "file/data_folder.h"
#include "render/fit/code_verdicts.h"

#include <span>

namespace glyptos {

/// Plates that a print file has besides those of the inks that its art asks for.
struct ExtraPlates {
    bool dieline = false; ///< “Cut” and “Crease”, lines that print over everything
    bool white = false;   ///< “White” under all art, for stock that is see-through or metal
};

struct PrintOptions {
    double ppi = 0;        ///< of the art; 0: the form's own
    double inkLimit = 3.3; ///< largest total of the four inks, 1 = 100 %
    std::span<const uint8_t> pressProfile = pressProfileBytes(); ///< ICC profile of four inks
    const std::atomic<bool>* cancel = nullptr;                   ///< stops the work once true
    std::vector<size_t> sheets = {};                             ///< in that order; none: all
    int64_t moment = 0; ///< seconds since 1970 at which it says that it was made; 0: now
    PressLook look = {};
    bool inPairs = false;     ///< a booklet's pages in printer's pairs
    double sharpen = 0;       ///< amount of sharpening for print (treatment “sharpen”); 0: none
    double richBlackFrom = 0; ///< pt of words from which black ones are of all inks; 0: none
    bool slug = false;        ///< names and measures, and a colour bar, outside the bleed
    ExtraPlates extra = {};   ///< not in a TIFF
};

/// What one page holds, for the artist.
struct PrintedPage {
    std::string sheet; ///< its name; empty where the piece has but one
    double trimWidthMm = 0, trimHeightMm = 0;
    double mostInk = 0;                 ///< largest total found, 1 = 100 %
    int outlinedTexts = 0;              ///< text layers kept as outlines
    std::vector<std::string> inks = {}; ///< that anything is printed in
    /// Of its pictures the one with the fewest pixels an inch, and how many; nothing: there is none.
    std::optional<std::pair<std::string, double>> coarsest = std::nullopt;
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

/// The piece as it is printed, a release that holds it, and the sheets that are wanted of it. Fails when
/// there is no such piece or sheet, when it is not measured in mm, or cannot be put in printer's pairs.
struct PrintOrder {
    ReleasePtr release;
    PiecePtr piece;
    std::vector<size_t> sheets;
};
[[nodiscard]] Result<PrintOrder> printOrder(const ReleasePtr& release, const std::string& piece,
                                            const PrintOptions& options);

/// The coarsest picture on a sheet: by its name, with its pixels an inch.
std::optional<std::pair<std::string, double>> coarsestOn(const PrintOrder& order, size_t sheet);

/// Reads the codes on those sheets back. Fails at the first that must not be printed as it is; else tells
/// what is doubtful.
[[nodiscard]] Result<std::vector<std::string>> readBackCodes(Renderer& renderer, const PrintOrder& order,
                                                             const std::atomic<bool>* cancel);

} // namespace glyptos
