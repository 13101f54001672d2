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

/// All four channels of a pixel, so that one load fetches them.
using Colour = float __attribute__((vector_size(16)));

struct Colours {
    IntRect area;
    Buffer<Colour> values;
    explicit Colours(const IntRect& a)
        : area(a)
        , values(size_t(a.w) * size_t(a.h)) {}
    Colour* row(int y) { return values.data() + size_t(y - area.y) * size_t(area.w); }
    const Colour* row(int y) const { return values.data() + size_t(y - area.y) * size_t(area.w); }
};

GLYPTOS_ROWS void joinRow(const float* __restrict r, const float* __restrict g, const float* __restrict b,
                          const float* __restrict alpha, Colour* __restrict out, size_t n) {
    auto* values = reinterpret_cast<float*>(out);
    for (size_t i = 0; i < n; ++i)
        values[4 * i] = r[i], values[4 * i + 1] = g[i], values[4 * i + 2] = b[i],
                   values[4 * i + 3] = alpha[i];
}
GLYPTOS_ROWS void splitRow(const Colour* __restrict in, float* __restrict r, float* __restrict g,
                           float* __restrict b, float* __restrict alpha, size_t n) {
    const auto* values = reinterpret_cast<const float*>(in);
    for (size_t i = 0; i < n; ++i)
        r[i] = values[4 * i], g[i] = values[4 * i + 1], b[i] = values[4 * i + 2],
        alpha[i] = values[4 * i + 3];
}

GLYPTOS_ROWS void addSamples(const Colour* __restrict origin, int stride, const int32_t* __restrict at,
                             const float* __restrict fx, const float* __restrict fy, Colour* __restrict sum,
                             size_t n) {
    for (size_t i = 0; i < n; ++i) {
        const Colour *upper = origin + at[i], *lower = upper + stride;
        const Colour first = upper[0] + (upper[1] - upper[0]) * fx[i],
                     second = lower[0] + (lower[1] - lower[0]) * fx[i];
        sum[i] += first + (second - first) * fy[i];
    }
}

GLYPTOS_ROWS void findNearest(const float* __restrict x, const float* __restrict y, float left, float top,
                              float right, float bottom, int stride, int32_t* __restrict at, size_t n) {
    for (size_t i = 0; i < n; ++i)
        at[i] = int(rows::clamp(y[i] - top, 0, bottom)) * stride + int(rows::clamp(x[i] - left, 0, right));
}

GLYPTOS_ROWS void addNearest(const Colour* __restrict origin, const int32_t* __restrict at,
                             Colour* __restrict sum, size_t n) {
    for (size_t i = 0; i < n; ++i) sum[i] += origin[at[i]];
}

/// One round of means, a share of the ways long. Samples far apart are taken from the nearest pixel: there
/// are many of them, and the finer rounds go between.
struct Round {
    double step;
    bool nearest;
};

Colours oneRound(const Colours& in, const IntRect& area, const Round& round, int samples, const Ways& ways) {
    Colours out(area);
    const auto n = size_t(area.w);
    std::vector<float> x(n), ax(n), ay(n);
    Places places(n);
    const auto left = float(in.area.x), top = float(in.area.y), right = float(in.area.w) - 1.001f,
               bottom = float(in.area.h) - 1.001f;
    for (size_t i = 0; i < n; ++i) x[i] = float(area.x) + float(i) + 0.5f;
    const float share = 1 / float(samples);
    for (int y = area.y; y < area.bottom(); ++y) {
        const RowWays row = ways(x.data(), float(y) + 0.5f, n);
        Colour* sum = out.row(y);
        std::fill_n(sum, n, Colour{});
        for (int k = 0; k < samples; ++k) {
            row(float(round.step) * ((float(k) + 0.5f) * share - 0.5f), ax.data(), ay.data());
            if (round.nearest) {
                findNearest(ax.data(), ay.data(), left, top, right, bottom, in.area.w, places.at.data(), n);
                addNearest(in.values.data(), places.at.data(), sum, n);
                continue;
            }
            findPlaces(ax.data(), ay.data(), left, top, right, bottom, in.area.w, places.at.data(),
                       places.fx.data(), places.fy.data(), n);
            addSamples(in.values.data(), in.area.w, places.at.data(), places.fx.data(), places.fy.data(), sum,
                       n);
        }
        for (size_t i = 0; i < n; ++i) sum[i] *= share;
    }
    return out;
}

constexpr int kEach = 4;

/// The coarsest first, as it reads the farthest: what is left to draw shrinks quickly towards the result.
std::vector<Round> roundsOf(double longest) {
    constexpr double kFarApart = 2.5; // px
    const int rounds = std::max(1, int(std::ceil(std::log2(std::max(longest, 1.0)) / 2)));
    std::vector<Round> out;
    double step = 1;
    for (int i = 0; i < rounds; ++i, step /= kEach) out.push_back({step, step * longest / kEach > kFarApart});
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
    for (const Round& round : roundsOf(longest)) out += readBy(round.step, longest);
    return int(std::ceil(out));
}

int drawnAlong(double longest) {
    double out = 1;
    for (const Round& round : roundsOf(longest))
        if (round.step < 1) out += readBy(round.step, longest);
    return int(std::ceil(out));
}

Planes meanAlong(const Planes& planes, const IntRect& area, double longest, const Ways& ways) {
    const IntRect& all = planes.area;
    Colours in(all);
    for (int y = all.y; y < all.bottom(); ++y)
        joinRow(planes.row(0, y), planes.row(1, y), planes.row(2, y), planes.row(3, y), in.row(y),
                size_t(all.w));
    const std::vector<Round> rounds = roundsOf(longest);
    for (size_t i = 0; i < rounds.size(); ++i) {
        double left = 0;
        for (size_t j = i + 1; j < rounds.size(); ++j) left += readBy(rounds[j].step, longest);
        const int by = int(std::ceil(left));
        const IntRect grown{area.x - by, area.y - by, area.w + 2 * by, area.h + 2 * by};
        in = oneRound(in, grown.intersected(all), rounds[i], kEach, ways);
    }
    Planes out(area);
    for (int y = area.y; y < area.bottom(); ++y)
        splitRow(in.row(y), out.row(0, y), out.row(1, y), out.row(2, y), out.row(3, y), size_t(area.w));
    return out;
}

} // namespace glyptos
