// Sheets of a piece on the paper of a home printer: several on one where they fit, in tiles where not.
#pragma once

#include "form/flat.h"

namespace glyptos {

/// Which edge the printer turns the paper over; None: one side alone is printed.
enum class Duplex : unsigned char { None, LongEdge, ShortEdge };

/// Upright paper, mm.
struct HomePaper {
    double width = 210, height = 297;
    double margin = 6;   ///< that printers leave bare
    double overlap = 10; ///< of tiles, to be glued
    Duplex duplex = Duplex::None;
    int copies = 1; ///< of each sheet
};
inline constexpr HomePaper kA4{210, 297}, kLetter{215.9, 279.4};

/// One sheet, or a part of it, on a page.
struct HomePlaced {
    size_t sheet = 0;
    Affine flatToPaper; ///< mm to mm, y down; a quarter or half turn, never larger or smaller
    Rect clip;          ///< on the paper: nothing of it shows outside
};

struct HomePage {
    std::vector<HomePlaced> placed;
    bool back = false; ///< the other side of the page before it
    /// Of tiles: row and column from 1, and of how many; nothing for whole sheets.
    struct Tile {
        int row = 1, column = 1, rows = 1, columns = 1;
    };
    std::optional<Tile> tile;
};

/// Band at the foot of the paper for the ruler that proves the scale.
inline constexpr double kRulerBand = 10; // mm
/// Round each sheet with its bleed, for crop marks.
inline constexpr double kHomeMarks = 4; // mm

/// The part of the paper on which sheets stand.
Rect homeArea(const HomePaper& paper);

/// The pages in the order in which they are printed. Sheets that fit are packed in rows, several
/// copies turned where more of them then fit beside each other; larger ones are cut into tiles that overlap,
/// turned where that takes fewer. With both sides, each page is followed by its back, on which the other
/// sides lie exactly behind.
std::vector<HomePage> planHome(const Flat& flat, const std::vector<size_t>& sheets, const HomePaper& paper);

} // namespace glyptos
