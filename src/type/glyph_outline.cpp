#include "type/glyph_outline.h"

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

} // namespace

void appendGlyph(const Face& face, uint32_t glyph, const Affine& map, Path& out) {
    const double em = 1 / face.unitsPerEm();
    Pen pen{&out, map * Affine::scaling(em, -em)};
    hb_font_get_glyph_shape(face.font(), glyph, drawFunctions(), &pen);
}

Path glyphOutline(const Face& face, uint32_t glyph) {
    Path out;
    appendGlyph(face, glyph, {}, out);
    return out;
}

} // namespace glyptos
