#include "type/text_edits.h"

#include "base/overloaded.h"

#include <algorithm>

namespace glyptos {
namespace {

template <class Mark>
void moveMarks(std::vector<Mark>& marks, size_t from, size_t to, size_t size) {
    std::erase_if(marks, [&](const Mark& m) { return m.at >= from && m.at < to; });
    for (Mark& m : marks)
        if (m.at >= to) m.at = m.at - (to - from) + size;
}

/// Runs in order, without gaps: what no run covers has the letters of the text.
std::vector<TextRun> covering(const TextSpec& spec) {
    std::vector<TextRun> out;
    size_t at = 0;
    for (const TextRun& run : spec.runs) {
        if (run.from > at) out.push_back({at, run.from, spec.letters});
        out.push_back(run);
        at = run.to;
    }
    if (at < spec.text.size()) out.push_back({at, spec.text.size(), spec.letters});
    return out;
}

std::vector<TextRun> tidied(const std::vector<TextRun>& all, const LetterStyle& rest) {
    std::vector<TextRun> out;
    for (const TextRun& run : all) {
        if (run.from >= run.to || run.letters == rest) continue;
        if (!out.empty() && out.back().to == run.from && out.back().letters == run.letters)
            out.back().to = run.to;
        else
            out.push_back(run);
    }
    return out;
}

void scale(std::vector<Contour>& contours, double factor) {
    for (Contour& contour : contours)
        for (PathNode& node : contour.nodes)
            for (Vec2* v : {&node.at, &node.before, &node.after}) *v = *v * factor;
}

} // namespace

TextSpec replaced(TextSpec spec, size_t from, size_t to, std::string_view by) {
    spec.text.replace(from, to - from, by);
    const bool isInsertion = from == to;
    for (TextRun& run : spec.runs) {
        const auto moved = [&](size_t at) { return at - (to - from) + by.size(); };
        if (run.from >= to && (isInsertion || run.from > from))
            run.from = moved(run.from);
        else if (run.from > from)
            run.from = from + by.size();
        if (run.to >= to && run.to > 0 && (run.to > from || isInsertion))
            run.to = moved(run.to);
        else if (run.to > from)
            run.to = from;
    }
    spec.runs = tidied(spec.runs, spec.letters);
    moveMarks(spec.kerns, from, to, by.size());
    moveMarks(spec.poses, from, to, by.size());
    moveMarks(spec.leadings, from, to, by.size());
    return spec;
}

TextSpec withText(TextSpec spec, std::string_view text) {
    const auto isInside = [](std::string_view s, size_t at) {
        return at < s.size() && (s[at] & 0xc0) == 0x80;
    };
    const std::string_view old = spec.text;
    const size_t most = std::min(old.size(), text.size());
    size_t same = 0;
    while (same < most && old[same] == text[same]) ++same;
    while (same > 0 && (isInside(old, same) || isInside(text, same))) --same;
    size_t tail = 0;
    while (tail < most - same && old[old.size() - 1 - tail] == text[text.size() - 1 - tail]) ++tail;
    while (tail > 0 && (isInside(old, old.size() - tail) || isInside(text, text.size() - tail))) --tail;
    if (same + tail == old.size() && old.size() == text.size()) return spec;
    const std::string by(text.substr(same, text.size() - same - tail));
    return replaced(std::move(spec), same, old.size() - tail, by);
}

TextSpec restyled(TextSpec spec, size_t from, size_t to, const std::function<void(LetterStyle&)>& change) {
    std::vector<TextRun> out;
    for (const TextRun& run : covering(spec)) {
        const size_t begin = std::clamp(from, run.from, run.to), end = std::clamp(to, begin, run.to);
        out.push_back({run.from, begin, run.letters});
        out.push_back({begin, end, run.letters});
        if (begin < end) change(out.back().letters);
        out.push_back({end, run.to, run.letters});
    }
    spec.runs = tidied(out, spec.letters);
    return spec;
}

const LetterStyle& lettersAt(const TextSpec& spec, size_t byte) {
    const size_t at = byte >= spec.text.size() && byte > 0 ? spec.text.size() - 1 : byte;
    for (const TextRun& run : spec.runs)
        if (at >= run.from && at < run.to) return run.letters;
    return spec.letters;
}

TextSpec withLetters(TextSpec spec, const std::function<void(LetterStyle&)>& change) {
    change(spec.letters);
    for (TextRun& run : spec.runs) change(run.letters);
    spec.runs = tidied(spec.runs, spec.letters);
    return spec;
}

TextSpec scaled(TextSpec spec, double factor) {
    spec.letters.size *= factor;
    for (TextRun& run : spec.runs) run.letters.size *= factor;
    for (TabStop& stop : spec.tabs) stop.at *= factor;
    std::visit(
        Overloaded{
            [](AtPoint&) {}, [&](InArea& area) { area.width *= factor, area.height *= factor; },
            [&](InShape& shape) { scale(shape.outline, factor); },
            [&](AlongPath& along) {
                std::vector<Contour> one{std::move(along.line)};
                scale(one, factor);
                along.line = std::move(one.front());
                along.start *= factor;
            },
            [&](RoundCircle& circle) { circle.radius *= factor; },
            [&](InTable& table) {
                for (double* length : {&table.width, &table.height, &table.gap, &table.gutter, &table.grid})
                    *length *= factor;
            }},
        spec.frame);
    return spec;
}

} // namespace glyptos
