#include "treat/colour_op.h"

#include "treat/vector_math.h"

#include <utility>

namespace glyptos {
namespace {

GLYPTOS_ROWS void toLinear(const ColourRow& row) {
    float* __restrict r = row.r, * __restrict g = row.g, * __restrict b = row.b;
    for (size_t i = 0; i < row.n; ++i) {
        r[i] = rows::toLinearWithin(r[i]);
        g[i] = rows::toLinearWithin(g[i]);
        b[i] = rows::toLinearWithin(b[i]);
    }
}

GLYPTOS_ROWS void fromLinear(const ColourRow& row) {
    float* __restrict r = row.r, * __restrict g = row.g, * __restrict b = row.b;
    for (size_t i = 0; i < row.n; ++i) {
        r[i] = rows::clamp01(rows::toEncodedWithin(rows::clamp01(r[i])));
        g[i] = rows::clamp01(rows::toEncodedWithin(rows::clamp01(g[i])));
        b[i] = rows::clamp01(rows::toEncodedWithin(rows::clamp01(b[i])));
    }
}

GLYPTOS_ROWS void linearToLab(const ColourRow& row) {
    float* __restrict r = row.r, * __restrict g = row.g, * __restrict b = row.b;
    for (size_t i = 0; i < row.n; ++i) {
        const rows::Lab lab = rows::toLab({r[i], g[i], b[i]});
        r[i] = lab.L, g[i] = lab.a, b[i] = lab.b;
    }
}

GLYPTOS_ROWS void labToLinear(const ColourRow& row) {
    float* __restrict r = row.r, * __restrict g = row.g, * __restrict b = row.b;
    for (size_t i = 0; i < row.n; ++i) {
        const rows::Linear out = rows::fromLab({r[i], g[i], b[i]});
        r[i] = out.r, g[i] = out.g, b[i] = out.b;
    }
}

GLYPTOS_ROWS void keepWithin(const ColourRow& row) {
    for (float* __restrict values : {row.r, row.g, row.b})
        for (size_t i = 0; i < row.n; ++i) values[i] = rows::clamp01(values[i]);
}

} // namespace

void RowInSpace::finish(ColourSpace next) {
    const ColourOp* op = std::exchange(waiting_, nullptr);
    if (!op) return;
    if (next == ColourSpace::Encoded) {
        op->act(row_);
        keepWithin(row_);
    } else {
        op->actToLinear(row_);
        space_ = ColourSpace::Linear;
    }
}

void RowInSpace::to(ColourSpace space) {
    finish(space);
    if (space == space_) return;
    if (space_ == ColourSpace::Encoded) toLinear(row_);
    if (space_ == ColourSpace::Oklab) labToLinear(row_);
    if (space == ColourSpace::Oklab) linearToLab(row_);
    if (space == ColourSpace::Encoded) fromLinear(row_);
    space_ = space;
}

void RowInSpace::apply(const ColourOp& op) {
    to(op.space());
    if (op.canLeaveLinear()) return void(waiting_ = &op);
    op.act(row_);
    if (space_ == ColourSpace::Encoded) keepWithin(row_);
}

void ColourOp::operator()(const ColourRow& row) const {
    RowInSpace on(row);
    on.apply(*this);
    on.toEncoded();
}

} // namespace glyptos
