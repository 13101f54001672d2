#include "release/text_style.h"

#include "base/units.h"
#include "release/release.h"
#include "type/text_edits.h"

#include <cmath>

namespace glyptos {
namespace {

bool same(double a, double b) {
    return std::abs(a - b) <= 1e-6 * std::max({std::abs(a), std::abs(b), 1e-3});
}
template <class T>
bool same(const T& a, const T& b) {
    return a == b;
}

/// Calls `visit(part, reach)` for each part, where `reach(look)` is that part of a look.
template <class Visit>
void eachPart(const Visit& visit) {
    visit(
        LookPart::Family, [](auto& l) -> auto& { return l.letters.family; });
    visit(
        LookPart::Style, [](auto& l) -> auto& { return l.letters.style; });
    visit(
        LookPart::Size, [](auto& l) -> auto& { return l.letters.size; });
    visit(
        LookPart::Tracking, [](auto& l) -> auto& { return l.letters.tracking; });
    visit(
        LookPart::Shift, [](auto& l) -> auto& { return l.letters.shift; });
    visit(
        LookPart::Kerning, [](auto& l) -> auto& { return l.letters.kerning; });
    visit(
        LookPart::Case, [](auto& l) -> auto& { return l.letters.letterCase; });
    visit(
        LookPart::Language, [](auto& l) -> auto& { return l.letters.language; });
    visit(
        LookPart::Features, [](auto& l) -> auto& { return l.letters.features; });
    visit(
        LookPart::Axes, [](auto& l) -> auto& { return l.letters.axes; });
    visit(
        LookPart::Leading, [](auto& l) -> auto& { return l.leading; });
    visit(
        LookPart::Align, [](auto& l) -> auto& { return l.align; });
    visit(
        LookPart::Hyphens, [](auto& l) -> auto& { return l.hyphenate; });
    visit(
        LookPart::Colour, [](auto& l) -> auto& { return l.colour; });
}

} // namespace

double panelUnitsPerMm(Unit unit) {
    return unit == Unit::Px ? pxPerMm({300}) : 1;
}

TextLook lookOf(const TextContent& text, Unit unit) {
    TextLook out{text.spec.letters, text.spec.leading, text.spec.align, text.spec.hyphenate, text.colour};
    out.letters.size /= panelUnitsPerMm(unit);
    out.letters.paint = 0;
    return out;
}

void setLook(TextContent& text, const TextLook& look, Unit unit) {
    const double size = look.letters.size * panelUnitsPerMm(unit), factor = size / text.spec.letters.size;
    for (TextRun& run : text.spec.runs) run.letters.size *= factor;
    text.spec.letters = look.letters;
    text.spec.letters.size = size;
    text.spec.leading = look.leading, text.spec.align = look.align, text.spec.hyphenate = look.hyphenate;
    text.colour = look.colour;
}

void setTrackLetters(TextContent& text, int paint, const TextStyle* style, Unit unit) {
    if (!text.tracks) return;
    TrackLetters& letters = *lettersOf(*text.tracks)[size_t(paint) - 1];
    letters = {};
    if (!style) return;
    letters = {style->id, style->look.letters};
    letters.letters->size *= panelUnitsPerMm(unit);
    if (text.colours.size() < size_t(paint)) text.colours.resize(size_t(paint), text.colour);
    text.colours[size_t(paint) - 1] = style->look.colour;
}

std::vector<LookPart> differences(const TextLook& a, const TextLook& b) {
    std::vector<LookPart> out;
    eachPart([&](LookPart part, const auto& reach) {
        if (!same(reach(a), reach(b))) out.push_back(part);
    });
    return out;
}

TextLook followed(TextLook own, const TextLook& before, const TextLook& after) {
    eachPart([&](LookPart, const auto& reach) {
        if (same(reach(own), reach(before))) reach(own) = reach(after);
    });
    return own;
}

std::vector<TextStyle> startingStyles(const LetterStyle& head, const LetterStyle& text, const Ink& colour) {
    const auto style = [&](const char* name, const char* base, LetterStyle letters, double mm,
                           double tracking, double leading) {
        letters.size = mm, letters.tracking = tracking, letters.paint = 0;
        return TextStyle{{}, name, base, {std::move(letters), leading, Align::Left, false, colour}};
    };
    LetterStyle figures = text;
    figures.features = {{"tnum", 1}};
    return {style("Title", "", head, 14, 0, 0.95), style("Artist", "", head, 5, 60, 1.1),
            style("Track title", "", text, 3.2, 0, 1.35),
            style("Track figures", "Track title", figures, 3.2, 0, 1.35),
            style("Small print", "Track title", text, 1.9, 10, 1.3)};
}

} // namespace glyptos
