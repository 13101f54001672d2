// What to set: words, how their letters look, and the frame they are set into.
#pragma once

#include "base/geometry.h"
#include "raster/contour.h"

#include <string>
#include <variant>
#include <vector>

namespace glyptos {

enum class Align { Left, Centre, Right, Justified };

/// How the space between two letters comes about.
enum class Kerning {
    Font,    ///< as the face says
    Optical, ///< so that the areas between letters are even (optical_kerning.h)
    None
};

enum class LetterCase { AsWritten, Capitals, Small };

/// A position on an axis of a variable font: its tag ("wght") and its value on the axis's own scale.
struct AxisValue {
    std::string tag;
    double value = 0;
    bool operator==(const AxisValue&) const = default;
};

/// An OpenType feature: its tag ("smcp") and its value, 0 for off, 1 for on, or which of several.
struct FontFeature {
    std::string tag;
    unsigned value = 1;
    bool operator==(const FontFeature&) const = default;
};

struct LetterStyle {
    std::string family = "Inter", style = "Regular";
    double size = 10;    ///< em size, in units of the panel
    double tracking = 0; ///< extra space between letters, thousandths of an em
    double shift = 0;    ///< of the baseline, em, positive up
    Kerning kerning = Kerning::Font;
    LetterCase letterCase = LetterCase::AsWritten;
    std::string language = {}; ///< BCP 47 ("is", "en-GB"); empty: not said
    std::vector<FontFeature> features = {};
    std::vector<AxisValue> axes = {};
    int paint = 0; ///< which of the paints of the words, see the user of the spec
    bool operator==(const LetterStyle&) const = default;
};

/// Letters from byte `from` up to `to` of the text, which look otherwise than the rest.
struct TextRun {
    size_t from = 0, to = 0;
    LetterStyle letters;
    bool operator==(const TextRun&) const = default;
};

/// Space added by hand before the character at byte `at`, em of that character.
struct HandKern {
    size_t at = 0;
    double em = 0;
    bool operator==(const HandKern&) const = default;
};

/// Another leading for the line that byte `at` is in, em of its largest letters.
struct OwnLeading {
    size_t at = 0;
    double em = 1.2;
    bool operator==(const OwnLeading&) const = default;
};

/// One letter out of its place, about the middle of its advance on the baseline.
struct LetterPose {
    size_t at = 0;                           ///< byte
    Vec2 offEm;                              ///< x to the right, y down
    double turn = 0, scale = 1, opacity = 1; ///< degrees clockwise; the others as factors
    bool operator==(const LetterPose&) const = default;
};

/// How letters leave their places one after the other.
struct LetterRule {
    enum class Kind {
        Wave,    ///< up and down, `period` letters a wave
        Arc,     ///< the middle rises by `rise`, the ends do not; letters turn with it
        Falling, ///< further down, more turned and fainter from letter to letter
        Chance   ///< each off, turned and scaled by chance
    };
    Kind kind = Kind::Wave;
    double rise = 0.25; ///< em
    double turn = 0;    ///< degrees: at most by chance, at the last letter when falling
    double spread = 0;  ///< by chance: at most this share larger or smaller
    double fade = 0;    ///< 0…1: how much of the last letter's opacity goes when falling
    double period = 6;  ///< letters a wave
    unsigned seed = 1;  ///< of chance
    bool operator==(const LetterRule&) const = default;
};

enum class TabAlign { Left, Centre, Right, Figures };

/// Where a tab leads to, from the left edge of the frame; `Figures` stand with their point or end there.
struct TabStop {
    double at = 0; ///< units of the panel
    TabAlign align = TabAlign::Left;
    std::string leader; ///< repeated up to the stop, as "."; empty: nothing
    bool operator==(const TabStop&) const = default;
};

/// Lines begin at a point and end where the text says.
struct AtPoint {
    bool operator==(const AtPoint&) const = default;
};
/// Lines break at `width`; the anchor is on the top edge: left, middle or right as `align` says.
struct InArea {
    double width = 100, height = 0; ///< height 0: as high as the words are
    bool operator==(const InArea&) const = default;
};
/// Lines fill a shape, in the units of the panel about the anchor; each the widest stretch inside it.
struct InShape {
    std::vector<Contour> outline;
    bool operator==(const InShape&) const = default;
};
/// One line along a path, in the units of the panel about the anchor. Every hard line is
/// set on its own, `leading` further from the path.
struct AlongPath {
    Contour line;
    double start = 0;   ///< along the path from its beginning, of the words' left end, middle or right end
    bool below = false; ///< on the other side, the other way
    bool operator==(const AlongPath&) const = default;
};
/// Round a circle about the anchor.
struct RoundCircle {
    double radius = 50;  ///< of the baseline
    double start = 0;    ///< degrees clockwise from the top, of the words' left end, middle or right end
    bool inside = false; ///< feet outwards, read from the middle
    bool operator==(const RoundCircle&) const = default;
};
/// One column of a table; of those that break each gets the same share of the width that the others leave.
struct TableColumn {
    Align align = Align::Left; ///< Justified: as Left
    bool breaks = false;
    bool operator==(const TableColumn&) const = default;
};
/// Rows on one baseline grid. A hard line is a row, its tabs part cells, '\v' begins a new line in a cell; a
/// hard line without a tab is a heading over all columns, a step of air above it, and stays with the row
/// below. The anchor is the left end of the top. Where words are centred or set to the right there are no
/// columns: the cells of a row follow each other in one line.
struct InTable {
    double width = 100, height = 0; ///< height 0: as high as the rows are
    std::vector<TableColumn> columns = {};
    double gap = 4;          ///< between columns
    int strips = 1;          ///< side by side, of about the same height; rows and their cells stay whole
    double gutter = 8;       ///< between strips
    double grid = 0;         ///< from baseline to baseline; 0: the leading of the letters
    std::string leader = {}; ///< repeated behind the columns that break, up to the next cell
    bool hangs = false;      ///< the first column stands to the left of the anchor, and of each strip
    bool operator==(const InTable&) const = default;
};
using TextFrame = std::variant<AtPoint, InArea, InShape, AlongPath, RoundCircle, InTable>;

/// Lengths in the units of the panel. Positions in the text are bytes of UTF-8, at the beginning of a
/// character; lists are in their order.
struct TextSpec {
    std::string text; ///< UTF-8; '\n' ends a line, '\t' ends a column or leads to the next tab stop
    LetterStyle letters;
    std::vector<TextRun> runs; ///< without overlaps; what they leave out looks as `letters` says
    double leading = 1.2;      ///< from baseline to baseline, in em of a line's largest letters
    Align align = Align::Left;
    TextFrame frame = AtPoint{};
    bool hyphenate = false;       ///< by the language of the letters, where its patterns are installed
    bool hangPunctuation = false; ///< at the ends of lines, beyond the edge
    bool breakAtSpaces = false;   ///< only there, not behind hyphens or wherever else Unicode allows it
    bool balance = false;         ///< lines of about the same length instead of full ones
    std::vector<TabStop> tabs;    ///< none: columns as wide as their widest entry
    std::vector<OwnLeading> leadings;
    std::vector<HandKern> kerns;
    std::vector<LetterPose> poses;
    std::vector<LetterRule> rules; ///< one after the other
    bool operator==(const TextSpec&) const = default;
};

/// The width that lines break at; 0: they break only where the text says, or as a shape has it.
double measureOf(const TextSpec& spec);

} // namespace glyptos
