#include "scene/draw/rasterize.h"

#include "base/srgb_curve.h"
#include "scene/draw/lamp_map.h"
#include "scene/draw/picture_sampler.h"
#include "scene/draw/span_cover.h"

#include <cstring>
#include <tbb/parallel_for.h>

namespace glyptos {
namespace {

constexpr int kSamples = kPixelSamples, kBandRows = 16, kSpan = kSpanPixels;
/// Places of the samples in a pixel, from its middle: each in a row and a column of its own.
constexpr double kSampleX[] = {-0.125, 0.375, -0.375, 0.125}, kSampleY[] = {-0.375, -0.125, 0.125, 0.375};
/// How much of a surface must be there for a sample to be on it.
constexpr float kThere[] = {255 * 0.125f, 255 * 0.625f, 255 * 0.375f, 255 * 0.875f};

SampleLanes sampleLanes() {
    SampleLanes out{};
    for (int i = 0; i < kSpanLanes; ++i) {
        const int pixel = i / kSamples;
        out.x[i] = float(pixel) + float(kSampleX[i % kSamples]);
        out.y[i] = float(kSampleY[i % kSamples]);
    }
    return out;
}

struct Lights {
    const LampMap& map;
    Vec3 from;
    double everywhere;
    bool moving = false; ///< pictures are read in one size alone
};

/// sRGB-encoded bytes times light, which adds up in linear light.
class Shade {
  public:
    Shade() {
        for (int i = 0; i < 256; ++i) linear_[i] = float(decodedSrgb(i / 255.0));
        for (int i = 0; i <= kSteps; ++i)
            encoded_[i] = uint8_t(std::lround(encodedSrgb(double(i) / kSteps) * 255));
    }
    uint8_t operator()(float byte, float light) const {
        const float k = std::clamp(byte, 0.0f, 255.0f);
        const int below = std::min(int(k), 254);
        const float value = linear_[below] + (linear_[below + 1] - linear_[below]) * (k - float(below));
        constexpr float kNearest = 0.5f;
        return encoded_[int(std::min(value * light, 1.0f) * kSteps + kNearest)];
    }

  private:
    static constexpr int kSteps = 8191;
    float linear_[256];
    uint8_t encoded_[kSteps + 1];
};

/// Rows of the picture with all their samples.
class Band {
  public:
    Band(int width, int height, int top, int bottom, const Lights& lights, const Shade& shade)
        : width_(width)
        , top_(top)
        , bottom_(bottom)
        , middleX_(width / 2.0)
        , middleY_(height / 2.0)
        , lights_(lights)
        , shade_(shade)
        , stride_((width + kSpan - 1) / kSpan * kSpan)
        , nearness_(Buffer<float>::passing(size_t(stride_) * size_t(bottom - top) * kSamples))
        , colours_(Buffer<uint32_t>::passing(nearness_.size())) {
        std::fill(nearness_.begin(), nearness_.end(), 0.0f);
        std::fill(colours_.begin(), colours_.end(), 0u);
    }

    void draw(const SeenFacet& seen) {
        light_ = lightOn(seen);
        const int from = std::max(top_, int(std::floor(seen.bounds.y + middleY_ - 1)));
        const int to = std::min(bottom_, int(std::ceil(seen.bounds.bottom() + middleY_ + 1)));
        for (int y = from; y < to; ++y) drawRow(seen, y);
    }

    /// Four of a pixel.
    const uint32_t* samples(int x, int y) const { return colours_.data() + index(x, y); }

  private:
    struct FacetLight {
        float everywhere = 1, lamp = 0;
        Vec3 place, right, down; ///< in the lamp's map
    };

    size_t index(int x, int y) const { return (size_t(y - top_) * size_t(stride_) + size_t(x)) * kSamples; }

    FacetLight lightOn(const SeenFacet& seen) const {
        FacetLight out;
        const Vec3 normal = seen.right.cross(seen.down).unit();
        // Board that faces the viewer is as bright as it is printed.
        constexpr double kBrightest = 1.06;
        const double slant = std::max(0.0, normal.dot(lights_.from)) / std::max(0.2, lights_.from.z);
        out.everywhere = float(lights_.everywhere);
        out.lamp = float((1 - lights_.everywhere) * std::min(slant, kBrightest));
        out.place = lights_.map.placeOf(seen.corner);
        const double cosine = std::max(0.05, normal.dot(lights_.from));
        out.place.z += lights_.map.slackFor(std::sqrt(1 - std::min(1.0, cosine * cosine)) / cosine);
        out.right = lights_.map.mapVector(seen.right), out.down = lights_.map.mapVector(seen.down);
        return out;
    }

