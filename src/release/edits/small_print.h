// The small print of a piece: lines of the brief in a style that stays small and legible.
#pragma once

#include "release/edits/edits.h"

namespace glyptos {

/// A text layer low on the left within the panel's safety line, beside the barcode's place: © and ℗ lines,
/// where it is made, the catalogue number and the credits of pictures, as fields. It follows the text style
/// of that name, which is made where there is none: 6.5 pt, the least that can be read out of a picture, in
/// `ink`.
[[nodiscard]] Made withSmallPrint(const ReleasePtr& release, const PanelRef& panel, const std::string& name,
                                  const Ink& ink);

} // namespace glyptos
