// Internal to type: a stretch of text without hard breaks or tabs, made ready for shaping: cases applied, its
// directions worked out by the Unicode Bidirectional Algorithm (UAX 9), cut into items that one face can
// shape.
#pragma once

#include "type/font_library.h"
#include "type/text_spec.h"

#include <algorithm>
#include <functional>
#include <hb.h>
#include <span>

struct UBiDi;

namespace glyptos {

/// Units from `from` up to `to` that are shaped together.
struct Item {
    size_t from = 0, to = 0;
    FacePtr face;
    size_t style = 0; ///< see Segment::styles
    hb_script_t script = HB_SCRIPT_COMMON;
    bool rightToLeft = false;
};

struct Segment {
    std::u16string units;       ///< UTF-16, what cannot be seen left out
    std::vector<size_t> source; ///< for each unit, and the end, the byte of the text that it comes from
    std::vector<size_t> style;  ///< for each unit
    std::vector<Item> items;    ///< in the order of the text
    std::shared_ptr<UBiDi> bidi;
    bool rightToLeft = false; ///< as a whole

    bool empty() const { return units.empty(); }
    /// The items of a line of it in the order in which they are seen, cut to the line.
    std::vector<Item> seen(size_t from, size_t to) const;
};

/// The style that letters at a byte have, or would have.
size_t styleAt(const TextSpec& spec, size_t byte);

/// The first of marks, which are in the order of the text, at or behind a byte.
template <class Marks>
auto firstMark(const Marks& marks, size_t byte) {
    return std::lower_bound(marks.begin(), marks.end(), byte,
                            [](const auto& mark, size_t at) { return mark.at < at; });
}

/// 0: the letters of the spec, otherwise those of its run before that.
const LetterStyle& styleOf(const TextSpec& spec, size_t index);

/// Which face has a code point: that of the style, or a stand-in; for 0 that of the style.
using FaceFor = std::function<FacePtr(size_t style, char32_t codepoint)>;

/// From byte `from` up to `to` of the spec's text.
Segment segmentOf(const TextSpec& spec, size_t from, size_t to, const FaceFor& faceFor);

/// Characters that go with whatever stands before them, or show nothing.
bool clings(char32_t codepoint);

/// Bytes of `text` where a hard line ends and where the next begins; the last ends with the text.
struct HardLine {
    size_t from = 0, to = 0;
};
std::vector<HardLine> hardLines(std::string_view text);

} // namespace glyptos
