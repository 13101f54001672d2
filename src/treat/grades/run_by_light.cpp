#include "treat/grades/run_by_light.h"

#include "treat/vector_math.h"

namespace glyptos {
namespace {

struct Tables {
    const float *r, *g, *b, *a;
};

GLYPTOS_ROWS void colourRow(const ColourRow& row, const Tables& t) {
    float *r = row.r, *g = row.g, *b = row.b;
    for (size_t i = 0; i < row.n; ++i) {
        const float at = rows::clamp01(0.2126f * r[i] + 0.7152f * g[i] + 0.0722f * b[i]) * RunTable::kSteps;
        const auto k = int(at);
        const float s = at - float(k);
        const float alpha = t.a[k] + (t.a[k + 1] - t.a[k]) * s;
        r[i] += (t.r[k] + (t.r[k + 1] - t.r[k]) * s - r[i]) * alpha;
        g[i] += (t.g[k] + (t.g[k + 1] - t.g[k]) * s - g[i]) * alpha;
        b[i] += (t.b[k] + (t.b[k + 1] - t.b[k]) * s - b[i]) * alpha;
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
    return [t = std::move(table)](const ColourRow& row) {
        colourRow(row, {t.r.data(), t.g.data(), t.b.data(), t.a.data()});
    };
}

} // namespace glyptos
