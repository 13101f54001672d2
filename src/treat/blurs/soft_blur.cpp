// A Gaussian, as wide as it may be (filters.h).

#include "treat/filters.h"

namespace glyptos {
namespace {

enum { Sigma, KeepOutline };
constexpr Figure kFigures[]{length("sigma", "Softness", 2), flag("keepOutline", "Keep the outline", false)};

std::vector<Need> needs(const Figures& f, const Place& place) {
    const double sigma = place.px(f.number(Sigma));
    if (sigma < 0.05) return {};
    std::vector<Need> out{wideGaussian(sigma).need()};
    if (f.flag(KeepOutline)) out.push_back({0, 0});
    return out;
}

/// The colours of what was smoothed, as covering as it was before.
void withOutline(const Planes& before, Planes& out) {
    for (int y = out.area.y; y < out.area.bottom(); ++y)
        for (int x = 0; x < out.area.w; ++x) {
            const float alpha = before.row(3, y)[x], smooth = out.row(3, y)[x];
            const float k = smooth > 1e-6f ? alpha / smooth : 0.0f;
            for (int c = 0; c < 3; ++c) out.row(c, y)[x] *= k;
            out.row(3, y)[x] = alpha;
        }
}

void draw(const AroundJob& job, Planes& out) {
    out = smoothed(job.inputs[0], wideGaussian(job.place.px(job.figures.number(Sigma))), out.area);
    if (job.figures.flag(KeepOutline)) withOutline(job.inputs[1], out);
}

} // namespace

extern const TreatmentKind kSoftBlur{
    "soft-blur", "Soft blur", TreatmentFamily::Blur, kFigures, false, false, nullptr, needs, draw};

} // namespace glyptos
