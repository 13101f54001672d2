#include "type/caret.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <span>

namespace glyptos {
namespace {

/// Characters from one byte up to another.
size_t charactersIn(const std::string& text, size_t from, size_t to) {
    return size_t(std::count_if(text.begin() + ptrdiff_t(from),
                                text.begin() + ptrdiff_t(std::min(to, text.size())),
                                [](char c) { return (c & 0xc0) != 0x80; }));
}

/// At a share of a letter's advance, counted in the direction in which it is read.
CaretPlace caretOn(const SetLetter& letter, double share) {
    const double x = letter.advance * (letter.rightToLeft ? 1 - share : share);
    CaretPlace out;
    out.top = letter.map.map({x, -letter.above}), out.bottom = letter.map.map({x, letter.below});
    out.line = letter.line, out.x = letter.map.map({x, 0}).x;
    return out;
}

/// Leaders stand for no characters.
bool isText(const SetLetter& letter) {
    return letter.from < letter.to;
}

size_t lineOf(const Paragraph& set, size_t byte) {
    // Where a line was broken the place belongs to the line that follows.
    const auto next = std::upper_bound(set.lines.begin(), set.lines.end(), byte,
                                       [](size_t b, const SetLine& line) { return b < line.from; });
    return next == set.lines.begin() ? 0 : size_t(next - set.lines.begin()) - 1;
}

std::span<const SetLetter> lettersOf(const Paragraph& set, size_t line) {
    const auto isBefore = [](const SetLetter& letter, size_t l) { return letter.line < l; };
    const auto first = std::lower_bound(set.letters.begin(), set.letters.end(), line, isBefore),
               end = std::lower_bound(first, set.letters.end(), line + 1, isBefore);
    return {first, end};
}

/// Where the line itself is: for lines without letters, and behind the last one.
CaretPlace caretOnLine(const Paragraph& set, size_t line) {
    const SetLine& l = set.lines[line];
    CaretPlace out;
    out.top = {l.left, l.baseline - set.ascent}, out.bottom = {l.left, l.baseline + set.ascent / 4};
    out.line = line, out.x = l.left;
    return out;
}

size_t nearestOnLine(const Paragraph& set, const std::string& text, size_t line, double x) {
    size_t best = set.lines[line].from;
    double least = std::numeric_limits<double>::infinity();
    const auto look = [&](size_t byte) {
        const auto place = caretAt(set, text, byte);
        if (!place || place->line != line || std::abs(place->x - x) >= least) return;
        least = std::abs(place->x - x), best = byte;
    };
    for (const SetLetter& letter : lettersOf(set, line))
        if (isText(letter)) look(letter.from);
    look(set.lines[line].to);
    return best;
}

} // namespace

std::optional<CaretPlace> caretAt(const Paragraph& set, const std::string& text, size_t byte) {
    if (set.lines.empty() || byte > set.shown) return std::nullopt;
    const size_t line = lineOf(set, byte);
    const SetLetter* before = nullptr;
    for (const SetLetter& letter : lettersOf(set, line)) {
        if (!isText(letter)) continue;
        if (letter.from <= byte && byte < letter.to) {
            const double all = double(charactersIn(text, letter.from, letter.to));
            return caretOn(letter, all > 0 ? double(charactersIn(text, letter.from, byte)) / all : 0);
        }
        if (letter.to <= byte && (!before || letter.to > before->to)) before = &letter;
    }
    return before ? caretOn(*before, 1) : caretOnLine(set, line);
}

size_t byteAt(const Paragraph& set, const std::string& text, Vec2 point) {
    const SetLetter* nearest = nullptr;
    double least = std::numeric_limits<double>::infinity(), share = 0;
    for (const SetLetter& letter : set.letters) {
        const auto back = letter.map.inverse();
        if (!isText(letter) || !back) continue;
        const Vec2 own = back->map(point);
        const double beside = std::max({-own.x, own.x - letter.advance, 0.0}),
                     above = std::max({-letter.above - own.y, own.y - letter.below, 0.0});
        // A line further away counts more than a letter of the same line.
        const double away = std::hypot(beside, above * 4);
        if (away >= least) continue;
        least = away, nearest = &letter;
        share = letter.advance > 0 ? std::clamp(own.x / letter.advance, 0.0, 1.0) : 0;
        if (letter.rightToLeft) share = 1 - share;
    }
    // Lines without letters.
    size_t line = set.lines.size();
    double height = nearest ? least : std::numeric_limits<double>::infinity();
    for (size_t i = 0; i < set.lines.size(); ++i) {
        const SetLine& l = set.lines[i];
        const double above = std::max({l.baseline - set.ascent - point.y, point.y - l.baseline, 0.0}) * 4;
        if (l.from == l.to && above < height) height = above, line = i;
    }
    if (line < set.lines.size()) return set.lines[line].from;
    if (!nearest) return 0;
    const size_t all = charactersIn(text, nearest->from, nearest->to);
    auto characters = size_t(std::lround(share * double(std::max<size_t>(all, 1))));
    size_t byte = nearest->from;
    for (; characters > 0 && byte < nearest->to; --characters) do
            ++byte;
        while (byte < nearest->to && (text[byte] & 0xc0) == 0x80);
    return byte;
}

size_t byteOnNextLine(const Paragraph& set, const std::string& text, size_t byte, int step, double x) {
    if (set.lines.empty()) return 0;
    const size_t line = lineOf(set, byte);
    if (step < 0 && line == 0) return 0;
    if (step > 0 && line + 1 >= set.lines.size()) return std::min(set.shown, text.size());
    return nearestOnLine(set, text, step < 0 ? line - 1 : line + 1, x);
}

std::pair<size_t, size_t> lineAround(const Paragraph& set, size_t byte) {
    if (set.lines.empty()) return {0, 0};
    const SetLine& line = set.lines[lineOf(set, byte)];
    return {line.from, line.to};
}

std::vector<std::array<Vec2, 4>> boxesBetween(const Paragraph& set, size_t from, size_t to) {
    std::vector<std::array<Vec2, 4>> out;
    for (const SetLetter& letter : set.letters) {
        if (!isText(letter) || letter.from >= to || letter.to <= from) continue;
        const double right = letter.advance;
        out.push_back({letter.map.map({0, -letter.above}), letter.map.map({right, -letter.above}),
                       letter.map.map({right, letter.below}), letter.map.map({0, letter.below})});
    }
    return out;
}

} // namespace glyptos
