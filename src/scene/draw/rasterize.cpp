#include "scene/draw/rasterize.h"

#include "scene/draw/each_apart.h"
#include "scene/draw/lamp_map.h"
#include "scene/draw/picture_sampler.h"
#include "scene/draw/span_shade.h"

#include <cstring>
#include <utility>
#include <vector>

namespace glyptos {
namespace {

constexpr int kSamples = kPixelSamples, kBandRows = 16, kSpan = kSpanPixels;
/// Places of the samples in a pixel, from its middle: each in a row and a column of its own.
constexpr double kSampleX[] = {-0.125, 0.375, -0.375, 0.125}, kSampleY[] = {-0.375, -0.125, 0.125, 0.375};
constexpr uint32_t kPair = 0x00ff00ff; // two channels are added at once: no sum is over 16 bits

SampleLanes sampleLanes() {
    SampleLanes out{};
    for (int i = 0; i < kSpanLanes; ++i) {
        out.x[i] = float(i % kSpan) + float(kSampleX[i / kSpan]);
        out.y[i] = float(kSampleY[i / kSpan]);
    }
    return out;
}

struct Lights {
    const LampMap& map;
    Vec3 from;
    double everywhere;
    bool moving = false; ///< pictures are read in one size alone
};

/// Rows of the picture with all their samples.
class Band { // NOLINT(clang-analyzer-optin.performance.Padding): wide vectors in it are aligned
  public:
    Band(int width, int height, int top, int bottom, const Lights& lights)
        : width_(width)
        , top_(top)
        , bottom_(bottom)
        , middleX_(width / 2.0)
        , middleY_(height / 2.0)
        , lights_(lights)
        , stride_((width + kSpan - 1) / kSpan * kSpan)
        , nearness_(Buffer<float>::passing(size_t(stride_) * size_t(bottom - top) * kSamples))
        , colours_(Buffer<uint32_t>::passing(nearness_.size())) {
        std::fill(nearness_.begin(), nearness_.end(), 0.0f);
        std::fill(colours_.begin(), colours_.end(), 0u);
    }

    void draw(const SeenFacet& seen) {
        look_ = lookOf(seen);
        even_.reset();
        if (seen.facet->opacity < 1 && !seen.facet->picture) {
            // Clear plastic shows no shadows of its own, and so has one colour.
            look_.everywhere += std::exchange(look_.lamp, 0.0F);
            shadeSpan(look_, even_.emplace());
        }
        const int from = std::max(top_, int(std::floor(seen.bounds.y + middleY_ - 1)));
        const int to = std::min(bottom_, int(std::ceil(seen.bounds.bottom() + middleY_ + 1)));
        for (int y = from; y < to; ++y) drawRow(seen, y);
    }

    /// Those of the span that begins at a pixel.
    const uint32_t* span(int first, int y) const { return colours_.data() + index(first, y); }
    uint32_t sample(int x, int y, int which) const {
        return span(x / kSpan * kSpan, y)[which * kSpan + x % kSpan];
    }

  private:
    size_t index(int x, int y) const { return (size_t(y - top_) * size_t(stride_) + size_t(x)) * kSamples; }

