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

/// What a swatch is printed in.
enum class Plate : unsigned char {
    Process, ///< the four inks of the press
    Own,     ///< an ink of its own, in place of the four
    Over     ///< an ink of its own over the four, which print as if it were not there: a varnish
};
inline constexpr const char* kPlateIds[] = {"process", "own", "over"};

/// One colour of the release's palette.
struct Swatch {
    std::string id; ///< unique in the palette
    std::string name;
    Rgba colour;
    Plate plate = Plate::Process;
    bool operator==(const Swatch&) const = default;
};

} // namespace glyptos
