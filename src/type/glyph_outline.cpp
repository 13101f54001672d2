#include "type/glyph_outline.h"

#include <hb.h>
#include <memory>
#include <mutex>
#include <unordered_map>

namespace glyptos {
namespace {

struct Pen {
    Path* path;
    double em; ///< of a unit of the font
};

Vec2 at(void* pen, float x, float y) {
    const double em = static_cast<Pen*>(pen)->em;
    return {x * em, -y * em};
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

/// Outlines of the glyphs of one font, drawn once: those of CFF are little programs.
class DrawnGlyphs {
  public:
    std::shared_ptr<const Path> outline(const Face& face, uint32_t glyph) {
        constexpr size_t kMost = 4096; // of one face; beyond, the others are drawn each time
        {
            const std::lock_guard lock(mutex_);
            if (const auto known = drawn_.find(glyph); known != drawn_.end()) return known->second;
        }
        auto made = std::make_shared<Path>();
        Pen pen{made.get(), 1 / face.unitsPerEm()};
        hb_font_get_glyph_shape(face.font(), glyph, drawFunctions(), &pen);
        const std::lock_guard lock(mutex_);
        if (drawn_.size() < kMost) drawn_.emplace(glyph, made);
        return made;
    }

    /// They live as long as HarfBuzz's font does.
    static DrawnGlyphs& of(const Face& face) {
        static hb_user_data_key_t key;
        for (;;) {
            if (void* known = hb_font_get_user_data(face.font(), &key))
                return *static_cast<DrawnGlyphs*>(known);
            auto made = std::make_unique<DrawnGlyphs>();
            const auto drop = [](void* own) { delete static_cast<DrawnGlyphs*>(own); };
            if (hb_font_set_user_data(face.font(), &key, made.get(), drop, false)) (void)made.release();
        }
    }

  private:
    std::mutex mutex_;
    std::unordered_map<uint32_t, std::shared_ptr<const Path>> drawn_;
};

} // namespace

void appendGlyph(const Face& face, uint32_t glyph, const Affine& map, Path& out) {
    out.append(*DrawnGlyphs::of(face).outline(face, glyph), map);
}

Path glyphOutline(const Face& face, uint32_t glyph) {
    return *DrawnGlyphs::of(face).outline(face, glyph);
}

} // namespace glyptos
