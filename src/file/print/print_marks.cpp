#include "file/print/print_marks.h"

#include "base/text.h"

namespace glyptos {
namespace {

constexpr Mm kGap{1};    // between the bleed and a mark
constexpr Mm kLength{6}; // of a mark

/// Marks above and below the bleed at x.
void addUpright(std::vector<PageMark>& out, double x, const Rect& bleed, bool fold) {
    const double near = kGap.value, far = near + kLength.value;
    out.push_back({{x, bleed.y - far}, {x, bleed.y - near}, fold});
    out.push_back({{x, bleed.bottom() + near}, {x, bleed.bottom() + far}, fold});
}

/// Marks left and right of the bleed at y.
void addLevel(std::vector<PageMark>& out, double y, const Rect& bleed, bool fold) {
    const double near = kGap.value, far = near + kLength.value;
    out.push_back({{bleed.x - far, y}, {bleed.x - near, y}, fold});
    out.push_back({{bleed.right() + near, y}, {bleed.right() + far, y}, fold});
}

std::string lines(const std::vector<PageMark>& marks, bool fold, const Affine& mmToPage) {
    std::string out;
    const auto put = [&](Vec2 mm) {
        const Vec2 p = mmToPage.map(mm);
        return shortNumber(p.x, 4) + " " + shortNumber(p.y, 4) + " ";
    };
    for (const PageMark& m : marks)
        if (m.fold == fold) out += put(m.from) + "m " + put(m.to) + "l\n";
    return out + "S\n";
}

} // namespace

std::vector<PageMark> pageMarks(const Flat& flat, size_t sheet) {
    const Rect trim = flat.sheets[sheet].trim, bleed = flat.sheets[sheet].withBleed;
    std::vector<PageMark> out;
    for (const double x : {trim.x, trim.right()}) addUpright(out, x, bleed, false);
    for (const double y : {trim.y, trim.bottom()}) addLevel(out, y, bleed, false);
    for (const Fold& fold : flat.folds) {
        const Vec2 from = fold.from, to = fold.to;
        if (fold.sheet != sheet) continue;
        if (from.x == to.x && from.x > trim.x && from.x < trim.right()) addUpright(out, from.x, bleed, true);
        if (from.y == to.y && from.y > trim.y && from.y < trim.bottom()) addLevel(out, from.y, bleed, true);
    }
    return out;
}

Rect pageArea(const Sheet& sheet, bool slug) {
    return sheet.withBleed.grown(kMarkZone.value).grown(0, 0, 0, slug ? kSlugZone.value : 0);
}

std::string markOperators(const Flat& flat, size_t sheet, const Affine& mmToPage) {
    const auto marks = pageMarks(flat, sheet);
    return "q /Registration CS 1 SCN 0.25 w\n" + lines(marks, false, mmToPage) + "[3 2] 0 d\n" +
           lines(marks, true, mmToPage) + "Q\n";
}

} // namespace glyptos