    void drawRow(const SeenFacet& seen, int y) {
        const double py = y + 0.5 - middleY_;
        double from = seen.bounds.x + middleX_ - 1, to = seen.bounds.right() + middleX_ + 1;
        // Where the four edges leave something of the row, with half a pixel to spare.
        const auto within = [&](double atZero, double alongX, double alongY) {
            const double spare = 0.5 * (std::abs(alongX) + std::abs(alongY));
            const double here = atZero + alongY * py + spare;
            if (std::abs(alongX) < 1e-15) {
                if (here < 0) to = from;
                return;
            }
            const double edge = -here / alongX + middleX_;
            if (alongX > 0)
                from = std::max(from, edge - 0.5);
            else
                to = std::min(to, edge + 0.5);
        };
        const EvenlyChanging* q = seen.q;
        within(q[0].atZero, q[0].alongX, q[0].alongY);
        within(q[1].atZero, q[1].alongX, q[1].alongY);
        for (int i = 0; i < 2; ++i)
            within(q[2].atZero - q[i].atZero, q[2].alongX - q[i].alongX, q[2].alongY - q[i].alongY);
        // Spans lie on a lattice of their own, so that each is whole; rows are as long as a whole number of
        // them.
        const int first = std::max(0, int(std::floor(from))) / kSpan * kSpan;
        const int last = std::min(width_, int(std::ceil(to)));
        for (int x = first; x < last; x += kSpan) drawSpan(seen, x, y);
    }

    bool cover(const SeenFacet& seen, double px, double py, const float* nearest, SpanCover& out) const {
        SpanPlanes planes{};
        for (int i = 0; i < 3; ++i) {
            planes.from[i] = float(seen.q[i].at(px, py));
            planes.alongX[i] = float(seen.q[i].alongX), planes.alongY[i] = float(seen.q[i].alongY);
        }
        return coverSpan(planes, lanes_, nearest, out);
    }

    struct Shares {
        double s = 0, t = 0;
    };
    /// Also a little outside of the facet.
    static Shares sharesAt(const SeenFacet& seen, double px, double py) {
        const double depth = 1 / std::max(seen.q[2].at(px, py), 1e-12);
        return {std::clamp(seen.q[0].at(px, py) * depth, -1.0, 2.0),
                std::clamp(seen.q[1].at(px, py) * depth, -1.0, 2.0)};
    }

    void drawSpan(const SeenFacet& seen, int first, int y) {
        const double py = y + 0.5 - middleY_, px = first + 0.5 - middleX_;
        SpanCover covered;
        if (!cover(seen, px, py, nearness_.data() + index(first, y), covered)) return;
        const Shares here = sharesAt(seen, px, py), end = sharesAt(seen, px + kSpan, py);
        const double ds = (end.s - here.s) / kSpan, dt = (end.t - here.t) / kSpan;
        std::optional<PictureSampler> sampler;
        const Facet& facet = *seen.facet;
        if (facet.picture) {
            // How they change from row to row, in the middle of the span.
            const double mx = px + kSpan / 2.0, w = std::max(seen.q[2].at(mx, py), 1e-12);
            const auto down = [&](int i) {
                return (seen.q[i].alongY * w - seen.q[i].at(mx, py) * seen.q[2].alongY) / (w * w);
            };
            sampler.emplace(*facet.picture, facet.onPicture.mapVector({ds, dt}),
                            facet.onPicture.mapVector({down(0), down(1)}), lights_.moving);
        }
        for (int i = 0; i < kSpan; ++i) {
            const int32_t* on = covered.on + size_t(i) * kSamples;
            if ((on[0] | on[1] | on[2] | on[3]) == 0) continue;
            const double s = std::clamp(here.s + ds * i, 0.0, 1.0), t = std::clamp(here.t + dt * i, 0.0, 1.0);
            drawPixel(facet, first + i, y, {s, t}, on, covered.nearness + size_t(i) * kSamples, sampler);
        }
    }

