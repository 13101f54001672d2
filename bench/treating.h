// Grades and treatments on one picture of 3750² in floats, and in the demo's window.
#pragma once

#include "clock.h"

#include <vector>

namespace glyptos::bench {

/// Soft blurs of four widths; the widest against the narrowest, and one against OpenCV's of 8 bits.
std::vector<Row> blurs();
/// A look table against a copy of the same bytes; five grades against one.
std::vector<Row> grades();
/// Treatments that have a budget each.
std::vector<Row> treatments();

} // namespace glyptos::bench
