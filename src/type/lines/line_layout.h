// Internal to type: a text cut into lines and each line's glyphs put side by side, before they take their
// places in the frame.
#pragma once

#include "type/glyph_run.h"

#include <set>

namespace glyptos {

struct LineGlyph {
    ShapedGlyph glyph;
    double x = 0;            ///< of the pen, from the line's left end
    size_t from = 0, to = 0; ///< bytes of the text that it stands for
};

struct LaidLine {
    size_t from = 0, to = 0; ///< bytes
    std::vector<LineGlyph> glyphs;
    double left = 0, width = 0;  ///< of the frame's coordinates
    double baseline = 0;         ///< down from the frame's top
    double above = 0, below = 0; ///< ascent and descent of its largest letters
    bool divided = false, rightToLeft = false;
};

struct Layout {
    std::vector<LaidLine> lines;
    std::vector<Segment> segments; ///< hold the faces of the glyphs
    size_t shown = 0;              ///< bytes up to here have a place in the frame
    std::set<std::string> stoodIn, unprintable;
};

/// What the lines of another layout need to live; its lines are left to whoever takes them.
void takeFaces(Layout& out, Layout& from);

Layout layLines(const TextSpec& spec, const FontLibrary& fonts);

} // namespace glyptos
