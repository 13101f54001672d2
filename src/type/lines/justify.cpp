#include "type/lines/justify.h"

#include <algorithm>
#include <iterator>
#include <unicode/uchar.h>

namespace glyptos {
namespace {

constexpr char16_t kSoftHyphen = 0xad;

bool isGap(char16_t c) {
    return c == u' ' || c == 0x3000;
}

/// Of a mark, the share of its advance that stands beyond the edge.
double hangShare(char16_t c) {
    switch (c) {
    case u'.':
    case u',':
    case u'-':
    case 0x2010:
        return 0.7;
    case u'“':
    case u'”':
    case u'„':
    case u'‘':
    case u'’':
    case u'‚':
    case u'"':
    case u'\'':
    case u'«':
    case u'»':
    case u'‹':
    case u'›':
        return 0.8;
    case u':':
    case u';':
    case u'!':
    case u'?':
    case u'–':
        return 0.4;
    case u'—':
    case u'(':
    case u')':
        return 0.25;
    default:
        return 0;
    }
}

/// Units of the words, between what is not a letter.
template <class Word>
void eachWord(const std::u16string& units, Word word) {
    for (size_t at = 0; at < units.size();) {
        const auto isLetter = [&](size_t i) { return u_isalpha(units[i]) || U16_IS_SURROGATE(units[i]); };
        const size_t from = at;
        while (at < units.size() && isLetter(at)) ++at;
        if (at > from) word(from, at);
        while (at < units.size() && !isLetter(at)) ++at;
    }
}

} // namespace

size_t leadingSpaces(const Segment& segment) {
    return size_t(std::find_if_not(segment.units.begin(), segment.units.end(), isGap) -
                  segment.units.begin());
}

size_t lettersEnd(const Segment& segment, size_t from, size_t to) {
    while (to > from && isGap(segment.units[to - 1])) --to;
    return to;
}

std::vector<BreakPlace> placesOf(const Segment& segment, const TextSpec& spec, Shaper& shaper,
                                 LineBreaker& breaker, const Hyphenator& hyphenator) {
    const std::vector<double> before = shaper.advances(segment);
    const size_t n = segment.units.size(), start = leadingSpaces(segment);
    std::vector<double> gaps(n + 1, 0);
    for (size_t i = 0; i < n; ++i)
        gaps[i + 1] = gaps[i] + (isGap(segment.units[i]) ? before[i + 1] - before[i] : 0);
    const auto trackingAt = [&](size_t unit) {
        const LetterStyle& style = styleOf(spec, segment.style[unit]);
        return style.tracking / 1000 * style.size;
    };
    std::vector<BreakPlace> out;
    const auto add = [&](size_t at, bool divides) {
        const size_t end = lettersEnd(segment, start, at);
        if (end <= start && at < n) return;
        BreakPlace place;
        place.at = at, place.divides = divides;
        place.end = before[end] - before[start];
        place.end += divides ? shaper.hyphenAdvance(segment, at - 1) : end > start ? -trackingAt(end - 1) : 0;
        place.next = before[at] - before[start];
        place.spaces = gaps[end] - gaps[start], place.nextSpaces = gaps[at] - gaps[start];
        out.push_back(place);
    };
    const std::string& language = spec.letters.language;
    for (const size_t at : breaker.opportunities(segment.units, language)) {
        const bool isAtSpace = at == n || isGap(segment.units[at - 1]);
        if (!spec.breakAtSpaces || isAtSpace) add(at, at < n && segment.units[at - 1] == kSoftHyphen);
    }
    if (out.empty() || out.back().at != n) add(n, false);
    if (!spec.hyphenate) return out;
    eachWord(segment.units, [&](size_t from, size_t to) {
        const std::u16string_view word = std::u16string_view(segment.units).substr(from, to - from);
        const std::string& own = styleOf(spec, segment.style[from]).language;
        for (const size_t division : hyphenator.divisions(word, own)) add(from + division, true);
    });
    std::sort(out.begin(), out.end(), [](const BreakPlace& a, const BreakPlace& b) { return a.at < b.at; });
    const auto same = std::unique(out.begin(), out.end(),
                                  [](const BreakPlace& a, const BreakPlace& b) { return a.at == b.at; });
    out.erase(same, out.end());
    return out;
}

void justify(std::vector<ShapedGlyph>& line, double measure, const TextSpec& spec) {
    constexpr double kMostWider = 2, kLetterEm = 0.03;
    double width = 0, gaps = 0;
    size_t letters = 0, spaces = 0;
    for (size_t i = 0; i < line.size(); ++i) {
        width += line[i].advance;
        if (line[i].isSpace)
            ++spaces, gaps += line[i].advance;
        else if (i + 1 < line.size())
            ++letters;
    }
    if (spaces == 0 || letters == 0) return;
    const LetterStyle& last = styleOf(spec, line.back().style);
    double extra = measure - (width - last.tracking / 1000 * last.size);
    double byLetter = 0;
    if (extra > gaps * kMostWider)
        byLetter = std::min((extra - gaps * kMostWider) / double(letters), kLetterEm * spec.letters.size);
    extra -= byLetter * double(letters);
    for (size_t i = 0; i < line.size(); ++i) {
        if (line[i].isSpace)
            line[i].advance += extra / double(spaces);
        else if (i + 1 < line.size())
            line[i].advance += byLetter;
    }
}

Hang hangOf(const std::vector<ShapedGlyph>& line, const Segment& segment) {
    const auto share = [&](const ShapedGlyph& g) { return hangShare(segment.units[g.unit]) * g.advance; };
    if (line.size() < 2) return {};
    return {share(line.front()), share(line.back())};
}

} // namespace glyptos
