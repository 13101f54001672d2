// Detail by what is left of a picture when its Gaussian is taken off: sharpened, with more of a wide one, or
// shown alone. Colours are straight, so that nothing comes in from what is see-through; alpha stays.

#include "treat/filters.h"
#include "treat/vector_math.h"

namespace glyptos {
namespace {

enum { Amount, Radius, Threshold };
constexpr Figure kSharpenFigures[]{share("amount", "Amount", 0.8, 0, 5),
                                   length("radius", "Radius", 0.15, 1e-4),
                                   share("threshold", "Spares less than", 0.01, 0, 0.5)};
constexpr Figure kContrastFigures[]{share("amount", "Amount", 0.4, -1, 3),
                                    length("radius", "Radius", 6, 1e-4)};
constexpr Figure kHighPassFigures[]{share("amount", "Amount", 1, 0, 5), length("radius", "Radius", 1.5, 1e-4),
                                    flag("grey", "In greys", true)};

std::vector<Need> needs(const Figures& f, const Place& place) {
    if (f.number(Amount) == 0) return {};
    return {wideGaussian(place.px(f.number(Radius))).need(), {0, 0}};
}

/// Calls act(straight, smooth) for each pixel that shows, both arrays of three; what it leaves in `straight`
/// is what becomes of it.
template <class Act>
void eachDetail(const AroundJob& job, Planes& out, Act act) {
    const Planes soft =
        smoothed(job.inputs[0], wideGaussian(job.place.px(job.figures.number(Radius))), out.area);
    out = copyOf(job.inputs[1]);
    for (int y = out.area.y; y < out.area.bottom(); ++y)
        for (int x = 0; x < out.area.w; ++x) {
            const float alpha = out.row(3, y)[x], around = soft.row(3, y)[x];
            if (alpha <= 0) continue;
            const float k = around > 1e-6f ? 1 / around : 0;
            float straight[3], smooth[3];
            for (int c = 0; c < 3; ++c) {
                straight[c] = out.row(c, y)[x] / alpha;
                smooth[c] = soft.row(c, y)[x] * k;
            }
            act(straight, smooth);
            for (int c = 0; c < 3; ++c) out.row(c, y)[x] = alpha * rows::clamp01(straight[c]);
        }
}

float lumaOf(const float (&c)[3]) {
    return 0.2126f * c[0] + 0.7152f * c[1] + 0.0722f * c[2];
}

/// By the difference in luma, so that edges get no coloured rims; what is below the threshold is left alone,
/// smoothly.
void sharpen(const AroundJob& job, Planes& out) {
    const auto amount = float(job.figures.number(Amount)), spared = float(job.figures.number(Threshold));
    eachDetail(job, out, [=](float(&straight)[3], const float(&smooth)[3]) {
        const float detail = lumaOf(straight) - lumaOf(smooth);
        const float weight = spared > 0 ? rows::smooth(0.5f * spared, 1.5f * spared, std::abs(detail)) : 1;
        for (float& v : straight) v += amount * weight * detail;
    });
}

/// The same over a wide neighbourhood, less towards black and white so that nothing is cut there.
void localContrast(const AroundJob& job, Planes& out) {
    const auto amount = float(job.figures.number(Amount));
    eachDetail(job, out, [=](float(&straight)[3], const float(&smooth)[3]) {
        const float luma = lumaOf(straight), detail = luma - lumaOf(smooth);
        const float room = 4 * luma * (1 - luma);
        for (float& v : straight) v += amount * detail * rows::clamp01(0.25f + room);
    });
}

void highPass(const AroundJob& job, Planes& out) {
    const auto amount = float(job.figures.number(Amount));
    const bool grey = job.figures.flag(2);
    eachDetail(job, out, [=](float(&straight)[3], const float(&smooth)[3]) {
        const float luma = lumaOf(straight) - lumaOf(smooth);
        for (int c = 0; c < 3; ++c) straight[c] = 0.5f + amount * (grey ? luma : straight[c] - smooth[c]);
    });
}

} // namespace

extern const TreatmentKind kSharpen{
    "sharpen", "Sharpen", TreatmentFamily::Detail, kSharpenFigures, false, false, nullptr, needs, sharpen};
extern const TreatmentKind kLocalContrast{"local-contrast",
                                          "Local contrast",
                                          TreatmentFamily::Detail,
                                          kContrastFigures,
                                          false,
                                          false,
                                          nullptr,
                                          needs,
                                          localContrast};
extern const TreatmentKind kHighPass{"high-pass",      "High pass", TreatmentFamily::Detail,
                                     kHighPassFigures, false,       false,
                                     nullptr,          needs,       highPass};

} // namespace glyptos
