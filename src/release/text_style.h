// How words of one kind look on all pieces: "Track title". Layers follow a style figure by figure: where they
// have what the style has, they change with it; what they have otherwise is their own.
#pragma once

#include "color/ink.h"
#include "form/form.h"
#include "type/text_spec.h"

#include <string>
#include <vector>

namespace glyptos {

struct TextContent;

/// What a style settles. The size is in mm on paper; screens count 300 px to the inch.
struct TextLook {
    LetterStyle letters;
    double leading = 1.2;
    Align align = Align::Left;
    bool hyphenate = false;
    Ink colour{1, 1, 1, 1};
    bool operator==(const TextLook&) const = default;
};

struct TextStyle {
    std::string id, name;
    std::string base; ///< the style it is based on; empty: none
    TextLook look;
    std::string spot = {}; ///< the swatch in whose ink its words print; empty: as their colours say
    bool operator==(const TextStyle&) const = default;
};

enum class LookPart : unsigned char {
    Family,
    Style,
    Size,
    Tracking,
    Shift,
    Kerning,
    Case,
    Language,
    Features,
    Axes,
    Leading,
    Align,
    Hyphens,
    Colour
};

/// Units of a panel in one mm.
double panelUnitsPerMm(Unit unit);

TextLook lookOf(const TextContent& text, Unit unit);
/// The text with that look; its runs stay as they are, in their sizes against the rest.
void setLook(TextContent& text, const TextLook& look, Unit unit);

/// The letters of a track list with that paint (track_listing.h) follow a style, in its colour; without one
/// they look as the titles do.
void setTrackLetters(TextContent& text, int paint, const TextStyle* style, Unit unit);

/// In what two looks differ; sizes and spaces as far as one could see it.
std::vector<LookPart> differences(const TextLook& a, const TextLook& b);
/// `own` where it differs from `before`, otherwise `after`.
TextLook followed(TextLook own, const TextLook& before, const TextLook& after);
/// Styles to begin with, sizes for a 120 mm cover: title and artist in one face, track titles, figures and
/// small print in the other, the last based on the track titles. Ids are left to whoever takes them; `base`
/// is a name.
std::vector<TextStyle> startingStyles(const LetterStyle& head, const LetterStyle& text, const Ink& colour);

} // namespace glyptos
