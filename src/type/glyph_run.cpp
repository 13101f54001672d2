#include "type/glyph_run.h"

#include <algorithm>

namespace glyptos {
namespace {

struct FreeBuffer {
    void operator()(hb_buffer_t* b) const { hb_buffer_destroy(b); }
};
using BufferPtr = std::unique_ptr<hb_buffer_t, FreeBuffer>;

std::vector<hb_feature_t> featuresOf(const LetterStyle& style) {
    std::vector<hb_feature_t> out;
    const auto set = [&](const char* tag, unsigned value) {
        out.push_back({hb_tag_from_string(tag, -1), value, HB_FEATURE_GLOBAL_START, HB_FEATURE_GLOBAL_END});
    };
    if (style.tracking != 0) set("liga", 0), set("clig", 0); // they would close the gaps again
    if (style.kerning != Kerning::Font) set("kern", 0);
    for (const FontFeature& f : style.features) set(f.tag.c_str(), f.value);
    return out;
}

/// Whose letters join: space between them would tear them apart.
bool isJoined(hb_script_t script) {
    switch (script) {
    case HB_SCRIPT_ARABIC:
    case HB_SCRIPT_SYRIAC:
    case HB_SCRIPT_MONGOLIAN:
    case HB_SCRIPT_NKO:
    case HB_SCRIPT_MANDAIC:
    case HB_SCRIPT_PHAGS_PA:
    case HB_SCRIPT_ADLAM:
    case HB_SCRIPT_HANIFI_ROHINGYA:
        return true;
    default:
        return false;
    }
}

bool isSpace(char16_t unit) {
    return unit == u' ' || unit == u'\u00a0';
}

} // namespace

Shaper::ShapedItem Shaper::shaped(const Segment& segment, const Item& item) const {
    ShapedItem out{item, {}, {}};
    const LetterStyle& style = styleOf(spec_, item.style);
    const BufferPtr buffer(hb_buffer_create());
    hb_buffer_add_utf16(buffer.get(), reinterpret_cast<const uint16_t*>(segment.units.data()),
                        int(segment.units.size()), unsigned(item.from), int(item.to - item.from));
    hb_buffer_set_direction(buffer.get(), item.rightToLeft ? HB_DIRECTION_RTL : HB_DIRECTION_LTR);
    hb_buffer_set_script(buffer.get(), item.script == HB_SCRIPT_COMMON ? HB_SCRIPT_LATIN : item.script);
    hb_buffer_set_language(buffer.get(), style.language.empty()
                                             ? hb_language_get_default()
                                             : hb_language_from_string(style.language.c_str(), -1));
    const auto features = featuresOf(style);
    hb_shape(item.face->font(), buffer.get(), features.data(), unsigned(features.size()));
    unsigned count = 0;
    const hb_glyph_info_t* glyphs = hb_buffer_get_glyph_infos(buffer.get(), &count);
    const hb_glyph_position_t* places = hb_buffer_get_glyph_positions(buffer.get(), &count);
    const double scale = style.size / item.face->unitsPerEm();
    const double tracking = isJoined(item.script) ? 0 : style.tracking / 1000 * style.size;
    for (unsigned i = 0; i < count; ++i) {
        const bool endsCluster = i + 1 == count || glyphs[i + 1].cluster != glyphs[i].cluster;
        ShapedGlyph g{item.face.get(),
                      glyphs[i].codepoint,
                      glyphs[i].cluster,
                      item.style,
                      places[i].x_advance * scale + (endsCluster ? tracking : 0),
                      {places[i].x_offset * scale, places[i].y_offset * scale + style.shift * style.size},
                      isSpace(segment.units[glyphs[i].cluster]),
                      item.rightToLeft};
        out.glyphs.push_back(g);
        const bool begins = i == 0 || glyphs[i - 1].cluster != glyphs[i].cluster;
        const bool isSafe = !(hb_glyph_info_get_glyph_flags(&glyphs[i]) & HB_GLYPH_FLAG_UNSAFE_TO_BREAK);
        out.mayBreak.push_back(begins && isSafe);
    }
    return out;
}

/// From an item that has been shaped as a whole, where HarfBuzz says that its parts look no otherwise.
bool Shaper::takeKnown(const Segment& segment, const Item& item, std::vector<ShapedGlyph>& out) const {
    if (item.rightToLeft || known_ != segment.units) return false;
    const auto whole = std::find_if(knownItems_.begin(), knownItems_.end(), [&](const ShapedItem& one) {
        return one.item.from <= item.from && item.to <= one.item.to && one.item.face == item.face &&
               one.item.style == item.style && one.item.script == item.script && !one.item.rightToLeft;
    });
    if (whole == knownItems_.end()) return false;
    const auto& glyphs = whole->glyphs;
    const auto placeOf = [&](size_t unit) {
        return size_t(std::lower_bound(glyphs.begin(), glyphs.end(), unit,
                                       [](const ShapedGlyph& g, size_t u) { return g.unit < u; }) -
                      glyphs.begin());
    };
    const size_t first = placeOf(item.from), last = placeOf(item.to);
    const auto isClean = [&](size_t glyph, size_t unit) {
        return glyph == glyphs.size() ? unit == whole->item.to
                                      : whole->mayBreak[glyph] && glyphs[glyph].unit == unit;
    };
    if (!isClean(first, item.from) || !isClean(last, item.to)) return false;
    out.insert(out.end(), glyphs.begin() + long(first), glyphs.begin() + long(last));
    return true;
}

void Shaper::shape(const Segment& segment, const Item& item, std::vector<ShapedGlyph>& out) {
    if (!item.face || item.from == item.to) return;
    const size_t first = out.size();
    if (!takeKnown(segment, item, out)) {
        const ShapedItem own = shaped(segment, item);
        out.insert(out.end(), own.glyphs.begin(), own.glyphs.end());
    }
    if (styleOf(spec_, item.style).kerning == Kerning::Optical) kernOptically(out, first);
}

void Shaper::kernOptically(std::vector<ShapedGlyph>& line, size_t from) {
    for (size_t i = from; i + 1 < line.size(); ++i) {
        ShapedGlyph& left = line[i];
        const ShapedGlyph& right = line[i + 1];
        if (left.isSpace || right.isSpace || left.unit == right.unit) continue;
        left.advance += optical_.space(*left.face, left.id, right.id) * styleOf(spec_, left.style).size;
    }
}

/// The space goes in front of the letter as it is read.
void Shaper::kernByHand(const Segment& segment, std::vector<ShapedGlyph>& line) const {
    for (size_t i = 0; i < line.size(); ++i) {
        const size_t unit = line[i].unit, byte = segment.source[unit];
        const bool isFirst =
            (i == 0 || line[i - 1].unit != unit) && (unit == 0 || segment.source[unit - 1] != byte);
        const auto kern = firstMark(spec_.kerns, byte);
        if (!isFirst || kern == spec_.kerns.end() || kern->at != byte) continue;
        const double space = kern->em * styleOf(spec_, line[i].style).size;
        if (!line[i].rightToLeft && i > 0) line[i - 1].advance += space;
        if (line[i].rightToLeft && i + 1 < line.size()) line[i].advance += space;
    }
}

std::optional<ShapedGlyph> Shaper::hyphenFor(const Segment& segment, size_t unit) const {
    for (const Item& item : segment.items) {
        if (unit < item.from || unit >= item.to || !item.face) continue;
        for (const hb_codepoint_t c : {hb_codepoint_t(0x2010), hb_codepoint_t('-')}) {
            hb_codepoint_t glyph = 0;
            if (!hb_font_get_nominal_glyph(item.face->font(), c, &glyph)) continue;
            const LetterStyle& style = styleOf(spec_, item.style);
            const double scale = style.size / item.face->unitsPerEm();
            return ShapedGlyph{item.face.get(),
                               glyph,
                               unit,
                               item.style,
                               hb_font_get_glyph_h_advance(item.face->font(), glyph) * scale,
                               {0, style.shift * style.size},
                               false,
                               item.rightToLeft};
        }
    }
    return std::nullopt;
}

double Shaper::hyphenAdvance(const Segment& segment, size_t unit) {
    const auto hyphen = hyphenFor(segment, unit);
    return hyphen ? hyphen->advance : 0;
}

std::vector<ShapedGlyph> Shaper::line(const Segment& segment, size_t from, size_t to, bool hyphen) {
    std::vector<ShapedGlyph> out;
    for (const Item& item : segment.seen(from, to)) shape(segment, item, out);
    if (!spec_.kerns.empty()) kernByHand(segment, out);
    if (hyphen && to > from)
        if (const auto glyph = hyphenFor(segment, to - 1))
            out.insert(glyph->rightToLeft ? out.begin() : out.end(), *glyph);
    return out;
}

std::vector<double> Shaper::advances(const Segment& segment) {
    knownItems_.clear();
    for (const Item& item : segment.items)
        if (item.face && item.from != item.to) knownItems_.push_back(shaped(segment, item));
    known_ = segment.units;
    std::vector<ShapedGlyph> glyphs;
    for (const Item& item : segment.items) shape(segment, item, glyphs);
    if (!spec_.kerns.empty()) kernByHand(segment, glyphs);
    std::vector<double> out(segment.units.size() + 1, 0);
    for (const ShapedGlyph& g : glyphs) out[g.unit + 1] += g.advance;
    for (size_t i = 1; i < out.size(); ++i) out[i] += out[i - 1];
    return out;
}

} // namespace glyptos
