#include "file/print_marks.h"

#include "base/text.h"

#include <utility>
#include <vector>

namespace glyptos {
namespace {

constexpr Mm kGap{1};    // between the bleed and a mark
constexpr Mm kLength{6}; // of a mark

using Segment = std::pair<Vec2, Vec2>;

std::vector<Segment> cropMarks(const Rect& trim, const Rect& bleed) {
    std::vector<Segment> out;
    const double gap = kGap.value, far = kGap.value + kLength.value;
    for (const double x : {trim.x, trim.right()}) {
        out.push_back({{x, bleed.y - far}, {x, bleed.y - gap}});
        out.push_back({{x, bleed.bottom() + gap}, {x, bleed.bottom() + far}});
    }
    for (const double y : {trim.y, trim.bottom()}) {
        out.push_back({{bleed.x - far, y}, {bleed.x - gap, y}});
        out.push_back({{bleed.right() + gap, y}, {bleed.right() + far, y}});
    }
    return out;
}

/// Marks in line with each fold that reaches from edge to edge of the flat; folds along the trim have the
/// crop marks.
std::vector<Segment> foldMarks(const Flat& flat, const Rect& trim, const Rect& bleed) {
    std::vector<Segment> out;
    const double gap = kGap.value, far = kGap.value + kLength.value;
    for (const Fold& fold : flat.folds) {
        if (fold.from.x == fold.to.x && fold.from.x > trim.x && fold.from.x < trim.right()) {
            out.push_back({{fold.from.x, bleed.y - far}, {fold.from.x, bleed.y - gap}});
            out.push_back({{fold.from.x, bleed.bottom() + gap}, {fold.from.x, bleed.bottom() + far}});
        } else if (fold.from.y == fold.to.y && fold.from.y > trim.y && fold.from.y < trim.bottom()) {
            out.push_back({{bleed.x - far, fold.from.y}, {bleed.x - gap, fold.from.y}});
            out.push_back({{bleed.right() + gap, fold.from.y}, {bleed.right() + far, fold.from.y}});
        }
    }
    return out;
}

std::string lines(const std::vector<Segment>& segments, const Affine& mmToPage) {
    std::string out;
    const auto put = [&](Vec2 mm) {
        const Vec2 p = mmToPage.map(mm);
        return shortNumber(p.x, 4) + " " + shortNumber(p.y, 4) + " ";
    };
    for (const auto& [from, to] : segments) out += put(from) + "m " + put(to) + "l\n";
    return out + "S\n";
}

} // namespace

std::string markOperators(const Flat& flat, const Affine& mmToPage) {
    const Rect trim = flat.trim(), bleed = flat.withBleed();
    return "q /Registration CS 1 SCN 0.25 w\n" + lines(cropMarks(trim, bleed), mmToPage) + "[3 2] 0 d\n" +
           lines(foldMarks(flat, trim, bleed), mmToPage) + "Q\n";
}

} // namespace glyptos
