#include "type/paragraph.h"

#include "type/glyph_outline.h"
#include "type/letter_places.h"

#include <algorithm>

namespace glyptos {
namespace {

/// Draws the glyphs of one letter.
void draw(const LaidLine& line, const PlacedLetter& letter, const TextSpec& spec, Path& out) {
    for (size_t i = letter.first; i < letter.first + letter.count; ++i) {
        const auto& [glyph, x, from, to] = line.glyphs[i];
        const double size = styleOf(spec, glyph.style).size;
        const Affine place = letter.map * Affine::translation(x + glyph.offset.x, -glyph.offset.y) *
                             Affine::scaling(size, size);
        appendGlyph(*glyph.face, glyph.id, place, out);
    }
}

void drawAll(const TextSpec& spec, const Layout& layout, const std::vector<PlacedLetter>& letters,
             Paragraph& out) {
    const auto paintOf = [&](const PlacedLetter& letter) {
        return styleOf(spec, layout.lines[letter.line].glyphs[letter.first].glyph.style).paint;
    };
    const bool areAllAlike = std::all_of(letters.begin(), letters.end(), [&](const PlacedLetter& letter) {
        return paintOf(letter) == 0 && letter.opacity == 1;
    });
    constexpr size_t kVerbs = 20, kPoints = 50; // of a usual letter
    out.outline.reserve(letters.size() * kVerbs, letters.size() * kPoints);
    for (const PlacedLetter& letter : letters) {
        const LaidLine& line = layout.lines[letter.line];
        if (areAllAlike) {
            draw(line, letter, spec, out.outline);
            continue;
        }
        const int paint = paintOf(letter);
        auto ink = std::find_if(out.inks.begin(), out.inks.end(), [&](const InkedLetters& known) {
            return known.paint == paint && known.opacity == letter.opacity;
        });
        if (ink == out.inks.end()) ink = out.inks.insert(ink, {paint, letter.opacity, {}});
        draw(line, letter, spec, ink->outline);
    }
    for (const InkedLetters& ink : out.inks) out.outline.append(ink.outline, {});
}

Rect boxOfLines(const TextSpec& spec, const Layout& layout) {
    double left = 0, right = 0, bottom = 0;
    for (const LaidLine& line : layout.lines) {
        left = std::min(left, line.left), right = std::max(right, line.left + line.width);
        bottom = std::max(bottom, line.baseline + line.below);
    }
    return {left, 0, std::max(right - left, 0.1 * spec.letters.size),
            std::max(bottom, 0.1 * spec.letters.size)};
}

/// Of lines that bend or fill a shape: round all their letters.
Rect boxOfLetters(const std::vector<SetLetter>& letters, const TextSpec& spec) {
    Rect box;
    for (const SetLetter& letter : letters)
        box = box.united(letter.map.mapBounds(
            {0, -letter.above, std::max(letter.advance, 1e-9), letter.above + letter.below}));
    return box.empty() ? Rect{0, 0, spec.letters.size, spec.letters.size} : box;
}

SetLetter setLetter(const LaidLine& line, const PlacedLetter& letter) {
    SetLetter out;
    out.from = letter.from, out.to = letter.to, out.line = letter.line;
    out.map = letter.map * Affine::translation(letter.x, 0);
    out.advance = letter.advance, out.above = line.above, out.below = line.below;
    out.opacity = letter.opacity, out.isSpace = letter.isSpace,
    out.rightToLeft = line.glyphs[letter.first].glyph.rightToLeft;
    return out;
}

} // namespace

Paragraph setParagraph(const TextSpec& spec, const FontLibrary& fonts) {
    Paragraph out;
    const FacePtr face = fonts.face(spec.letters.family, spec.letters.style);
    if (!face) {
        out.box = {0, 0, spec.letters.size, spec.letters.size};
        return out;
    }
    out.usedFamily = face->family(), out.usedStyle = face->style();
    Layout layout = layLines(spec, fonts);
    const std::vector<PlacedLetter> letters = placeLetters(spec, layout);
    drawAll(spec, layout, letters, out);
    for (const LaidLine& line : layout.lines) {
        out.baselines.push_back(line.baseline);
        out.lines.push_back({line.from, line.to, line.baseline, line.left, line.width, line.divided});
    }
    out.letters.reserve(letters.size());
    for (const PlacedLetter& letter : letters)
        out.letters.push_back(setLetter(layout.lines[letter.line], letter));
    out.ascent = layout.lines.empty() ? face->ascentEm() * spec.letters.size : layout.lines.front().above;
    const bool isStraight = std::holds_alternative<AtPoint>(spec.frame) ||
                            std::holds_alternative<InArea>(spec.frame) ||
                            std::holds_alternative<InTable>(spec.frame);
    out.box = isStraight ? boxOfLines(spec, layout) : boxOfLetters(out.letters, spec);
    out.ink = out.outline.bounds();
    out.shown = layout.shown;
    out.stoodIn.assign(layout.stoodIn.begin(), layout.stoodIn.end());
    out.unprintable.assign(layout.unprintable.begin(), layout.unprintable.end());
    return out;
}

} // namespace glyptos
