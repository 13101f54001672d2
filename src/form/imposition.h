// The pages of a booklet as the printer folds and staples them.
#pragma once

#include "form/flat.h"

namespace glyptos {

/// Places of the panels of a `bound` form in the order in which they are read, the front first and the back
/// last.
std::vector<size_t> readingOrder(const Flat& flat);

/// The flat of a `bound` form with its pages in printer's pairs: the last beside the first, the second beside
/// the one before the last, and so on, so that the sheets, printed on both sides, laid in each other and
/// folded, read in order. Fails for what is not bound in spreads of two pages of one size.
[[nodiscard]] Result<Flat> inPrintersPairs(const Flat& flat);

} // namespace glyptos
