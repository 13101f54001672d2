#include "type/segment.h"

#include <algorithm>
#include <unicode/casemap.h>
#include <unicode/edits.h>
#include <unicode/ubidi.h>
#include <unicode/uchar.h>
#include <unicode/uscript.h>
#include <unicode/utf16.h>
#include <unicode/utf8.h>

namespace glyptos {
namespace {

/// What is neither drawn nor needed to shape what is: controls, but not the joiners and marks of direction.
bool isLeftOut(UChar32 c) {
    return u_charType(c) == U_CONTROL_CHAR || c == 0xfeff;
}

struct Cased {
    std::u16string units;
    std::vector<size_t> from; ///< for each unit, and the end, the unit it was made of
};

/// The whole word decides about some letters (ß, final sigma), so a stretch of one style is changed at once.
Cased cased(const std::u16string& in, const LetterStyle& style) {
    Cased out;
    const auto asIs = [&] {
        out.units = in;
        for (size_t i = 0; i <= in.size(); ++i) out.from.push_back(i);
        return out;
    };
    if (style.letterCase == LetterCase::AsWritten || in.empty()) return asIs();
    icu::Edits edits;
    out.units.resize(in.size() * 3 + 8);
    UErrorCode code = U_ZERO_ERROR;
    const auto change =
        style.letterCase == LetterCase::Capitals ? icu::CaseMap::toUpper : icu::CaseMap::toLower;
    const int32_t size = change(style.language.c_str(), 0, in.data(), int32_t(in.size()), out.units.data(),
                                int32_t(out.units.size()), &edits, code);
    if (U_FAILURE(code)) return asIs();
    out.units.resize(size_t(size));
    auto spans = edits.getFineIterator();
    while (spans.next(code))
        for (int32_t i = 0; i < spans.newLength(); ++i)
            out.from.push_back(size_t(spans.sourceIndex() + std::min(i, std::max(spans.oldLength() - 1, 0))));
    out.from.push_back(in.size());
    return out;
}

/// Appends a stretch of one style.
void append(Segment& out, const TextSpec& spec, size_t from, size_t to, size_t style) {
    std::u16string units;
    std::vector<size_t> bytes;
    const auto* text = reinterpret_cast<const uint8_t*>(spec.text.data());
    for (size_t at = from; at < to;) {
        const size_t start = at;
        UChar32 c = 0;
        U8_NEXT(text, at, to, c);
        if (c < 0) c = 0xfffd;
        if (isLeftOut(c)) continue;
        char16_t two[2];
        int32_t n = 0;
        U16_APPEND_UNSAFE(two, n, c);
        units.append(two, size_t(n));
        bytes.insert(bytes.end(), size_t(n), start);
    }
    bytes.push_back(to);
    const Cased changed = cased(units, styleOf(spec, style));
    for (size_t i = 0; i < changed.units.size(); ++i) {
        out.source.push_back(bytes[changed.from[i]]);
        out.style.push_back(style);
    }
    out.units += changed.units;
}

/// The first run that ends behind a byte.
size_t firstRunBehind(const TextSpec& spec, size_t byte) {
    const auto at = std::upper_bound(spec.runs.begin(), spec.runs.end(), byte,
                                     [](size_t b, const TextRun& run) { return b < run.to; });
    return size_t(at - spec.runs.begin());
}

void appendAll(Segment& out, const TextSpec& spec, size_t from, size_t to) {
    size_t at = from;
    for (size_t i = firstRunBehind(spec, from); i < spec.runs.size() && spec.runs[i].from < to; ++i) {
        const TextRun& run = spec.runs[i];
        const size_t begin = std::clamp(run.from, at, to), end = std::clamp(run.to, begin, to);
        if (begin == end) continue;
        append(out, spec, at, begin, 0);
        append(out, spec, begin, end, i + 1);
        at = end;
    }
    append(out, spec, at, to, 0);
    out.source.push_back(to);
}

void findDirections(Segment& s) {
    UErrorCode code = U_ZERO_ERROR;
    s.bidi = std::shared_ptr<UBiDi>(ubidi_open(), ubidi_close);
    ubidi_setPara(s.bidi.get(), s.units.data(), int32_t(s.units.size()), UBIDI_DEFAULT_LTR, nullptr, &code);
    s.rightToLeft = U_SUCCESS(code) && (ubidi_getParaLevel(s.bidi.get()) & 1) != 0;
}

/// Scripts of all units: what has none of its own goes with what stands before it, or else after (UAX 24).
std::vector<hb_script_t> scriptsOf(const std::u16string& units) {
    std::vector<hb_script_t> out(units.size(), HB_SCRIPT_COMMON);
    hb_script_t last = HB_SCRIPT_COMMON;
    size_t undecided = 0;
    for (size_t at = 0; at < units.size();) {
        const size_t start = at;
        UChar32 c = 0;
        U16_NEXT(units.data(), at, units.size(), c);
        const hb_script_t own = hb_unicode_script(hb_unicode_funcs_get_default(), hb_codepoint_t(c));
        const bool isShared =
            own == HB_SCRIPT_COMMON || own == HB_SCRIPT_INHERITED || own == HB_SCRIPT_UNKNOWN;
        if (!isShared && last == HB_SCRIPT_COMMON)
            std::fill(out.begin() + long(undecided), out.begin() + long(start), own);
        if (!isShared) last = own;
        std::fill(out.begin() + long(start), out.begin() + long(at), last);
    }
    return out;
}

void cutIntoItems(Segment& s, const FaceFor& faceFor) {
    const std::vector<hb_script_t> scripts = scriptsOf(s.units);
    UErrorCode code = U_ZERO_ERROR;
    const UBiDiLevel* levels = s.units.empty() ? nullptr : ubidi_getLevels(s.bidi.get(), &code);
    FacePtr face;
    for (size_t at = 0; at < s.units.size();) {
        const size_t start = at;
        UChar32 c = 0;
        U16_NEXT(s.units.data(), at, s.units.size(), c);
        const bool isRightToLeft = levels && (levels[start] & 1) != 0;
        Item* last = s.items.empty() ? nullptr : &s.items.back();
        const bool goesOn = last && last->style == s.style[start];
        if (!clings(char32_t(c)))
            face = faceFor(s.style[start], char32_t(c));
        else if (!goesOn)
            face = faceFor(s.style[start], 0);
        if (goesOn && last->face == face && last->script == scripts[start] &&
            last->rightToLeft == isRightToLeft)
            last->to = at;
        else
            s.items.push_back({start, at, face, s.style[start], scripts[start], isRightToLeft});
    }
}

} // namespace

size_t styleAt(const TextSpec& spec, size_t byte) {
    const size_t i = firstRunBehind(spec, byte);
    return i < spec.runs.size() && spec.runs[i].from <= byte ? i + 1 : 0;
}

const LetterStyle& styleOf(const TextSpec& spec, size_t index) {
    return index == 0 ? spec.letters : spec.runs[index - 1].letters;
}

bool clings(char32_t c) {
    const auto category = hb_unicode_general_category(hb_unicode_funcs_get_default(), c);
    return c == ' ' || c == 0xa0 || category == HB_UNICODE_GENERAL_CATEGORY_NON_SPACING_MARK ||
           category == HB_UNICODE_GENERAL_CATEGORY_SPACING_MARK ||
           category == HB_UNICODE_GENERAL_CATEGORY_ENCLOSING_MARK ||
           category == HB_UNICODE_GENERAL_CATEGORY_FORMAT || category == HB_UNICODE_GENERAL_CATEGORY_CONTROL;
}

Segment segmentOf(const TextSpec& spec, size_t from, size_t to, const FaceFor& faceFor) {
    Segment out;
    appendAll(out, spec, from, to);
    findDirections(out);
    cutIntoItems(out, faceFor);
    return out;
}

std::vector<Item> Segment::seen(size_t from, size_t to) const {
    std::vector<Item> out;
    const auto take = [&](size_t first, size_t end, bool isRightToLeft) {
        std::vector<Item> cut;
        for (const Item& item : items)
            if (item.from < end && item.to > first) {
                cut.push_back(item);
                cut.back().from = std::max(item.from, first), cut.back().to = std::min(item.to, end);
                cut.back().rightToLeft = isRightToLeft;
            }
        if (isRightToLeft) std::reverse(cut.begin(), cut.end());
        out.insert(out.end(), cut.begin(), cut.end());
    };
    if (from >= to) return out;
    if (ubidi_getDirection(bidi.get()) == UBIDI_LTR) {
        take(from, to, false);
        return out;
    }
    UErrorCode code = U_ZERO_ERROR;
    const std::unique_ptr<UBiDi, decltype(&ubidi_close)> line(ubidi_open(), ubidi_close);
    ubidi_setLine(bidi.get(), int32_t(from), int32_t(to), line.get(), &code);
    const int32_t runs = ubidi_countRuns(line.get(), &code);
    if (U_FAILURE(code)) {
        take(from, to, rightToLeft);
        return out;
    }
    for (int32_t i = 0; i < runs; ++i) {
        int32_t start = 0, length = 0;
        const bool isRightToLeft = ubidi_getVisualRun(line.get(), i, &start, &length) == UBIDI_RTL;
        take(from + size_t(start), from + size_t(start + length), isRightToLeft);
    }
    return out;
}

std::vector<HardLine> hardLines(std::string_view text) {
    std::vector<HardLine> out;
    const auto* bytes = reinterpret_cast<const uint8_t*>(text.data());
    size_t from = 0;
    for (size_t at = 0; at < text.size();) {
        const size_t end = at;
        UChar32 c = 0;
        U8_NEXT(bytes, at, text.size(), c);
        const bool isHard = (c >= '\n' && c <= '\r') || c == 0x85 || c == 0x2028 || c == 0x2029;
        if (!isHard) continue;
        if (c == '\r' && at < text.size() && text[at] == '\n') ++at;
        out.push_back({from, end});
        from = at;
    }
    out.push_back({from, text.size()});
    return out;
}

} // namespace glyptos
