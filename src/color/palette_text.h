// Palettes as text, in two open forms: CSS variables ("--low-water: #1e7a6c;") and lines of "r g b name".
#pragma once

#include "base/error.h"
#include "color/color.h"

#include <string>
#include <string_view>
#include <vector>

namespace glyptos {

struct NamedColour {
    std::string name;
    Rgba colour;
    bool operator==(const NamedColour&) const = default;
};

/// A `:root` rule of one custom property a colour. Blanks in names become hyphens; a name that is there
/// already gets a number.
std::string paletteAsCss(const std::vector<NamedColour>& colours);
/// One line a colour: red, green and blue from 0 to 255, and its name. Alpha is left out.
std::string paletteAsLines(const std::vector<NamedColour>& colours);

/// The palette in a text of either form. CSS values may be hexadecimal or rgb(); other properties are passed
/// over. In lines, empty ones and those that start with # are passed over. Fails when there is no colour in
/// it, or a line that is none; `name` is for the message.
Result<std::vector<NamedColour>> paletteFromText(std::string_view text, const std::string& name);

} // namespace glyptos
