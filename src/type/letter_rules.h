// Internal to type: letters that leave their places by a rule or by hand.
#pragma once

#include "type/letter_places.h"

namespace glyptos {

/// Moves the letters as the spec's rules say, one rule after the other, then as was done by hand.
void moveLetters(const TextSpec& spec, const Layout& layout, std::vector<PlacedLetter>& letters);

} // namespace glyptos
