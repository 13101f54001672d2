#include "type/line_shaper.h"

#include <hb.h>

namespace glyptos {
namespace {

struct Pen {
    Path* path;
    Affine map;
};

Vec2 at(void* pen, float x, float y) {
    return static_cast<Pen*>(pen)->map.map({x, y});
}
Path& pathOf(void* pen) {
    return *static_cast<Pen*>(pen)->path;
}

/// HarfBuzz calls that append to a Path. Made once; immutable.
hb_draw_funcs_t* drawFunctions() {
    static hb_draw_funcs_t* const functions = [] {
        hb_draw_funcs_t* f = hb_draw_funcs_create();
        hb_draw_funcs_set_move_to_func(
            f,
            [](hb_draw_funcs_t*, void* p, hb_draw_state_t*, float x, float y, void*) {
                pathOf(p).moveTo(at(p, x, y));
            },
            nullptr, nullptr);
        hb_draw_funcs_set_line_to_func(
            f,
            [](hb_draw_funcs_t*, void* p, hb_draw_state_t*, float x, float y, void*) {
                pathOf(p).lineTo(at(p, x, y));
            },
            nullptr, nullptr);
        hb_draw_funcs_set_quadratic_to_func(
            f,
            [](hb_draw_funcs_t*, void* p, hb_draw_state_t*, float cx, float cy, float x, float y, void*) {
                pathOf(p).quadTo(at(p, cx, cy), at(p, x, y));
            },
            nullptr, nullptr);
        hb_draw_funcs_set_cubic_to_func(
            f,
            [](hb_draw_funcs_t*, void* p, hb_draw_state_t*, float ax, float ay, float bx, float by, float x,
               float y, void*) { pathOf(p).cubicTo(at(p, ax, ay), at(p, bx, by), at(p, x, y)); },
            nullptr, nullptr);
        hb_draw_funcs_make_immutable(f);
        return f;
    }();
    return functions;
}

/// Characters that go with whatever stands before them, or show nothing.
bool clings(char32_t c) {
    const auto category = hb_unicode_general_category(hb_unicode_funcs_get_default(), c);
    return c == ' ' || c == 0xa0 || category == HB_UNICODE_GENERAL_CATEGORY_NON_SPACING_MARK ||
           category == HB_UNICODE_GENERAL_CATEGORY_SPACING_MARK ||
           category == HB_UNICODE_GENERAL_CATEGORY_ENCLOSING_MARK ||
           category == HB_UNICODE_GENERAL_CATEGORY_FORMAT || category == HB_UNICODE_GENERAL_CATEGORY_CONTROL;
}

std::string utf8(char32_t c) {
    std::string out;
    if (c < 0x80) return {char(c)};
    if (c < 0x800) return {char(0xc0 | (c >> 6)), char(0x80 | (c & 63))};
    if (c < 0x10000) return {char(0xe0 | (c >> 12)), char(0x80 | ((c >> 6) & 63)), char(0x80 | (c & 63))};
    return {char(0xf0 | (c >> 18)), char(0x80 | ((c >> 12) & 63)), char(0x80 | ((c >> 6) & 63)),
            char(0x80 | (c & 63))};
}

/// A stretch of text as glyphs of one face.
struct Shaped {
    hb_buffer_t* buffer = hb_buffer_create();
    unsigned count = 0;
    const hb_glyph_info_t* glyphs = nullptr;
    const hb_glyph_position_t* places = nullptr;

