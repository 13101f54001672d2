// What stands on a print page, as PDF operators (ISO 32000-1, annex A).
#pragma once

#include "base/units.h"
#include "color/profile.h"
#include "file/print/front_words.h"
#include "form/flat.h"

#include <array>
#include <string>

namespace glyptos {

/// A number as PDF has it, to a ten-thousandth.
std::string pdfNumber(double v);

/// How the page's resources call the colour space of its i-th plate besides the four inks.
std::string plateSpace(size_t i);

/// One sheet as a page, in points with the origin at the lower left of the MediaBox.
class PrintPage {
  public:
    /// `slug`: with room for it below the marks.
    PrintPage(const Flat& flat, size_t sheet, Ppi resolution, bool slug = false);
    /// From the flat in mm (y down) to the page in points (y up).
    Affine mmToPage() const;
    /// From output pixels to the page.
    Affine pxToPage() const;
    Rect onPage(const Rect& mm) const { return mmToPage().mapBounds(mm); }
    Rect media() const { return onPage(mediaMm_); }
    const Sheet& sheet() const { return flat_.sheets[sheet_]; }
    /// Crop and fold marks.
    std::string marks() const;
    /// The sheet's cut lines, or its creases, in the colour space of that plate, over everything.
    std::string cutOperators(size_t plate) const;
    std::string creaseOperators(size_t plate) const;

  private:
    const Flat& flat_;
    size_t sheet_;
    Ppi resolution_;
    Rect mediaMm_;
};

/// A path to be filled, mapped to the page.
std::string pathOperators(const Path& path, const Affine& map);
/// The picture of that name over its area in output pixels; one that overprints leaves all other plates as
/// they are.
std::string pictureOperators(const PrintPage& page, const IntRect& area, const std::string& name,
                             bool overprints = false);

/// How words are inked.
struct WordInks {
    const ToPress& press;
    std::vector<Swatch> spots; ///< in the order of plateSpace()
    double richBlackFrom = 0;  ///< pt from which pure black is of all inks; 0: none
};
/// Words in black alone print over whatever is there, as small type must so that it shows no edge.
std::string wordOperators(const PrintPage& page, const std::vector<OutlinedText>& words,
                          const WordInks& inks);
/// Whether any of them is in press inks, and then in which (cyan, magenta, yellow, black).
std::array<bool, 4> inksOf(const std::vector<OutlinedText>& words, const WordInks& inks);

} // namespace glyptos