    void drawPixel(const Facet& facet, int x, int y, Shares at, const int32_t* on, const float* depth,
                   const std::optional<PictureSampler>& sampler) {
        const SurfaceColour colour = colourAt(facet, at.s, at.t, sampler);
        const float light = lightAt(at.s, at.t);
        const uint32_t shown = uint32_t(shade_(colour.b, light)) | uint32_t(shade_(colour.g, light)) << 8 |
                               uint32_t(shade_(colour.r, light)) << 16 | 0xff000000u;
        float* nearness = nearness_.data() + index(x, y);
        uint32_t* colours = colours_.data() + index(x, y);
        for (int k = 0; k < kSamples; ++k)
            if (on[k] && colour.a > kThere[k]) nearness[k] = depth[k], colours[k] = shown;
    }

    static SurfaceColour colourAt(const Facet& facet, double s, double t,
                                  const std::optional<PictureSampler>& sampler) {
        if (sampler) return sampler->at(facet.onPicture.map({s, t}));
        return {facet.colour[2] * 255, facet.colour[1] * 255, facet.colour[0] * 255, 255};
    }

    float lightAt(double s, double t) const {
        if (light_.lamp <= 0) return light_.everywhere;
        const Vec3 place = light_.place + light_.right * s + light_.down * t;
        return light_.everywhere + light_.lamp * lights_.map.light(place);
    }

    int width_, top_, bottom_;
    double middleX_, middleY_;
    const Lights& lights_;
    const Shade& shade_;
    FacetLight light_;
    SampleLanes lanes_ = sampleLanes();
    int stride_;             ///< pixels of a row that are kept
    Buffer<float> nearness_; ///< one over the depth
    Buffer<uint32_t> colours_;
};

/// The mean of all samples of a pixel, premultiplied. Two channels are added at once: no sum is over 16 bits.
uint32_t meanOf(const Band& band, int x, int y, int finer) {
    constexpr uint32_t kPair = 0x00ff00ff;
    uint32_t br = 0, ga = 0;
    for (int j = 0; j < finer; ++j)
        for (int i = 0; i < finer; ++i) {
            const uint32_t* c = band.samples(x * finer + i, y * finer + j);
            if ((c[0] | c[1] | c[2] | c[3]) == 0) continue; // nothing there
            for (int k = 0; k < kSamples; ++k) br += c[k] & kPair, ga += (c[k] >> 8) & kPair;
        }
    const auto n = uint32_t(finer * finer * kSamples);
    if (n == kSamples) return (((br + 0x20002) >> 2) & kPair) | ((((ga + 0x20002) >> 2) & kPair) << 8);
    const auto mean = [n](uint32_t sum) { return (sum + n / 2) / n; };
    return mean(br & 0xffff) | mean(ga & 0xffff) << 8 | mean(br >> 16) << 16 | mean(ga >> 16) << 24;
}

} // namespace

Buffer<uint8_t> drawFacets(std::span<const Facet> facets, const Eye& eye, const Lamp& lamp,
                           const DrawSize& size, const std::atomic<bool>* cancel) {
    const int finer = std::max(1, size.finer);
    Eye large = eye;
    large.focal *= finer;
    std::vector<SeenFacet> seen;
    for (const Facet& facet : facets)
        if (auto one = seenFacet(facet, large)) seen.push_back(*one);
    // The nearest first: what they hide need not be read.
    const auto depth = [](const SeenFacet& f) { return (f.corner + f.right * 0.5 + f.down * 0.5).z; };
    std::sort(seen.begin(), seen.end(),
              [&](const SeenFacet& a, const SeenFacet& b) { return depth(a) > depth(b); });
    const LampMap map(facets, eye, lamp.from);
    const Lights lights{map, lamp.from.unit(), std::clamp(lamp.everywhere, 0.0, 1.0), finer == 1};
    const Shade shade;
    Buffer<uint8_t> out(size_t(size.width) * size_t(size.height) * 4);
    const int bands = (size.height + kBandRows - 1) / kBandRows;
    tbb::parallel_for(0, bands, [&](int i) {
        if (cancel && *cancel) return;
        const int top = i * kBandRows, bottom = std::min(size.height, top + kBandRows);
        Band band(size.width * finer, size.height * finer, top * finer, bottom * finer, lights, shade);
        for (const SeenFacet& facet : seen) band.draw(facet);
        for (int y = top; y < bottom; ++y)
            for (int x = 0; x < size.width; ++x) {
                const uint32_t pixel = meanOf(band, x, y, finer);
                std::memcpy(out.data() + (size_t(y) * size_t(size.width) + size_t(x)) * 4, &pixel, 4);
            }
    });
    return out;
}

} // namespace glyptos
