#include "render/tiles/grade_rows.h"

#include "raster/light.h"

#include <algorithm>

namespace glyptos {
namespace {

/// Straight colours of a premultiplied row; of nothing, black.
void toStraight(const RowPlanes& row, const RowPlanes& out, size_t n) {
    for (size_t x = 0; x < n; ++x) {
        const float alpha = row.c[3][x], inverse = alpha > 0 ? 1 / alpha : 0;
        for (int c = 0; c < 3; ++c) out.c[c][x] = row.c[c][x] * inverse;
    }
}

void fillAlpha(const RowPlanes& row, size_t n) {
    std::fill_n(row.c[3], n, 1.0f);
}

void copyColours(const RowPlanes& from, const RowPlanes& to, size_t n) {
    for (int c = 0; c < 3; ++c) std::copy_n(from.c[c], n, to.c[c]);
}

/// What is laid on a backdrop: how, and where.
struct Laying {
    BlendMode blend;
    float opacity;
    const Tile* mask; ///< nothing: everywhere
};

/// Opaque colours over opaque colours, in place; `over` is used up.
void lay(const Laying& how, const RowPlanes& over, const RowPlanes& backdrop, int y, const IntRect& region,
         Scratch& scratch) {
    const auto n = size_t(region.w);
    fillAlpha(over, n);
    fillAlpha(backdrop, n);
    if (how.mask) {
        unpackPlane(how.mask->row(0, y - region.y), scratch.share.data(), n);
        for (float* plane : over.c)
            for (size_t x = 0; x < n; ++x) plane[x] *= scratch.share[x];
    }
    blendRow(how.blend, backdrop, over, how.opacity, n);
}

/// One grade on straight colours, which `row` takes from space to space, in place. `alpha` is that of the
/// art.
void applyStep(const GradeStep& step, const RowPlanes& straight, RowInSpace& row, const float* alpha,
               const BandRows& at, int y, Scratch& scratch, size_t depth) {
    if (step.opacity >= 1 && step.blend == BlendMode::Normal && !step.mask) return row.apply(step.grade->op);
    const auto n = size_t(at.region.w);
    const RowPlanes target = scratch.band(depth + 2).row(y - at.y);
    row.toEncoded();
    copyColours(straight, target, n);
    step.grade->op({target.c[0], target.c[1], target.c[2], alpha, at.region.x, y, n});
    lay({step.blend, step.opacity, step.mask.get()}, target, straight, y, at.region, scratch);
}

} // namespace

void gradeBand(const PreparedLayer& layer, const BandRows& at, Band& onto, Scratch& scratch, size_t depth) {
    const auto& steps = std::get<GradeRows>(layer.rows).steps;
    const auto n = size_t(at.region.w);
    const bool plain = layer.opacity >= 1 && layer.blend == BlendMode::Normal && !layer.mask;
    for (int r = 0; r < at.rows; ++r) {
        const int y = at.y + r;
        const RowPlanes row = onto.row(r), before = scratch.band(depth + 1).row(r),
                        graded = scratch.sourceRow();
        toStraight(row, before, n);
        copyColours(before, graded, n);
        fillAlpha(graded, n);
        if (scratch.linear) toEncodedRow(graded, n);
        RowInSpace in({graded.c[0], graded.c[1], graded.c[2], row.c[3], at.region.x, y, n});
        for (const GradeStep& step : steps) applyStep(step, graded, in, row.c[3], at, y, scratch, depth);
        in.toEncoded();
        if (scratch.linear) toLinearRow(graded, n);
        const RowPlanes& result = plain ? graded : before;
        if (!plain)
            lay({layer.blend, layer.opacity, layer.mask.get()}, graded, before, y, at.region, scratch);
        for (int c = 0; c < 3; ++c)
            for (size_t x = 0; x < n; ++x) row.c[c][x] = result.c[c][x] * row.c[3][x];
    }
}

} // namespace glyptos
