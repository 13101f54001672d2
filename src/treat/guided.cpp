#include "treat/guided.h"

namespace glyptos {
namespace {

IntRect shrunk(const IntRect& r, int by) {
    return {r.x + by, r.y + by, r.w - 2 * by, r.h - 2 * by};
}

} // namespace

Need Surroundings::need(const WideGaussian& how) {
    Need out = how.need();
    out.reach += gaussianReach(how.sigma) + 1;
    return out;
}

Surroundings::Surroundings(const Planes& in, const WideGaussian& how)
    : in_(in)
    , how_(how)
    , middle_(shrunk(in.area, gaussianReach(how.sigma)))
    , inner_(shrunk(middle_, gaussianReach(how.sigma)))
    , weight_(mean(in.c[3])) {}

Guided::Guided(const Surroundings& around, const Plane& guide, float epsilon)
    : around_(around)
    , guide_(guide)
    , epsilon_(epsilon)
    , mean_(around.mean(guide))
    , square_(around.mean(product(guide, guide))) {}

/// Premultiplied, as its factors are.
Plane Guided::product(const Plane& a, const Plane& b) const {
    const IntRect& area = around_.picture().area;
    Plane out(area);
    for (int y = area.y; y < area.bottom(); ++y) {
        const float *p = a.row(y), *q = b.row(y), *alpha = around_.picture().row(3, y);
        float* to = out.row(y);
        for (int x = 0; x < area.w; ++x) to[x] = alpha[x] > 0 ? p[x] * q[x] / alpha[x] : 0;
    }
    return out;
}

Guided::Line Guided::of(const Plane& channel, const IntRect& area) const {
    const bool isGuide = &channel == &guide_;
    const Plane values = isGuide ? Plane() : around_.mean(channel),
                products = isGuide ? Plane() : around_.mean(product(channel, guide_));
    const Plane &value = isGuide ? mean_ : values, &both = isGuide ? square_ : products;
    const IntRect& middle = around_.middle();
    Plane slope(middle), offset(middle);
    for (int y = middle.y; y < middle.bottom(); ++y)
        for (int x = 0; x < middle.w; ++x) {
            const float w = std::max(around_.weight().row(y)[x], 1e-6f), guide = mean_.row(y)[x] / w,
                        v = value.row(y)[x] / w;
            const float variance = std::max(square_.row(y)[x] / w - guide * guide, 0.0f);
            const float shared = isGuide ? variance : both.row(y)[x] / w - guide * v;
            slope.row(y)[x] = shared / (variance + epsilon_);
            offset.row(y)[x] = v - slope.row(y)[x] * guide;
        }
    const WideGaussian& how = around_.how();
    return {resized(gaussian(slope, around_.inner(), how.sigma), how.level, area),
            resized(gaussian(offset, around_.inner(), how.sigma), how.level, area)};
}

} // namespace glyptos
