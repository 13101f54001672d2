#include "file/print/page_content.h"

#include "base/text.h"
#include "file/print/print_marks.h"

namespace glyptos {

std::string pdfNumber(double v) {
    return shortNumber(v, 4);
}

PrintPage::PrintPage(const Flat& flat, size_t sheet, Ppi resolution)
    : flat_(flat)
    , sheet_(sheet)
    , resolution_(resolution)
    , mediaMm_(pageArea(flat.sheets[sheet])) {}

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

std::string artOperators(const PrintPage& page, const IntRect& area) {
    const Rect r = page.pxToPage().mapBounds(area.toRect());
    return "q " + pdfNumber(r.w) + " 0 0 " + pdfNumber(r.h) + " " + pdfNumber(r.x) + " " + pdfNumber(r.y) +
           " cm /Art Do Q\n";
}

std::string wordOperators(const PrintPage& page, const std::vector<OutlinedText>& words,
                          const ToPress& press) {
    std::string out;
    for (const OutlinedText& word : words) {
        const Rect clip = page.pxToPage().mapBounds(word.clip.toRect());
        const Cmyk ink = press.convertSolid(word.colour);
        out += "q " + pdfNumber(clip.x) + " " + pdfNumber(clip.y) + " " + pdfNumber(clip.w) + " " +
               pdfNumber(clip.h) + " re W n\n";
        if (word.prints) out += pathOperators(*word.prints, page.pxToPage() * word.panelToOutput) + "W n\n";
        out += pdfNumber(ink.c) + " " + pdfNumber(ink.m) + " " + pdfNumber(ink.y) + " " + pdfNumber(ink.k) +
               " k\n";
        out += pathOperators(*word.outline, page.pxToPage() * word.toOutput) + "f Q\n";
    }
    return out;
}

} // namespace glyptos
