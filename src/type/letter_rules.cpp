#include "type/letter_rules.h"

#include "raster/noise.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace glyptos {
namespace {

/// What happens to a letter about the middle of its advance on the baseline; lengths of the panel.
struct Move {
    Vec2 off;
    double turn = 0, scale = 1, opacity = 1;
};

void apply(const Move& move, PlacedLetter& letter) {
    const double middle = letter.x + letter.advance / 2;
    letter.map = letter.map * Affine::translation(middle + move.off.x, move.off.y) *
                 Affine::rotation(move.turn) * Affine::scaling(move.scale, move.scale) *
                 Affine::translation(-middle, 0);
    letter.opacity *= move.opacity;
}

/// Even from -1 to 1, by seed, letter and what it is for.
double chance(unsigned seed, size_t letter, int use) {
    return 2 * double(hashNoise(int32_t(letter), use, seed)) - 1;
}

/// A letter's place among those that can be seen.
struct Standing {
    size_t ofText = 0, inText = 0; ///< which of how many
    size_t ofLine = 0;
    double share = 0; ///< of the way from the line's left end to its right one
    double width = 0; ///< of the line
};

Move moveOf(const LetterRule& rule, const Standing& s, double size) {
    const double last = s.inText > 1 ? double(s.ofText) / double(s.inText - 1) : 0;
    Move out;
    switch (rule.kind) {
    case LetterRule::Kind::Wave:
        if (rule.period > 0)
            out.off.y = -rule.rise * size * std::sin(2 * std::numbers::pi * double(s.ofLine) / rule.period);
        break;
    case LetterRule::Kind::Arc: {
        const double u = 2 * s.share - 1;
        out.off.y = -rule.rise * size * (1 - u * u);
        if (s.width > 0) out.turn = std::atan(4 * rule.rise * size * u / s.width) * 180 / std::numbers::pi;
        break;
    }
    case LetterRule::Kind::Falling:
        out.off.y = rule.rise * size * last;
        out.turn = rule.turn * last;
        out.opacity = 1 - rule.fade * last;
        break;
    case LetterRule::Kind::Chance:
        out.off = {rule.rise * size * chance(rule.seed, s.ofText, 0) / 2,
                   rule.rise * size * chance(rule.seed, s.ofText, 1)};
        out.turn = rule.turn * chance(rule.seed, s.ofText, 2);
        out.scale = std::max(1 + rule.spread * chance(rule.seed, s.ofText, 3), 0.01);
        break;
    }
    return out;
}

double sizeOf(const TextSpec& spec, const Layout& layout, const PlacedLetter& letter) {
    return styleOf(spec, layout.lines[letter.line].glyphs[letter.first].glyph.style).size;
}

} // namespace

void moveLetters(const TextSpec& spec, const Layout& layout, std::vector<PlacedLetter>& letters) {
    if (spec.rules.empty() && spec.poses.empty()) return;
    const auto isSeen = [](const PlacedLetter& letter) { return !letter.isSpace; };
    Standing standing;
    standing.inText = size_t(std::count_if(letters.begin(), letters.end(), isSeen));
    size_t line = 0;
    for (PlacedLetter& letter : letters) {
        if (!isSeen(letter)) continue;
        if (letter.line != line) standing.ofLine = 0, line = letter.line;
        standing.width = layout.lines[line].width;
        standing.share = standing.width > 0 ? (letter.x + letter.advance / 2) / standing.width : 0.5;
        const double size = sizeOf(spec, layout, letter);
        for (const LetterRule& rule : spec.rules) apply(moveOf(rule, standing, size), letter);
        for (auto pose = firstMark(spec.poses, letter.from); pose != spec.poses.end() && pose->at < letter.to;
             ++pose)
            apply({pose->offEm * size, pose->turn, pose->scale, pose->opacity}, letter);
        ++standing.ofText, ++standing.ofLine;
    }
}

} // namespace glyptos
