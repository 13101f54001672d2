// What an artist sets by hand at one place of a text: a pair's kerning, a line's leading, a letter's pose,
// the start on a circle or a line.
#pragma once

#include "type/text_spec.h"

#include <optional>

namespace glyptos {

/// Space added before the character at a byte, em.
double kernAt(const TextSpec& spec, size_t byte);
/// 0: none is added there.
TextSpec withKern(TextSpec spec, size_t byte, double em);

/// Of the line from one byte up to another, em of its largest letters.
double leadingOf(const TextSpec& spec, size_t from, size_t to);
/// That line alone; the leading of the text takes it back to what all lines have.
TextSpec withLeading(TextSpec spec, size_t from, size_t to, double em);

/// Where it stands by itself, without one.
LetterPose poseAt(const TextSpec& spec, size_t byte);
TextSpec withPose(TextSpec spec, const LetterPose& pose);

/// Where words start on the baseline of a circle or a line; other frames have no such place.
std::optional<Vec2> startOf(const TextFrame& frame);
/// The start at the place that is nearest to a point.
TextFrame withStart(TextFrame frame, Vec2 near);

} // namespace glyptos
