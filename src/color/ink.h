// A colour that a layer has, which may follow one of the release's palette.
#pragma once

#include "color/color.h"

#include <string>
#include <vector>

namespace glyptos {

/// The colour as it is now, and the id of the swatch that it follows, or none. Changing the swatch changes
/// both (palette_edits.h), so whoever draws need not look it up.
struct Ink : Rgba {
    std::string swatch;

    Ink() = default;
    Ink(const Rgba& colour,
        std::string follows = {}) // NOLINT(google-explicit-constructor): a colour is an ink
        : Rgba(colour)
        , swatch(std::move(follows)) {}
    Ink(float red, float green, float blue, float alpha)
        : Rgba{red, green, blue, alpha} {}
    bool operator==(const Ink&) const = default;
};

/// One colour of the release's palette.
struct Swatch {
    std::string id; ///< unique in the palette
    std::string name;
    Rgba colour;
    bool operator==(const Swatch&) const = default;
};

} // namespace glyptos
