#include "treat/grades/channel_tables.h"

#include "treat/grades/table_rows.h"
#include "treat/vector_math.h"

namespace glyptos {
GLYPTOS_ROWS void findPlaces(const float* __restrict values, size_t n, int steps,
                             TablePlaces& __restrict out) {
    const auto most = float(steps);
    for (size_t i = 0; i < n; ++i) {
        const float at = rows::clamp01(values[i]) * most;
        const auto below = int32_t(at);
        out.at[i] = below;
        out.share[i] = at - float(below);
    }
}

GLYPTOS_ROWS void lookUp(const float* __restrict table, const TablePlaces& __restrict places,
                         float* __restrict out, size_t n) {
    for (size_t i = 0; i < n; ++i) {
        const int32_t k = places.at[i];
        out[i] = table[k] + (table[k + 1] - table[k]) * places.share[i];
    }
}

void lookUpRow(float* values, const ToneTable& table, size_t n) {
    TablePlaces places;
    for (size_t x = 0; x < n; x += TablePlaces::kRoom) {
        const size_t m = std::min(TablePlaces::kRoom, n - x);
        findPlaces(values + x, m, kToneSteps, places);
        lookUp(table.data(), places, values + x, m);
    }
}

ColourOp lookUp(ToneTable red, ToneTable green, ToneTable blue) {
    return [r = std::move(red), g = std::move(green), b = std::move(blue)](const ColourRow& row) {
        lookUpRow(row.r, r, row.n);
        lookUpRow(row.g, g, row.n);
        lookUpRow(row.b, b, row.n);
    };
}

ColourOp lookUp(const ToneTable& all) {
    return lookUp(all, all, all);
}

} // namespace glyptos
