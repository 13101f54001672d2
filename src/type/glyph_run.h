// Internal to type: segments shaped into glyphs by HarfBuzz.
#pragma once

#include "type/optical_kerning.h"
#include "type/segment.h"

#include <optional>

namespace glyptos {

/// Lengths in units of the panel, x to the right, y up.
struct ShapedGlyph {
    const Face* face = nullptr; ///< held by the segment's items
    uint32_t id = 0;
    size_t unit = 0; ///< of the segment: the first that it stands for
    size_t style = 0;
    double advance = 0; ///< tracking and kerning by hand included
    Vec2 offset;        ///< from the pen to the glyph's origin, shift of the baseline included
    bool isSpace = false, rightToLeft = false;
};

/// Shapes with the features that a spec asks for. Keeps what optical kerning has measured.
class Shaper {
  public:
    explicit Shaper(const TextSpec& spec)
        : spec_(spec) {}

    /// Units `from` up to `to` as one line, in the order in which they are seen; a line that breaks inside a
    /// word gets a hyphen behind it.
    std::vector<ShapedGlyph> line(const Segment& segment, size_t from, size_t to, bool hyphen = false);
    /// How far the pen has come before each unit, and at the end, in the order of the text, whichever way it
    /// is written; what is drawn as one counts with its first.
    std::vector<double> advances(const Segment& segment);
    double hyphenAdvance(const Segment& segment, size_t unit);

  private:
    /// An item as a whole, in the order of the text.
    struct ShapedItem {
        Item item;
        std::vector<ShapedGlyph> glyphs;
        std::vector<bool> mayBreak; ///< before each glyph, and nothing looks otherwise for it
    };
    void shape(const Segment& segment, const Item& item, std::vector<ShapedGlyph>& out);
    ShapedItem shaped(const Segment& segment, const Item& item) const;
    bool takeKnown(const Segment& segment, const Item& item, std::vector<ShapedGlyph>& out) const;
    void kernByHand(const Segment& segment, std::vector<ShapedGlyph>& line) const;
    void kernOptically(std::vector<ShapedGlyph>& line, size_t from);
    std::optional<ShapedGlyph> hyphenFor(const Segment& segment, size_t unit) const;

    const TextSpec& spec_;
    OpticalKerning optical_;
    std::u16string known_; ///< units of the segment that was shaped as a whole last
    std::vector<ShapedItem> knownItems_;
};

} // namespace glyptos
