#include "treat/grades/channel_tables.h"

#include "treat/vector_math.h"

namespace glyptos {
namespace {

GLYPTOS_ROWS void lookUpRow(float* values, const float* table, size_t n) {
    for (size_t i = 0; i < n; ++i) {
        const float at = rows::clamp01(values[i]) * kToneSteps;
        const auto below = int(at);
        const float share = at - float(below);
        values[i] = table[below] + (table[below + 1] - table[below]) * share;
    }
}

} // namespace

ColourOp lookUp(ToneTable red, ToneTable green, ToneTable blue) {
    return [r = std::move(red), g = std::move(green), b = std::move(blue)](const ColourRow& row) {
        lookUpRow(row.r, r.data(), row.n);
        lookUpRow(row.g, g.data(), row.n);
        lookUpRow(row.b, b.data(), row.n);
    };
}

ColourOp lookUp(const ToneTable& all) {
    return lookUp(all, all, all);
}

} // namespace glyptos
