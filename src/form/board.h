// The board of a sheet as it is cut out: all panels and flaps in one, without holes and windows.
#pragma once

#include "form/flat.h"
#include "raster/stroke.h"

namespace glyptos {

/// Contours of the board of a sheet on the flat, holes too, each closed. Curves are lines within 0.001 units.
std::vector<Polyline> cutLines(const Flat& flat, size_t sheet);

/// Where that board is creased: the folds of the sheet, as far as they lie on it.
struct CreaseLine {
    Vec2 from, to;
    FoldKind kind = FoldKind::Mountain;
};
std::vector<CreaseLine> creaseLines(const Flat& flat, size_t sheet);

} // namespace glyptos
