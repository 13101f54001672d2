#include "type/lines/line_layout.h"

#include "base/overloaded.h"
#include "base/text.h"
#include "type/lines/frame_slots.h"
#include "type/lines/justify.h"
#include "type/lines/leader.h"
#include "type/lines/line_breaks.h"
#include "type/lines/table_layout.h"

#include <algorithm>
#include <cmath>
#include <numeric>
#include <unicode/utf8.h>

namespace glyptos {
namespace {

constexpr double kColumnGapEm = 1.0;

bool isFigures(std::string_view text) {
    return text.find_first_not_of("0123456789:.,") == text.npos;
}

std::string utf8Of(char32_t c) {
    std::string out(U8_MAX_LENGTH, 0);
    size_t size = 0;
    U8_APPEND_UNSAFE(out.data(), size, UChar32(c));
    out.resize(size);
    return out;
}

/// Lays one text. The lines are made in the order of the text and then put below each other.
class LineMaker {
  public:
    LineMaker(const TextSpec& spec, const FontLibrary& fonts)
        : spec_(spec)
        , fonts_(fonts)
        , shaper_(spec) {
        for (size_t i = 0; i <= spec.runs.size(); ++i) {
            const LetterStyle& style = styleOf(spec, i);
            faces_.push_back(fonts.face(style.family, style.style, style.axes));
        }
    }

    Layout lay() {
        findMeasures();
        for (const HardLine& line : hardLines(spec_.text)) layHardLine(line);
        if (!tables_.empty()) placeColumns();
        placeLines();
        return std::move(out_);
    }

  private:
    FacePtr faceFor(size_t style, char32_t c) {
        const FacePtr& own = faces_[style];
        if (c == 0 || !own || own->has(c)) return own;
        if (FacePtr other = fonts_.fallbackFor(c, *own)) {
            out_.stoodIn.insert(other->family());
            return other;
        }
        out_.unprintable.insert(utf8Of(c));
        return own;
    }

    size_t segment(size_t from, size_t to) {
        out_.segments.push_back(
            segmentOf(spec_, from, to, [this](size_t style, char32_t c) { return faceFor(style, c); }));
        return out_.segments.size() - 1;
    }

    void findMeasures() {
        if (const auto* shape = std::get_if<InShape>(&spec_.frame)) {
            const FacePtr& face = faces_.front();
            const double size = spec_.letters.size;
            const double above = (face ? face->ascentEm() : 1) * size,
                         below = (face ? face->descentEm() : 0) * size;
            slots_ = slotsOf(*shape, above, spec_.leading * size, above, below, size);
            for (const Slot& slot : slots_) measures_.push_back(slot.width);
            if (slots_.empty()) measures_.push_back(size);
        } else if (const double measure = measureOf(spec_); measure > 0)
            measures_.push_back(measure);
    }

    void layHardLine(const HardLine& hard) {
        const std::string_view text = std::string_view(spec_.text).substr(hard.from, hard.to - hard.from);
        if (text.find('\t') != text.npos) return layTabbed(hard, text);
        const size_t one = segment(hard.from, hard.to);
        if (measures_.empty())
            addLine(one, 0, out_.segments[one].units.size(), false, true);
        else
            layBroken(one);
    }

    /// Columns, or parts led to their stops, side by side in one line that does not break.
    void layTabbed(const HardLine& hard, std::string_view text) {
        LaidLine line;
        line.from = hard.from, line.to = hard.to;
        std::vector<Part> parts;
        size_t at = hard.from;
        for (const std::string& cell : split(std::string(text), '\t')) {
            Part part;
            const size_t s = segment(at, at + cell.size());
            part.glyphs = shaper_.line(out_.segments[s], 0, out_.segments[s].units.size());
            part.segment = s, part.isFigures = isFigures(cell);
            part.width = widthOf(part.glyphs);
            parts.push_back(std::move(part));
            at += cell.size() + 1;
        }
        measureHeights(line, parts.front().segment);
        if (spec_.tabs.empty())
            tables_.emplace_back(out_.lines.size(), std::move(parts));
        else
            lead(line, parts);
        out_.lines.push_back(std::move(line));
    }

    struct Part {
        std::vector<ShapedGlyph> glyphs;
        size_t segment = 0;
        double width = 0;
        bool isFigures = false;
    };

    size_t unitsOf(const Part& part) const { return out_.segments[part.segment].units.size(); }
    double widthOf(const std::vector<ShapedGlyph>& glyphs) const {
        double width = 0;
        for (const ShapedGlyph& g : glyphs) width += g.advance;
        return glyphs.empty() ? 0 : width - trackingBehind(glyphs.back());
    }
    double trackingBehind(const ShapedGlyph& g) const {
        const LetterStyle& style = styleOf(spec_, g.style);
        return style.tracking / 1000 * style.size;
    }

