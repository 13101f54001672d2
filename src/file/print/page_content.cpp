#include "file/print/page_content.h"

#include "base/text.h"
#include "file/print/print_marks.h"
#include "form/board.h"

#include <algorithm>

namespace glyptos {

std::string pdfNumber(double v) {
    return shortNumber(v, 4);
}

namespace {

/// Lines of a quarter point that print on a plate of their own and knock nothing out.
std::string strokeState(size_t plate) {
    return "q /Over gs " + plateSpace(plate) + " CS 1 SCN 0.25 w\n";
}

} // namespace

PrintPage::PrintPage(const Flat& flat, size_t sheet, Ppi resolution, bool slug)
    : flat_(flat)
    , sheet_(sheet)
    , resolution_(resolution)
    , mediaMm_(pageArea(flat.sheets[sheet], slug)) {}

Affine PrintPage::mmToPage() const {
    const double k = kPtPerInch / kMmPerInch;
    return {k, 0, 0, -k, -mediaMm_.x * k, mediaMm_.bottom() * k};
}

Affine PrintPage::pxToPage() const {
    return mmToPage() * Affine::scaling(1 / pxPerMm(resolution_), 1 / pxPerMm(resolution_));
}

std::string PrintPage::marks() const {
    return markOperators(flat_, sheet_, mmToPage());
}

std::string pathOperators(const Path& path, const Affine& map) {
    std::string out;
    const Vec2* p = path.points().data();
    Vec2 at;
    const auto put = [&](Vec2 v) { out += pdfNumber(v.x) + ' ' + pdfNumber(v.y) + ' '; };
    const auto next = [&] { return map.map(*p++); };
    for (const Path::Verb verb : path.verbs()) {
        switch (verb) {
        case Path::Verb::Move:
            put(at = next()), out += "m\n";
            break;
        case Path::Verb::Line:
            put(at = next()), out += "l\n";
            break;
        case Path::Verb::Quad: {
            // A quadratic as the cubic with the same shape: controls two thirds of the way to its own.
            const Vec2 control = next(), end = next();
            put(at + (control - at) * (2.0 / 3)), put(end + (control - end) * (2.0 / 3)), put(end),
                out += "c\n";
            at = end;
            break;
        }
        case Path::Verb::Cubic: {
            put(next()), put(next());
            put(at = next()), out += "c\n";
            break;
        }
        }
    }
    return out;
}

std::string plateSpace(size_t i) {
    return "/Plate" + std::to_string(i);
}

std::string pictureOperators(const PrintPage& page, const IntRect& area, const std::string& name,
                             bool overprints) {
    const Rect r = page.pxToPage().mapBounds(area.toRect());
    return std::string("q ") + (overprints ? "/Over gs " : "") + pdfNumber(r.w) + " 0 0 " + pdfNumber(r.h) +
           " " + pdfNumber(r.x) + " " + pdfNumber(r.y) + " cm /" + name + " Do Q\n";
}

std::string PrintPage::cutOperators(size_t plate) const {
    std::string out = strokeState(plate);
    for (const Polyline& line : cutLines(flat_, sheet_)) {
        for (size_t i = 0; i < line.points.size(); ++i) {
            const Vec2 p = mmToPage().map(line.points[i]);
            out += pdfNumber(p.x) + " " + pdfNumber(p.y) + (i == 0 ? " m\n" : " l\n");
        }
        out += line.closed ? "s\n" : "S\n";
    }
    return out + "Q\n";
}

std::string PrintPage::creaseOperators(size_t plate) const {
    std::string out = strokeState(plate);
    for (const CreaseLine& crease : creaseLines(flat_, sheet_)) {
        const Vec2 a = mmToPage().map(crease.from), b = mmToPage().map(crease.to);
        out +=
            pdfNumber(a.x) + " " + pdfNumber(a.y) + " m " + pdfNumber(b.x) + " " + pdfNumber(b.y) + " l S\n";
    }
    return out + "Q\n";
}

namespace {

/// What large black areas are printed in, so that they are deep.
constexpr Cmyk kRichBlack{0.6, 0.4, 0.4, 1};

Cmyk inkOf(const OutlinedText& word, const WordInks& inks) {
    const Cmyk ink = inks.press.convertSolid(word.colour);
    const bool black = ink.c == 0 && ink.m == 0 && ink.y == 0 && ink.k >= 1;
    return black && inks.richBlackFrom > 0 && word.sizePt >= inks.richBlackFrom ? kRichBlack : ink;
}

/// The operators that choose its ink.
std::string inkOperators(const OutlinedText& word, const WordInks& inks) {
    if (word.spot) {
        const auto at = std::find_if(inks.spots.begin(), inks.spots.end(),
                                     [&](const Swatch& s) { return s.id == word.spot->id; });
        return (word.spot->plate == Plate::Over ? "/Over gs " : "") +
               plateSpace(size_t(at - inks.spots.begin())) + " cs 1 scn\n";
    }
    const Cmyk ink = inkOf(word, inks);
    const bool blackAlone = ink.c == 0 && ink.m == 0 && ink.y == 0 && ink.k >= 1;
    return (blackAlone ? "/Over gs " : "") + pdfNumber(ink.c) + " " + pdfNumber(ink.m) + " " +
           pdfNumber(ink.y) + " " + pdfNumber(ink.k) + " k\n";
}

} // namespace

std::string wordOperators(const PrintPage& page, const std::vector<OutlinedText>& words,
                          const WordInks& inks) {
    std::string out;
    for (const OutlinedText& word : words) {
        const Rect clip = page.pxToPage().mapBounds(word.clip.toRect());
        out += "q " + pdfNumber(clip.x) + " " + pdfNumber(clip.y) + " " + pdfNumber(clip.w) + " " +
               pdfNumber(clip.h) + " re W n\n";
        if (word.prints) out += pathOperators(*word.prints, page.pxToPage() * word.panelToOutput) + "W n\n";
        out += inkOperators(word, inks);
        out += pathOperators(*word.outline, page.pxToPage() * word.toOutput) + "f Q\n";
    }
    return out;
}

std::array<bool, 4> inksOf(const std::vector<OutlinedText>& words, const WordInks& inks) {
    std::array<bool, 4> used{};
    for (const OutlinedText& word : words) {
        if (word.spot) continue;
        const Cmyk ink = inkOf(word, inks);
        for (size_t c = 0; const double share : {ink.c, ink.m, ink.y, ink.k}) used[c++] |= share > 0;
    }
    return used;
}

} // namespace glyptos