    /// Ligatures rest in letters that are tracked.
    Shaped(const Face& face, const std::u32string& text, size_t from, size_t to, bool isTracked) {
        hb_buffer_add_utf32(buffer, reinterpret_cast<const uint32_t*>(text.data()),
                            static_cast<int>(text.size()), static_cast<unsigned>(from),
                            static_cast<int>(to - from));
        hb_buffer_guess_segment_properties(buffer);
        hb_feature_t noLigatures[2];
        hb_feature_from_string("liga=0", -1, &noLigatures[0]);
        hb_feature_from_string("clig=0", -1, &noLigatures[1]);
        hb_shape(face.font(), buffer, noLigatures, isTracked ? 2 : 0);
        glyphs = hb_buffer_get_glyph_infos(buffer, &count);
        places = hb_buffer_get_glyph_positions(buffer, &count);
    }
    ~Shaped() { hb_buffer_destroy(buffer); }
    Shaped(const Shaped&) = delete;
    Shaped& operator=(const Shaped&) = delete;

    bool endsCluster(unsigned i) const {
        return i + 1 == count || glyphs[i + 1].cluster != glyphs[i].cluster;
    }
};

} // namespace

std::string encodeUtf8(std::u32string_view text) {
    std::string out;
    for (const char32_t c : text) out += utf8(c);
    return out;
}

std::u32string decodeUtf8(std::string_view text) {
    hb_buffer_t* buffer = hb_buffer_create();
    hb_buffer_add_utf8(buffer, text.data(), static_cast<int>(text.size()), 0, static_cast<int>(text.size()));
    unsigned count = 0;
    const hb_glyph_info_t* info = hb_buffer_get_glyph_infos(buffer, &count);
    std::u32string out;
    for (unsigned i = 0; i < count; ++i) out += static_cast<char32_t>(info[i].codepoint);
    hb_buffer_destroy(buffer);
    return out;
}

FacePtr LineShaper::faceFor(char32_t c) {
    if (face_->has(c)) return face_;
    if (FacePtr other = fonts_.fallbackFor(c, *face_)) {
        stoodIn_.insert(other->family());
        return other;
    }
    unprintable_.insert(utf8(c));
    return face_;
}

template <class Run>
void LineShaper::eachRun(const std::u32string& points, Run run) {
    for (size_t from = 0; from < points.size();) {
        const FacePtr face = clings(points[from]) ? face_ : faceFor(points[from]);
        size_t to = from + 1;
        while (to < points.size() && (clings(points[to]) || faceFor(points[to]) == face)) ++to;
        run(*face, from, to);
        from = to;
    }
}

ShapedLine LineShaper::shape(std::string_view text) {
    ShapedLine line;
    const std::u32string points = decodeUtf8(text);
    eachRun(points,
            [&](const Face& face, size_t from, size_t to) { shapeRun(face, points, from, to, line); });
    if (!points.empty()) line.advance -= tracking_;
    return line;
}

std::vector<double> LineShaper::advancesOf(const std::u32string& points) {
    std::vector<double> out(points.size() + 1, 0);
    eachRun(points, [&](const Face& face, size_t from, size_t to) {
        const Shaped shaped(face, points, from, to, tracking_ != 0);
        for (unsigned i = 0; i < shaped.count; ++i) {
            double& own = out[shaped.glyphs[i].cluster + 1];
            own += shaped.places[i].x_advance / face.unitsPerEm();
            if (shaped.endsCluster(i)) own += tracking_;
        }
    });
    for (size_t i = 1; i < out.size(); ++i) out[i] += out[i - 1];
    return out;
}

void LineShaper::shapeRun(const Face& face, const std::u32string& text, size_t from, size_t to,
                          ShapedLine& line) {
    const Shaped shaped(face, text, from, to, tracking_ != 0);
    const double em = 1 / face.unitsPerEm();
    for (unsigned i = 0; i < shaped.count; ++i) {
        const hb_glyph_position_t& place = shaped.places[i];
        Pen pen{&line.outline, {em, 0, 0, -em, line.advance + place.x_offset * em, -place.y_offset * em}};
        hb_font_get_glyph_shape(face.font(), shaped.glyphs[i].codepoint, drawFunctions(), &pen);
        line.advance += place.x_advance * em;
        if (shaped.endsCluster(i)) line.advance += tracking_;
    }
}

} // namespace glyptos
