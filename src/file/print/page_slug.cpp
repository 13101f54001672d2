#include "file/print/page_slug.h"

#include "file/print/print_marks.h"

namespace glyptos {
namespace {

constexpr Mm kPatch{4}, kBelowMarks{1}, kText{2.1}, kGap{1.2}; // side of a patch; em of the line

std::string patch(const PrintPage& page, Vec2 mm, const std::string& colour) {
    const Rect r = page.onPage({mm.x, mm.y, kPatch.value, kPatch.value});
    return colour + pdfNumber(r.x) + " " + pdfNumber(r.y) + " " + pdfNumber(r.w) + " " + pdfNumber(r.h) +
           " re f\n";
}

std::vector<std::string> patches(size_t spots) {
    std::vector<std::string> out;
    for (const char* inks : {"1 0 0 0", "0 1 0 0", "0 0 1 0", "0 0 0 1", "1 1 0 0", "1 0 1 0", "0 1 1 0",
                             ".5 0 0 0", "0 .5 0 0", "0 0 .5 0", "0 0 0 .5"})
        out.push_back(std::string(inks) + " k ");
    for (size_t i = 0; i < spots; ++i) out.insert(out.begin() + 4, plateSpace(i) + " cs 1 scn ");
    return out;
}

std::shared_ptr<const Paragraph> set(const std::string& line, ParagraphCache& paragraphs) {
    TextSpec spec;
    spec.text = line;
    spec.letters.size = kText.value;
    return paragraphs.get(spec);
}

} // namespace

std::string slugOperators(const PrintPage& page, const std::string& line, const std::vector<Swatch>& spots,
                          ParagraphCache& paragraphs) {
    const Rect bleed = page.sheet().withBleed;
    const double top = bleed.bottom() + kMarkZone.value + kBelowMarks.value;
    std::string out = "q\n";
    double x = bleed.x;
    for (const std::string& colour : patches(spots.size())) {
        if (x + kPatch.value > bleed.right()) break;
        out += patch(page, {x, top}, colour);
        x += kPatch.value;
    }
    const Affine place = page.mmToPage() * Affine::translation(bleed.x, top + kPatch.value + kGap.value);
    out += "/Registration cs 1 scn\n" + pathOperators(set(line, paragraphs)->outline, place) + "f\n";
    return out + "Q\n";
}

} // namespace glyptos