    /// Glyphs of a segment up to a unit, from `x` on.
    void put(LaidLine& line, const std::vector<ShapedGlyph>& glyphs, size_t segment, size_t to, double x) {
        const Segment& s = out_.segments[segment];
        std::vector<size_t> starts;
        for (const ShapedGlyph& g : glyphs) starts.push_back(g.unit);
        std::sort(starts.begin(), starts.end());
        for (const ShapedGlyph& g : glyphs) {
            const auto next = std::upper_bound(starts.begin(), starts.end(), g.unit);
            const size_t end = next == starts.end() ? to : *next;
            line.glyphs.push_back({g, x, s.source[g.unit], s.source[std::max(end, g.unit)]});
            x += g.advance;
            line.above = std::max(line.above, heightAbove(g)),
            line.below = std::max(line.below, heightBelow(g));
        }
        line.width = std::max(line.width, glyphs.empty() ? x : x - trackingBehind(glyphs.back()));
    }
    double heightAbove(const ShapedGlyph& g) const {
        const FacePtr& own = faces_[g.style];
        return (own ? own->ascentEm() : 1) * styleOf(spec_, g.style).size;
    }
    double heightBelow(const ShapedGlyph& g) const {
        const FacePtr& own = faces_[g.style];
        return (own ? own->descentEm() : 0) * styleOf(spec_, g.style).size;
    }
    /// Of a line without letters: those of its style.
    void measureHeights(LaidLine& line, size_t segment) const {
        if (!out_.segments[segment].empty()) return;
        ShapedGlyph nothing;
        nothing.style = styleAt(spec_, line.from);
        line.above = heightAbove(nothing), line.below = heightBelow(nothing);
    }

    void addLine(size_t segment, size_t from, size_t to, bool divided, bool isLast) {
        const Segment& s = out_.segments[segment];
        LaidLine line;
        line.from = s.source[from], line.to = isLast ? s.source.back() : s.source[to];
        line.divided = divided, line.rightToLeft = s.rightToLeft;
        measureHeights(line, segment);
        std::vector<ShapedGlyph> glyphs = shaper_.line(s, from, to, divided);
        const double measure =
            measures_.empty() ? 0 : measures_[std::min(out_.lines.size(), measures_.size() - 1)];
        const Hang hang = spec_.hangPunctuation && measure > 0 ? hangOf(glyphs, s) : Hang{};
        if (spec_.align == Align::Justified && measure > 0 && !isLast)
            justify(glyphs, measure + hang.left + hang.right, spec_);
        put(line, glyphs, segment, to, 0);
        hangs_.resize(out_.lines.size() + 1);
        hangs_.back() = hang;
        out_.lines.push_back(std::move(line));
    }

    void layBroken(size_t index) {
        const Segment& s = out_.segments[index];
        const std::vector<BreakPlace> places = placesOf(s, spec_, shaper_, breaker_, fonts_.hyphenator());
        const Fill fill = spec_.align == Align::Justified ? Fill::Justified
                          : spec_.balance                 ? Fill::Even
                                                          : Fill::Full;
        const std::span<const double> left =
            std::span(measures_).subspan(std::min(out_.lines.size(), measures_.size() - 1));
        size_t from = leadingSpaces(s);
        for (const size_t chosen : chosenBreaks(places, left, fill)) {
            const BreakPlace& place = places[chosen];
            const bool isLast = chosen + 1 == places.size();
            addLine(index, from, isLast ? s.units.size() : lettersEnd(s, from, place.at), place.divides,
                    isLast);
            from = place.at;
        }
        if (places.empty()) addLine(index, 0, s.units.size(), false, true);
    }

    /// Columns as wide as their widest entry, an em apart; figures stand at the right of theirs.
    void placeColumns() {
        std::vector<double> widths;
        std::vector<bool> figures;
        for (const auto& [line, parts] : tables_) {
            widths.resize(std::max(widths.size(), parts.size()));
            figures.resize(widths.size(), true);
            for (size_t i = 0; i < parts.size(); ++i) {
                widths[i] = std::max(widths[i], parts[i].width);
                figures[i] = figures[i] && parts[i].isFigures;
            }
        }
        const double gap = kColumnGapEm * spec_.letters.size;
        const double tableWidth =
            std::accumulate(widths.begin(), widths.end(), gap * (double(widths.size()) - 1));
        for (const auto& [line, parts] : tables_) {
            double x = 0;
            for (size_t i = 0; i < parts.size(); ++i) {
                put(out_.lines[line], parts[i].glyphs, parts[i].segment, unitsOf(parts[i]),
                    x + (figures[i] ? widths[i] - parts[i].width : 0));
                x += widths[i] + gap;
            }
            out_.lines[line].width = tableWidth;
        }
    }

