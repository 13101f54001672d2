// Noise and the blocks of JPEG taken out.
//
// Noise: the picture is told as differences between Gaussians of 1, 2 and 4 times the size of a grain; what
// of a difference is below a threshold is taken off, and as much of what is above (soft thresholds: D. L.
// Donoho, "De-noising by soft-thresholding", 1995), in luma and the two differences of colour from it, each
// with its own threshold, which halves from scale to scale.
// Blocks: the guided filter of each channel by the luma (K. He et al., "Guided Image Filtering", 2010) within
// about a block, which smooths steps that are lower than its edge and leaves higher ones.

#include "treat/guided.h"
#include "treat/vector_math.h"

namespace glyptos {
namespace {

enum { LightNoise, ColourNoise, Size };
constexpr Figure kNoiseFigures[]{share("light", "Noise of light", 0.3),
                                 share("colour", "Noise of colour", 0.5),
                                 length("size", "Size of a grain", 0.1, 1e-4)};
constexpr int kScales = 3;

WideGaussian scaleOf(const Figures& f, const Place& place, int k) {
    return wideGaussian(std::max(std::ldexp(place.px(f.number(Size)), k), 0.06));
}

std::vector<Need> noiseNeeds(const Figures& f, const Place& place) {
    if (f.number(LightNoise) == 0 && f.number(ColourNoise) == 0) return {};
    std::vector<Need> out;
    for (int k = 0; k < kScales; ++k) out.push_back(scaleOf(f, place, k).need());
    out.push_back({0, 0});
    return out;
}

/// Red, green and blue as luma and what red and blue have more than it.
struct Parts {
    float light, red, blue;
};
Parts partsAt(const Planes& planes, int i, int y) {
    const float alpha = planes.row(3, y)[i], k = alpha > 1e-6f ? 1 / alpha : 0;
    const float r = planes.row(0, y)[i] * k, g = planes.row(1, y)[i] * k, b = planes.row(2, y)[i] * k;
    const float light = 0.2126f * r + 0.7152f * g + 0.0722f * b;
    return {light, r - light, b - light};
}

float lessBy(float v, float threshold) {
    return v - rows::clamp(v, -threshold, threshold);
}

void drawNoise(const AroundJob& job, Planes& out) {
    constexpr double kStrongest = 0.15;
    const Figures& f = job.figures;
    out = copyOf(job.inputs[kScales]);
    std::array<Planes, kScales> soft;
    for (int k = 0; k < kScales; ++k)
        soft[size_t(k)] = smoothed(job.inputs[size_t(k)], scaleOf(f, job.place, k), out.area);
    const auto light = float(kStrongest * f.number(LightNoise)),
               colour = float(kStrongest * f.number(ColourNoise));
    for (int y = out.area.y; y < out.area.bottom(); ++y)
        for (int i = 0; i < out.area.w; ++i) {
            const float alpha = out.row(3, y)[i];
            if (alpha <= 0) continue;
            Parts finer = partsAt(out, i, y), kept{0, 0, 0};
            float share = 1;
            for (const Planes& scale : soft) {
                const Parts coarser = partsAt(scale, i, y);
                kept.light += lessBy(finer.light - coarser.light, light * share);
                kept.red += lessBy(finer.red - coarser.red, colour * share);
                kept.blue += lessBy(finer.blue - coarser.blue, colour * share);
                finer = coarser, share /= 2;
            }
            const float l = finer.light + kept.light, r = l + finer.red + kept.red,
                        b = l + finer.blue + kept.blue;
            const float g = (l - 0.2126f * r - 0.0722f * b) / 0.7152f;
            out.row(0, y)[i] = alpha * rows::clamp01(r);
            out.row(1, y)[i] = alpha * rows::clamp01(g);
            out.row(2, y)[i] = alpha * rows::clamp01(b);
        }
}

enum { Strength, Block };
constexpr Figure kBlockFigures[]{share("strength", "Strength", 0.4),
                                 length("block", "Side of a block", 0.68, 1e-3)};

WideGaussian blockOf(const Figures& f, const Place& place) {
    return wideGaussian(std::max(place.px(f.number(Block)) * 0.4, 0.06));
}

std::vector<Need> blockNeeds(const Figures& f, const Place& place) {
    if (f.number(Strength) == 0) return {};
    return {Surroundings::need(blockOf(f, place)), {0, 0}};
}

/// Premultiplied luma.
Plane lumaOf(const Planes& in) {
    Plane out(in.area);
    for (int y = in.area.y; y < in.area.bottom(); ++y) {
        const float *r = in.row(0, y), *g = in.row(1, y), *b = in.row(2, y);
        float* to = out.row(y);
        for (int x = 0; x < in.area.w; ++x) to[x] = 0.2126f * r[x] + 0.7152f * g[x] + 0.0722f * b[x];
    }
    return out;
}

void drawBlocks(const AroundJob& job, Planes& out) {
    constexpr double kHighest = 0.12;
    const Planes& in = job.inputs[0];
    const auto edge = float(kHighest * job.figures.number(Strength));
    const Surroundings around(in, blockOf(job.figures, job.place));
    const Plane guide = lumaOf(in), own = lumaOf(job.inputs[1]);
    const Guided guided(around, guide, edge * edge);
    out = copyOf(job.inputs[1]);
    for (int c = 0; c < 3; ++c) {
        const Guided::Line line = guided.of(in.c[c], out.area);
        for (int y = out.area.y; y < out.area.bottom(); ++y) {
            const float *alpha = out.row(3, y), *luma = own.row(y), *slope = line.slope.row(y),
                        *offset = line.offset.row(y);
            float* v = out.row(c, y);
            for (int x = 0; x < out.area.w; ++x)
                v[x] = rows::upTo(alpha[x], luma[x] * slope[x] + alpha[x] * offset[x]);
        }
    }
}

} // namespace

extern const TreatmentKind kNoiseCleanUp{
    "noise-clean-up", "Noise clean-up", TreatmentFamily::Detail, kNoiseFigures, false, false, nullptr,
    noiseNeeds,       drawNoise};
extern const TreatmentKind kBlockCleanUp{"block-clean-up",
                                         "JPEG block clean-up",
                                         TreatmentFamily::Detail,
                                         kBlockFigures,
                                         false,
                                         false,
                                         nullptr,
                                         blockNeeds,
                                         drawBlocks};

} // namespace glyptos
