// Noise and the blocks of JPEG taken out.
//
// Noise: the picture is told as differences between Gaussians of 1, 2 and 4 times the size of a grain; what
// of a difference is below a threshold is taken off, and as much of what is above (soft thresholds: D. L.
// Donoho, "De-noising by soft-thresholding", 1995), in luma and the two differences of colour from it, each
// with its own threshold, which halves from scale to scale.
// Blocks: the guided filter of each channel by the luma (K. He et al., "Guided Image Filtering", 2010) within
// about a block, which smooths steps that are lower than its edge and leaves higher ones.

#include "treat/filters.h"
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
    const WideGaussian how = blockOf(f, place);
    Need need = how.need();
    need.reach += gaussianReach(how.sigma) + 1;
    return {need, {0, 0}};
}

void eachPixel(const IntRect& area, auto act) {
    for (int y = area.y; y < area.bottom(); ++y)
        for (int x = area.x; x < area.right(); ++x) act(x, y);
}

/// The product of two channels, the second straight.
Plane product(const Planes& in, const Plane& first, const Plane& second) {
    Plane out(in.area);
    eachPixel(in.area, [&](int x, int y) {
        const float alpha = in.c[3].at(x, y);
        out.row(y)[x - in.area.x] = alpha > 0 ? first.at(x, y) * second.at(x, y) / alpha : 0;
    });
    return out;
}

void drawBlocks(const AroundJob& job, Planes& out) {
    constexpr double kHighest = 0.12;
    const Planes& in = job.inputs[0];
    const WideGaussian how = blockOf(job.figures, job.place);
    const auto edge = float(kHighest * job.figures.number(Strength)), epsilon = edge * edge;
    const int round = gaussianReach(how.sigma);
    const auto shrunk = [](const IntRect& r, int by) {
        return IntRect{r.x + by, r.y + by, r.w - 2 * by, r.h - 2 * by};
    };
    const IntRect middle = shrunk(in.area, round), inner = shrunk(middle, round);
    const auto mean = [&](const Plane& p) { return gaussian(p, middle, how.sigma); };
    Plane guide(in.area), own(out.area);
    out = copyOf(job.inputs[1]);
    const auto lumaOf = [](const Planes& p, int x, int y) {
        return 0.2126f * p.c[0].at(x, y) + 0.7152f * p.c[1].at(x, y) + 0.0722f * p.c[2].at(x, y);
    };
    eachPixel(in.area, [&](int x, int y) { guide.row(y)[x - in.area.x] = lumaOf(in, x, y); });
    eachPixel(out.area, [&](int x, int y) { own.row(y)[x - out.area.x] = lumaOf(out, x, y); });
    const Plane weight = mean(in.c[3]), light = mean(guide), square = mean(product(in, guide, guide));
    for (int c = 0; c < 3; ++c) {
        const Plane value = mean(in.c[c]), both = mean(product(in, in.c[c], guide));
        Plane a(middle), b(middle);
        eachPixel(middle, [&](int x, int y) {
            const float w = std::max(weight.at(x, y), 1e-6f), m = light.at(x, y) / w, v = value.at(x, y) / w;
            const float variance = std::max(square.at(x, y) / w - m * m, 0.0f);
            const float slope = (both.at(x, y) / w - m * v) / (variance + epsilon);
            a.row(y)[x - middle.x] = slope, b.row(y)[x - middle.x] = v - slope * m;
        });
        const Plane slopes = resized(gaussian(a, inner, how.sigma), how.level, out.area),
                    offsets = resized(gaussian(b, inner, how.sigma), how.level, out.area);
        eachPixel(out.area, [&](int x, int y) {
            const float alpha = out.c[3].at(x, y);
            out.row(c, y)[x - out.area.x] =
                rows::upTo(alpha, own.at(x, y) * slopes.at(x, y) + alpha * offsets.at(x, y));
        });
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
