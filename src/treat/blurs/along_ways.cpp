#include "treat/blurs/along_ways.h"

#include "treat/vector_math.h"

namespace glyptos {
namespace {

/// Where the pixels of a row are read: the first of four neighbours, and how far between them.
struct Places {
    std::vector<int32_t> at;
    std::vector<float> fx, fy;
    explicit Places(size_t n)
        : at(n)
        , fx(n)
        , fy(n) {}
};

GLYPTOS_ROWS void findPlaces(const float* __restrict x, const float* __restrict y, float left, float top,
                             float right, float bottom, int stride, int32_t* __restrict at,
                             float* __restrict fx, float* __restrict fy, size_t n) {
    for (size_t i = 0; i < n; ++i) {
        const float px = rows::clamp(x[i] - 0.5f - left, 0, right),
                    py = rows::clamp(y[i] - 0.5f - top, 0, bottom);
        const auto ix = int(px), iy = int(py);
        fx[i] = px - float(ix), fy[i] = py - float(iy);
        at[i] = iy * stride + ix;
    }
}

GLYPTOS_ROWS void addSamples(const float* __restrict origin, int stride, const int32_t* __restrict at,
                             const float* __restrict fx, const float* __restrict fy, float* __restrict sum,
                             size_t n) {
    for (size_t i = 0; i < n; ++i) {
        const int k = at[i];
        const float upper = origin[k] + (origin[k + 1] - origin[k]) * fx[i];
        const float lower = origin[k + stride] + (origin[k + stride + 1] - origin[k + stride]) * fx[i];
        sum[i] += upper + (lower - upper) * fy[i];
    }
}

Planes oneRound(const Planes& in, const IntRect& area, float spread, int samples, const Way& way) {
    Planes out(area);
    const auto n = size_t(area.w);
    const size_t room = roundUpLanes(n);
    std::vector<float> x(room), y(room), ax(room), ay(room);
    Places places(room);
    std::vector<std::vector<float>> sums(4, std::vector<float>(room));
    const auto right = float(in.area.w) - 1.001f, bottom = float(in.area.h) - 1.001f;
    for (size_t i = 0; i < n; ++i) x[i] = float(area.x) + float(i) + 0.5f;
    for (int row = area.y; row < area.bottom(); ++row) {
        std::fill(y.begin(), y.end(), float(row) + 0.5f);
        for (auto& sum : sums) std::fill(sum.begin(), sum.end(), 0.0f);
        for (int k = 0; k < samples; ++k) {
            const float t = spread * ((float(k) + 0.5f) / float(samples) - 0.5f);
            way(x.data(), y.data(), t, ax.data(), ay.data(), n);
            findPlaces(ax.data(), ay.data(), float(in.area.x), float(in.area.y), right, bottom,
                       int(in.c[0].stride), places.at.data(), places.fx.data(), places.fy.data(), n);
            for (size_t c = 0; c < 4; ++c)
                addSamples(in.c[c].values.data(), int(in.c[c].stride), places.at.data(), places.fx.data(),
                           places.fy.data(), sums[c].data(), n);
        }
        for (int c = 0; c < 4; ++c)
            for (size_t i = 0; i < n; ++i) out.row(c, row)[i] = sums[size_t(c)][i] / float(samples);
    }
    return out;
}

} // namespace

namespace {

constexpr int kEach = 4;

/// The steps of the rounds, shares of the way, the finest first: so what is left to read shrinks towards the
/// result.
std::vector<double> stepsOf(double longest) {
    const int rounds = std::max(1, int(std::ceil(std::log2(std::max(longest, 1.0)) / 2)));
    std::vector<double> out(size_t(rounds), 1.0);
    for (size_t i = out.size() - 1; i-- > 0;) out[i] = out[i + 1] / kEach;
    return out;
}

/// What a round reads round what it makes: the farthest of its samples, and between pixels.
double readBy(double step, double longest) {
    constexpr double kFarthest = 0.5 - 0.5 / kEach, kBetween = 1.5;
    return kFarthest * step * longest + kBetween;
}

} // namespace

int reachAlong(double longest) {
    double out = 1;
    for (const double step : stepsOf(longest)) out += readBy(step, longest);
    return int(std::ceil(out));
}

Planes meanAlong(Planes in, const IntRect& area, double longest, const Way& way) {
    const std::vector<double> steps = stepsOf(longest);
    for (size_t i = 0; i < steps.size(); ++i) {
        double left = 0;
        for (size_t j = i + 1; j < steps.size(); ++j) left += readBy(steps[j], longest);
        const int by = int(std::ceil(left));
        const IntRect grown{area.x - by, area.y - by, area.w + 2 * by, area.h + 2 * by};
        in = oneRound(in, grown.intersected(in.area), float(steps[i]), kEach, way);
    }
    return in;
}

} // namespace glyptos
