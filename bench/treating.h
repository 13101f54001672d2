// Grades and treatments on one picture of 3750² in floats, and in the demo's window.
#pragma once

#include "clock.h"
#include "type/font_library.h"

#include <string>
#include <vector>

namespace glyptos::bench {

/// Soft blurs of four widths; the widest against the narrowest, and one against OpenCV's of 8 bits.
std::vector<Row> blurs();
/// A look table against a copy of the same bytes; five grades against one.
std::vector<Row> grades();
/// Treatments that have a budget each.
std::vector<Row> treatments();

/// Every treatment of the demo's takes with its figures a little farther on, at 900 × 600 and fit zoom: the
/// coarse picture that comes first, and the full one.
std::vector<Row> demoSliders(const FontLibrary& fonts, const std::string& demo);
/// A layer with ten treatments under others: panning there and back, and another layer moved, against the
/// same without treatments.
std::vector<Row> tenBelow(const FontLibrary& fonts);
/// A gatefold at its full size whose twenty layers have three treatments each; ms. For a process of its own.
double flattenTreated(const FontLibrary& fonts);

} // namespace glyptos::bench
