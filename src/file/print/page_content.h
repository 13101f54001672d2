// What stands on a print page, as PDF operators (ISO 32000-1, annex A).
#pragma once

#include "base/units.h"
#include "color/profile.h"
#include "file/print/front_words.h"
#include "form/flat.h"

#include <string>

namespace glyptos {

/// A number as PDF has it, to a ten-thousandth.
std::string pdfNumber(double v);

/// One sheet as a page, in points with the origin at the lower left of the MediaBox.
class PrintPage {
  public:
    PrintPage(const Flat& flat, size_t sheet, Ppi resolution);
    /// From the flat in mm (y down) to the page in points (y up).
    Affine mmToPage() const;
    /// From output pixels to the page.
    Affine pxToPage() const;
    Rect onPage(const Rect& mm) const { return mmToPage().mapBounds(mm); }
    Rect media() const { return onPage(mediaMm_); }
    const Sheet& sheet() const { return flat_.sheets[sheet_]; }
    /// Crop and fold marks.
    std::string marks() const;

  private:
    const Flat& flat_;
    size_t sheet_;
    Ppi resolution_;
    Rect mediaMm_;
};

/// A path to be filled, mapped to the page.
std::string pathOperators(const Path& path, const Affine& map);
/// The picture /Art over its area in output pixels.
std::string artOperators(const PrintPage& page, const IntRect& area);
std::string wordOperators(const PrintPage& page, const std::vector<OutlinedText>& words,
                          const ToPress& press);

} // namespace glyptos
