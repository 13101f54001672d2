// Sizes at which words have room.
#pragma once

#include "type/paragraph.h"

namespace glyptos {

/// With all letters made smaller by one factor, as large as can be, so that all of the text has room in its
/// frame; as it is when it has. Nothing when there is no such size down to a hundredth of its own.
std::optional<TextSpec> fittedToFrame(const TextSpec& spec, const FontLibrary& fonts);

/// With all letters made larger or smaller so that its widest line is `width` wide; nothing when there is no
/// ink, or `width` is not positive. Lines that break by themselves are measured unbroken.
std::optional<TextSpec> fittedToWidth(const TextSpec& spec, double width, const FontLibrary& fonts);

} // namespace glyptos