    /// Leads each part to its stop; parts beyond the last stop follow with a gap.
    void lead(LaidLine& line, const std::vector<Part>& parts) {
        double x = 0;
        for (size_t i = 0; i < parts.size(); ++i) {
            const Part& part = parts[i];
            if (i > 0) {
                const double before = x;
                x += spec_.letters.size * kColumnGapEm;
                if (i - 1 < spec_.tabs.size()) {
                    const TabStop& stop = spec_.tabs[i - 1];
                    x = std::max(stop.at - partBefore(part, stop.align), before);
                    addLeader(line, leaders_.of(stop.leader, out_), before, x,
                              out_.segments[part.segment].source.front());
                }
            }
            put(line, part.glyphs, part.segment, unitsOf(part), x);
            x += part.width;
        }
    }

    /// How much of a part stands before its stop.
    double partBefore(const Part& part, TabAlign align) const {
        if (align == TabAlign::Left) return 0;
        if (align == TabAlign::Centre) return part.width / 2;
        double before = 0;
        const Segment& s = out_.segments[part.segment];
        for (const ShapedGlyph& g : part.glyphs) {
            const char16_t c = s.units[g.unit];
            if (align == TabAlign::Figures && (c == u'.' || c == u',')) return before;
            before += g.advance;
        }
        return part.width;
    }

    double leadingOf(const LaidLine& line) const {
        double size = 0, em = spec_.leading;
        for (const LineGlyph& g : line.glyphs) size = std::max(size, styleOf(spec_, g.glyph.style).size);
        if (line.glyphs.empty()) size = styleOf(spec_, styleAt(spec_, line.from)).size;
        const auto own = firstMark(spec_.leadings, line.from);
        if (own != spec_.leadings.end() && (own->at < line.to || own->at == line.from)) em = own->em;
        return size * em;
    }

    /// Below each other, and to the side that they are aligned to.
    void placeLines() {
        double baseline = 0;
        for (size_t i = 0; i < out_.lines.size(); ++i) {
            LaidLine& line = out_.lines[i];
            baseline = i == 0 ? line.above : baseline + leadingOf(line);
            line.baseline = baseline;
            const Hang hang = i < hangs_.size() ? hangs_[i] : Hang{};
            const double width = line.width - hang.left - hang.right;
            const bool toRight =
                spec_.align == Align::Right || (spec_.align == Align::Justified && line.rightToLeft);
            const double share = toRight ? 1 : spec_.align == Align::Centre ? 0.5 : 0;
            if (std::holds_alternative<InShape>(spec_.frame)) {
                if (i >= slots_.size()) continue;
                line.baseline = slots_[i].baseline;
                line.left = slots_[i].left + share * (slots_[i].width - width) - hang.left;
            } else {
                line.left = -share * width - hang.left;
                // The frame of justified lines begins at the anchor, whichever way they are read.
                if (spec_.align == Align::Justified && toRight) line.left += measureOf(spec_);
            }
        }
        findShown();
    }

    void findShown() {
        out_.shown = spec_.text.size();
        const auto* area = std::get_if<InArea>(&spec_.frame);
        for (size_t i = 0; i < out_.lines.size(); ++i) {
            const LaidLine& line = out_.lines[i];
            const bool isBelow =
                area && area->height > 0 && line.baseline + line.below > area->height * (1 + 1e-9);
            const bool hasNoSlot = std::holds_alternative<InShape>(spec_.frame) && i >= slots_.size();
            if (!isBelow && !hasNoSlot) continue;
            out_.shown = line.from;
            out_.lines.resize(i);
            return;
        }
    }

    const TextSpec& spec_;
    const FontLibrary& fonts_;
    Shaper shaper_;
    Leaders leaders_{spec_.letters, fonts_};
    LineBreaker breaker_;
    std::vector<FacePtr> faces_; ///< by style
    std::vector<double> measures_;
    std::vector<Slot> slots_;
    std::vector<std::pair<size_t, std::vector<Part>>> tables_; ///< by line
    std::vector<Hang> hangs_;                                  ///< by line
    Layout out_;
};

} // namespace

double measureOf(const TextSpec& spec) {
    const auto* area = std::get_if<InArea>(&spec.frame);
    return area ? area->width : 0;
}

void takeFaces(Layout& out, Layout& from) {
    std::move(from.segments.begin(), from.segments.end(), std::back_inserter(out.segments));
    from.segments.clear();
    out.stoodIn.merge(from.stoodIn), out.unprintable.merge(from.unprintable);
}

Layout layLines(const TextSpec& spec, const FontLibrary& fonts) {
    if (const auto* table = std::get_if<InTable>(&spec.frame)) return layTable(spec, *table, fonts);
    return LineMaker(spec, fonts).lay();
}

} // namespace glyptos
