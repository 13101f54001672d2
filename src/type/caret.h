// Where the caret stands between letters, and which place in the text a point means.
#pragma once

#include "type/paragraph.h"

#include <array>

namespace glyptos {

/// In the paragraph's own units.
struct CaretPlace {
    Vec2 top, bottom; ///< at the height of the line's letters
    size_t line = 0;
    double x = 0; ///< from the line's left end, of straight lines from the anchor
};

/// Before the character at a byte, or at the end of the text. In the middle of a ligature it stands at its
/// share. Nothing where the text has no room in its frame.
std::optional<CaretPlace> caretAt(const Paragraph& set, const std::string& text, size_t byte);

/// The place in the text that is nearest to a point.
size_t byteAt(const Paragraph& set, const std::string& text, Vec2 point);

/// The place on the line above (-1) or below (1) that is nearest to `x`; the first or last one of the text
/// where there is no such line.
size_t byteOnNextLine(const Paragraph& set, const std::string& text, size_t byte, int step, double x);

/// Where the line that a byte is on begins and ends, without the spaces that it was broken at.
std::pair<size_t, size_t> lineAround(const Paragraph& set, size_t byte);

/// Four corners round each letter from one byte up to another.
std::vector<std::array<Vec2, 4>> boxesBetween(const Paragraph& set, size_t from, size_t to);

} // namespace glyptos
