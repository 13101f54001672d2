#include "treat/grades/channel_tables.h"

#include "treat/grades/table_rows.h"
#include "treat/vector_math.h"

#include <cstring>

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

using Two = float __attribute__((vector_size(8)));
using Four = float __attribute__((vector_size(16)));

Two entriesAt(const float* table, int32_t k) {
    Two out;
    std::memcpy(&out, table + k, sizeof out);
    return out;
}

// Both entries of a value by one load: instructions that gather those of several values take longer.
void lookUp(const float* __restrict table, const TablePlaces& __restrict places, float* __restrict out,
            size_t n) {
    size_t i = 0;
    for (; i + 4 <= n; i += 4) {
        const int32_t* at = places.at + i;
        const Two a = entriesAt(table, at[0]), b = entriesAt(table, at[1]), c = entriesAt(table, at[2]),
                  d = entriesAt(table, at[3]);
        const Four ab = __builtin_shufflevector(a, b, 0, 1, 2, 3),
                   cd = __builtin_shufflevector(c, d, 0, 1, 2, 3);
        const Four lower = __builtin_shufflevector(ab, cd, 0, 2, 4, 6),
                   upper = __builtin_shufflevector(ab, cd, 1, 3, 5, 7);
        Four share;
        std::memcpy(&share, places.share + i, sizeof share);
        const Four between = lower + (upper - lower) * share;
        std::memcpy(out + i, &between, sizeof between);
    }
    for (; i < n; ++i) {
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

namespace {

/// Of a table that gives encoded values: what they are in linear light.
ToneTable inLinear(ToneTable table) {
    for (float& v : table) v = rows::toLinear(rows::clamp01(v));
    return table;
}

auto lookUpEach(ToneTable red, ToneTable green, ToneTable blue) {
    return [r = std::move(red), g = std::move(green), b = std::move(blue)](const ColourRow& row) {
        lookUpRow(row.r, r, row.n);
        lookUpRow(row.g, g, row.n);
        lookUpRow(row.b, b, row.n);
    };
}

/// One table stays in the nearest cache.
auto lookUpAll(ToneTable all) {
    return [t = std::move(all)](const ColourRow& row) {
        for (float* values : {row.r, row.g, row.b}) lookUpRow(values, t, row.n);
    };
}

} // namespace

ColourOp lookUp(const ToneTable& red, const ToneTable& green, const ToneTable& blue) {
    return {lookUpEach(red, green, blue), lookUpEach(inLinear(red), inLinear(green), inLinear(blue))};
}

ColourOp lookUp(const ToneTable& all) {
    return {lookUpAll(all), lookUpAll(inLinear(all))};
}

} // namespace glyptos