    /// What of the look of its spans is the same all over a facet.
    SpanLook lookOf(const SeenFacet& seen) const {
        SpanLook out;
        const Facet& facet = *seen.facet;
        const Affine& m = facet.onPicture;
        const double onPicture[] = {m.a, m.c, m.e, m.b, m.d, m.f};
        std::copy(std::begin(onPicture), std::end(onPicture), out.onPicture);
        for (size_t c = 0; c < 3; ++c) out.colour[c] = facet.colour[2 - c] * 255;
        const Vec3 normal = seen.right.cross(seen.down).unit();
        // Board that faces the viewer is as bright as it is printed.
        constexpr double kBrightest = 1.06;
        const double slant = std::max(0.0, normal.dot(lights_.from)) / std::max(0.2, lights_.from.z);
        out.everywhere = float(lights_.everywhere);
        out.lamp = float((1 - lights_.everywhere) * std::min(slant, kBrightest));
        Vec3 place = lights_.map.placeOf(seen.corner);
        const double cosine = std::max(0.05, normal.dot(lights_.from));
        place.z += lights_.map.slackFor(std::sqrt(1 - std::min(1.0, cosine * cosine)) / cosine);
        const auto put = [](const Vec3& v, float(&to)[3]) {
            to[0] = float(v.x), to[1] = float(v.y), to[2] = float(v.z);
        };
        put(place, out.place);
        put(lights_.map.mapVector(seen.right), out.placeAlongS);
        put(lights_.map.mapVector(seen.down), out.placeAlongT);
        out.depths = lights_.map.depths(), out.mapSide = LampMap::kSide;
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
        readAsAt_ = std::nullopt;
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

    static uint32_t tintOf(const Facet& facet) { return uint32_t(std::lround(facet.opacity * 256)); }

    /// How the shares change from row to row.
    static Vec2 downwards(const SeenFacet& seen, double px, double py) {
        const double w = std::max(seen.q[2].at(px, py), 1e-12);
        const auto down = [&](int i) {
            return (seen.q[i].alongY * w - seen.q[i].at(px, py) * seen.q[2].alongY) / (w * w);
        };
        return {down(0), down(1)};
    }

    void drawSpan(const SeenFacet& seen, int first, int y) {
        const double py = y + 0.5 - middleY_, px = first + 0.5 - middleX_;
        SpanCover covered;
        if (!cover(seen, px, py, nearness_.data() + index(first, y), covered)) return;
        if (even_) return tintSpan(covered, *even_, tintOf(*seen.facet), colours_.data() + index(first, y));
        const Shares here = sharesAt(seen, px, py), end = sharesAt(seen, px + kSpan, py);
        const double ds = (end.s - here.s) / kSpan, dt = (end.t - here.t) / kSpan;
        look_.s = float(here.s), look_.t = float(here.t);
        look_.alongS = float(ds), look_.alongT = float(dt);
        const Facet& facet = *seen.facet;
        constexpr int kAlike = 8 * kSpan; // px of a row in which a picture is read alike
        if (facet.picture && (!readAsAt_ || first >= *readAsAt_ + kAlike)) {
            planReading(*facet.picture, facet.onPicture.mapVector({ds, dt}),
                        facet.onPicture.mapVector(downwards(seen, px + kSpan / 2.0, py)), lights_.moving,
                        look_);
            readAsAt_ = first;
        }
        SpanColours colours;
        shadeSpan(look_, colours);
        const size_t at = index(first, y);
        if (facet.opacity < 1)
            tintSpan(covered, colours, tintOf(facet), colours_.data() + at);
        else
            putSpan(covered, colours, nearness_.data() + at, colours_.data() + at);
    }

    int width_, top_, bottom_;
    double middleX_, middleY_;
    const Lights& lights_;
    SpanLook look_;
    std::optional<SpanColours> even_; ///< of a facet that is the same all over
    std::optional<int> readAsAt_;     ///< where in the row it was found how the picture is read
    SampleLanes lanes_ = sampleLanes();
    int stride_;             ///< pixels of a row that are kept
    Buffer<float> nearness_; ///< one over the depth
    Buffer<uint32_t> colours_;
};

/// The mean of all samples of a pixel, premultiplied.
uint32_t meanOf(const Band& band, int x, int y, int finer) {
    uint32_t br = 0, ga = 0;
    for (int j = 0; j < finer; ++j)
        for (int i = 0; i < finer; ++i)
            for (int k = 0; k < kSamples; ++k) {
                const uint32_t c = band.sample(x * finer + i, y * finer + j, k);
                br += c & kPair, ga += c >> 8 & kPair;
            }
    const auto n = uint32_t(finer * finer * kSamples);
    const auto mean = [n](uint32_t sum) { return (sum + n / 2) / n; };
    return mean(br & 0xffff) | mean(ga & 0xffff) << 8 | mean(br >> 16) << 16 | mean(ga >> 16) << 24;
}

/// A row of the finished picture, 4 · width bytes.
void takeRow(const Band& band, int y, int width, int finer, uint8_t* out) {
    if (finer == 1) {
        static thread_local std::vector<uint32_t> pixels;
        const size_t spans = size_t(width + kSpan - 1) / kSpan;
        pixels.resize(spans * kSpan);
        meansOfSpans(band.span(0, y), spans, pixels.data());
        std::memcpy(out, pixels.data(), 4 * size_t(width));
        return;
    }
    for (int x = 0; x < width; ++x) {
        const uint32_t pixel = meanOf(band, x, y, finer);
        std::memcpy(out + 4 * size_t(x), &pixel, 4);
    }
}

/// The nearest first: what they hide need not be read. What is seen through comes last, the farthest first.
void sortForDrawing(std::vector<SeenFacet>& seen) {
    const auto depth = [](const SeenFacet& f) { return (f.corner + f.right * 0.5 + f.down * 0.5).z; };
    const auto clear = [](const SeenFacet& f) { return f.facet->opacity < 1; };
    std::sort(seen.begin(), seen.end(), [&](const SeenFacet& a, const SeenFacet& b) {
        if (clear(a) != clear(b)) return clear(b);
        return clear(a) ? depth(a) < depth(b) : depth(a) > depth(b);
    });
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
    sortForDrawing(seen);
    const LampMap map(facets, eye, lamp.from);
    const Lights lights{map, lamp.from.unit(), std::clamp(lamp.everywhere, 0.0, 1.0), finer == 1};
    Buffer<uint8_t> out(size_t(size.width) * size_t(size.height) * 4);
    const int bands = (size.height + kBandRows - 1) / kBandRows;
    eachApart(bands, [&](int i) {
        if (cancel && *cancel) return;
        const int top = i * kBandRows, bottom = std::min(size.height, top + kBandRows);
        Band band(size.width * finer, size.height * finer, top * finer, bottom * finer, lights);
        for (const SeenFacet& facet : seen) band.draw(facet);
        for (int y = top; y < bottom; ++y)
            takeRow(band, y, size.width, finer, out.data() + size_t(y) * size_t(size.width) * 4);
    });
    return out;
}

} // namespace glyptos
