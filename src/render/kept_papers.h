// Cut paper as shapes.
#pragma once

#include "release/release.h"
#include "treat/kind.h"

namespace glyptos {

/// The papers that the treatment cut-paper with these figures makes of `before`, as shapes of one colour
/// each, the lightest first (in front). `place` is that of `before`, whose px its toOutput leads to; curves
/// stay within half of those. Fewer than its papers when one would show nothing.
std::vector<Layer> papersOf(const Planes& before, const Figures& cutPaper, const Place& place);

} // namespace glyptos
