// Internal to grades: what each channel becomes by itself, as a table that rows are looked up in.
#pragma once

#include "treat/kind.h"

namespace glyptos {

/// 0…1 in 4096 steps, with straight lines between: a line is kept exactly, a curve within 1e-6.
inline constexpr int kToneSteps = 4096;
using ToneTable = std::vector<float>;

template <class Function>
ToneTable toneTable(Function function) {
    ToneTable out(kToneSteps + 2);
    for (int i = 0; i <= kToneSteps; ++i) out[size_t(i)] = float(function(double(i) / kToneSteps));
    out.back() = out[kToneSteps];
    return out;
}

/// Looks up a row in place; what lies outside 0…1 becomes what its end does.
void lookUpRow(float* values, const ToneTable& table, size_t n);
/// Looks up red, green and blue.
ColourOp lookUp(const ToneTable& red, const ToneTable& green, const ToneTable& blue);
/// All three in one table.
ColourOp lookUp(const ToneTable& all);

} // namespace glyptos
