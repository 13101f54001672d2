// Internal to type: where a segment may break, and lines filled out to their measure.
#pragma once

#include "type/glyph_run.h"
#include "type/hyphenator.h"
#include "type/lines/line_breaks.h"

namespace glyptos {

/// With the advances of the letters, by the rules that a spec asks for.
std::vector<BreakPlace> placesOf(const Segment& segment, const TextSpec& spec, Shaper& shaper,
                                 LineBreaker& breaker, const Hyphenator& hyphenator);

size_t leadingSpaces(const Segment& segment);
/// The end of a line's letters, without the spaces before `to`.
size_t lettersEnd(const Segment& segment, size_t from, size_t to);

/// Widens the gaps between words so that the line is as wide as its measure; gaps that would be more than
/// twice as wide again leave up to 3 % of an em a letter to the spaces between letters. A line without gaps
/// stays as it is.
void justify(std::vector<ShapedGlyph>& line, double measure, const TextSpec& spec);

/// How far marks at the ends of a line stand out: after Hàn Thế Thành, “Micro-typographic extensions to the
/// TeX typesetting system” (2000), by the kind of the mark as a share of its advance.
struct Hang {
    double left = 0, right = 0;
};
Hang hangOf(const std::vector<ShapedGlyph>& line, const Segment& segment);

} // namespace glyptos
