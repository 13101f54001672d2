// Smooth where there is little to see and sharp where there are edges: the guided filter of a picture by
// itself (K. He et al., "Guided Image Filtering", 2010; its coefficients halved as in "Fast Guided Filter",
// 2015). For each channel, within Gaussian neighbourhoods of mean m and variance v, q = a · p + (1 - a) · m
// with a = v / (v + ε), the coefficients smoothed once more. Colours are straight; alpha stays.

#include "treat/filters.h"
#include "treat/vector_math.h"

namespace glyptos {
namespace {

enum { Radius, Edge };
constexpr Figure kFigures[]{length("radius", "Radius", 2), share("edge", "Edges from", 0.1, 0.005, 1)};

std::vector<Need> needs(const Figures& f, const Place& place) {
    const double radius = place.px(f.number(Radius));
    if (radius < 0.3) return {};
    Need wide = wideGaussian(radius).need();
    wide.reach += gaussianReach(wideGaussian(radius).sigma) + 1;
    return {wide, {0, 0}};
}

IntRect shrunk(const IntRect& r, int by) {
    return {r.x + by, r.y + by, r.w - 2 * by, r.h - 2 * by};
}

void draw(const AroundJob& job, Planes& out) {
    const Planes& in = job.inputs[0];
    const WideGaussian how = wideGaussian(job.place.px(job.figures.number(Radius)));
    const auto border = float(job.figures.number(Edge)), epsilon = border * border;
    const int round = gaussianReach(how.sigma);
    const IntRect middle = shrunk(in.area, round), inner = shrunk(middle, round);
    out = copyOf(job.inputs[1]);
    const Plane weight = gaussian(in.c[3], middle, how.sigma);
    for (int c = 0; c < 3; ++c) {
        // Weighted by alpha, so that what is see-through has no say.
        Plane square(in.area);
        for (int y = in.area.y; y < in.area.bottom(); ++y)
            for (int x = 0; x < in.area.w; ++x) {
                const float alpha = in.row(3, y)[x], v = in.row(c, y)[x];
                square.row(y)[x] = alpha > 0 ? v * v / alpha : 0;
            }
        const Plane sum = gaussian(in.c[c], middle, how.sigma), squares = gaussian(square, middle, how.sigma);
        Plane a(middle), b(middle);
        for (int y = middle.y; y < middle.bottom(); ++y)
            for (int x = 0; x < middle.w; ++x) {
                const float w = std::max(weight.row(y)[x], 1e-6f), mean = sum.row(y)[x] / w;
                const float variance = std::max(squares.row(y)[x] / w - mean * mean, 0.0f);
                a.row(y)[x] = variance / (variance + epsilon);
                b.row(y)[x] = (1 - a.row(y)[x]) * mean;
            }
        const Plane scale = resized(gaussian(a, inner, how.sigma), how.level, out.area),
                    offset = resized(gaussian(b, inner, how.sigma), how.level, out.area);
        for (int y = out.area.y; y < out.area.bottom(); ++y)
            for (int x = 0; x < out.area.w; ++x) {
                const float alpha = out.row(3, y)[x];
                float& v = out.row(c, y)[x];
                v = alpha * rows::clamp01((alpha > 0 ? v / alpha : 0) * scale.row(y)[x] + offset.row(y)[x]);
            }
    }
}

} // namespace

extern const TreatmentKind kEdgeKeepingBlur{"edge-keeping-blur",
                                            "Edge-keeping blur",
                                            TreatmentFamily::Blur,
                                            kFigures,
                                            false,
                                            false,
                                            nullptr,
                                            needs,
                                            draw};

} // namespace glyptos
