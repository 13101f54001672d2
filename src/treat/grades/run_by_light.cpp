#include "treat/grades/run_by_light.h"

#include "treat/grades/table_rows.h"
#include "treat/vector_math.h"

namespace glyptos {
namespace {

GLYPTOS_ROWS void lumaRow(const ColourRow& row, size_t first, size_t n, float* __restrict out) {
    const float* __restrict r = row.r + first, * __restrict g = row.g + first, * __restrict b = row.b + first;
    for (size_t i = 0; i < n; ++i) out[i] = 0.2126f * r[i] + 0.7152f * g[i] + 0.0722f * b[i];
}

GLYPTOS_ROWS void mixRow(float* __restrict values, const float* __restrict over,
                         const float* __restrict share, size_t n) {
    for (size_t i = 0; i < n; ++i) values[i] += (over[i] - values[i]) * share[i];
}

void colourRow(const ColourRow& row, const RunTable& t) {
    constexpr size_t kRoom = TablePlaces::kRoom;
    TablePlaces places;
    float luma[kRoom], alpha[kRoom], colour[kRoom];
    for (size_t x = 0; x < row.n; x += kRoom) {
        const size_t n = std::min(kRoom, row.n - x);
        lumaRow(row, x, n, luma);
        findPlaces(luma, n, RunTable::kSteps, places);
        lookUp(t.a.data(), places, alpha, n);
        for (const auto& [values, table] : {std::pair{row.r, &t.r}, {row.g, &t.g}, {row.b, &t.b}}) {
            lookUp(table->data(), places, colour, n);
            mixRow(values + x, colour, alpha, n);
        }
    }
}

} // namespace

RunTable::RunTable() {
    for (auto* plane : {&r, &g, &b, &a}) plane->resize(kSteps + 2);
}

void RunTable::set(int step, const Rgba& colour) {
    const auto put = [&](size_t i) { r[i] = colour.r, g[i] = colour.g, b[i] = colour.b, a[i] = colour.a; };
    put(size_t(step));
    if (step == kSteps) put(kSteps + 1);
}

ColourOp coloursByLight(RunTable table) {
    return [t = std::move(table)](const ColourRow& row) { colourRow(row, t); };
}

} // namespace glyptos
