#include "treat/blurs/along_ways.h"

#include "treat/vector_math.h"

#include <algorithm>
#include <array>
#include <cstdint>
#include <vector>

namespace glyptos {
namespace {

/// All four channels of a pixel, so that one load fetches them.
using Colour = float __attribute__((vector_size(16)));
/// The same in 65535ths: half as much to read where samples lie far apart.
using Packed = uint16_t __attribute__((vector_size(8)));
constexpr float kPackedMost = 65535;

template <class Pixel>
struct Pixels {
    IntRect area;
    Buffer<Pixel> values;
    /// Room for that much; used again for a smaller one.
    void setArea(const IntRect& a) {
        area = a;
        const size_t count = size_t(a.w) * size_t(a.h);
        if (count > values.size()) values = Buffer<Pixel>::passing(count);
    }
    Pixel* row(int y) { return values.data() + size_t(y - area.y) * size_t(area.w); }
};

GLYPTOS_ROWS void joinRow(const float* __restrict r, const float* __restrict g, const float* __restrict b,
                          const float* __restrict alpha, Colour* __restrict out, size_t n) {
    auto* values = reinterpret_cast<float*>(out);
    for (size_t i = 0; i < n; ++i)
        values[4 * i] = r[i], values[4 * i + 1] = g[i], values[4 * i + 2] = b[i],
                   values[4 * i + 3] = alpha[i];
}
GLYPTOS_ROWS void joinRow(const float* __restrict r, const float* __restrict g, const float* __restrict b,
                          const float* __restrict alpha, Packed* __restrict out, size_t n) {
    auto* values = reinterpret_cast<uint16_t*>(out);
    for (size_t i = 0; i < n; ++i) {
        // NOLINTBEGIN(bugprone-incorrect-roundings): never negative
        values[4 * i] = uint16_t(int(rows::clamp01(r[i]) * kPackedMost + 0.5f));
        values[4 * i + 1] = uint16_t(int(rows::clamp01(g[i]) * kPackedMost + 0.5f));
        values[4 * i + 2] = uint16_t(int(rows::clamp01(b[i]) * kPackedMost + 0.5f));
        values[4 * i + 3] = uint16_t(int(rows::clamp01(alpha[i]) * kPackedMost + 0.5f));
        // NOLINTEND(bugprone-incorrect-roundings)
    }
}
GLYPTOS_ROWS void splitRow(const Colour* __restrict in, float* __restrict r, float* __restrict g,
                           float* __restrict b, float* __restrict alpha, size_t n) {
    const auto* values = reinterpret_cast<const float*>(in);
    for (size_t i = 0; i < n; ++i)
        r[i] = values[4 * i], g[i] = values[4 * i + 1], b[i] = values[4 * i + 2],
        alpha[i] = values[4 * i + 3];
}

template <class Pixel>
Pixels<Pixel> joined(const Planes& planes, const IntRect& area) {
    Pixels<Pixel> out;
    out.setArea(area);
    const ptrdiff_t left = area.x - planes.area.x;
    for (int y = area.y; y < area.bottom(); ++y)
        joinRow(planes.row(0, y) + left, planes.row(1, y) + left, planes.row(2, y) + left,
                planes.row(3, y) + left, out.row(y), size_t(area.w));
    return out;
}

/// How many samples a round takes along each way.
constexpr size_t kEach = 4;

/// Where to look in the picture that a round reads.
struct Within {
    float left, top, right, bottom;
    int stride;
    explicit Within(const IntRect& area)
        : left(float(area.x))
        , top(float(area.y))
        , right(float(area.w) - 1.001f)
        , bottom(float(area.h) - 1.001f)
        , stride(area.w) {}
};

/// Where the pixels of a row are read: the first of four neighbours, and how far between them.
struct Reads {
    std::vector<int32_t> at;
    std::vector<float> fx, fy;
    explicit Reads(size_t n)
        : at(n)
        , fx(n)
        , fy(n) {}
};

GLYPTOS_ROWS void findBetween(const float* __restrict x, const float* __restrict y, Within in,
                              int32_t* __restrict at, float* __restrict fx, float* __restrict fy, size_t n) {
    for (size_t i = 0; i < n; ++i) {
        const float px = rows::upTo(in.right, x[i] - 0.5f - in.left),
                    py = rows::upTo(in.bottom, y[i] - 0.5f - in.top);
        const auto ix = int(px), iy = int(py);
        fx[i] = px - float(ix), fy[i] = py - float(iy);
        at[i] = iy * in.stride + ix;
    }
}

/// Where one sample of a row is read, for the compiler to see that nothing else lies there.
struct ReadsOf {
    const int32_t* at;
    const float *fx, *fy;
    explicit ReadsOf(const Reads& r)
        : at(r.at.data())
        , fx(r.fx.data())
        , fy(r.fy.data()) {}
};

inline Colour between(const Colour* origin, int stride, const ReadsOf& reads, size_t i) {
    const Colour *upper = origin + reads.at[i], *lower = upper + stride;
    const Colour first = upper[0] + (upper[1] - upper[0]) * reads.fx[i],
                 second = lower[0] + (lower[1] - lower[0]) * reads.fx[i];
    return first + (second - first) * reads.fy[i];
}

GLYPTOS_ROWS void meanBetween(const Colour* __restrict origin, int stride, ReadsOf a, ReadsOf b, ReadsOf c,
                              ReadsOf d, Colour* __restrict out, size_t n) {
    for (size_t i = 0; i < n; ++i)
        out[i] = ((between(origin, stride, a, i) + between(origin, stride, b, i)) +
                  (between(origin, stride, c, i) + between(origin, stride, d, i))) *
                 (1.0f / kEach);
}

/// The share of a way at which a sample of a round is taken.
float placeOf(size_t sample, double step) {
    return float(step) * ((float(sample) + 0.5f) / kEach - 0.5f);
}

/// Between the pixels that samples fall between. Both rounds make the whole of `out`.
void roundBetween(const Pixels<Colour>& in, double step, Ways& ways, Pixels<Colour>& out) {
    const auto n = size_t(out.area.w);
    std::vector<float> x(n), y(n);
    const Within within(in.area);
    std::array<Reads, kEach> reads{Reads(n), Reads(n), Reads(n), Reads(n)};
    for (int row = out.area.y; row < out.area.bottom(); ++row) {
        ways.startRow(float(out.area.x) + 0.5f, float(row) + 0.5f, n);
        for (size_t k = 0; k < kEach; ++k) {
            ways.at(placeOf(k, step), x.data(), y.data());
            findBetween(x.data(), y.data(), within, reads[k].at.data(), reads[k].fx.data(),
                        reads[k].fy.data(), n);
        }
        meanBetween(in.values.data(), in.area.w, ReadsOf(reads[0]), ReadsOf(reads[1]), ReadsOf(reads[2]),
                    ReadsOf(reads[3]), out.row(row), n);
    }
}

/// Which pixel is nearest is settled before the picture's corner is taken off, which rounds: the same is read
/// whatever the corner.
GLYPTOS_ROWS void findNearest(const float* __restrict x, const float* __restrict y, const IntRect& in,
                              int32_t* __restrict at, size_t n) {
    const int left = in.x, top = in.y, right = in.right() - 1, bottom = in.bottom() - 1, stride = in.w;
    for (size_t i = 0; i < n; ++i) {
        const int ix = int(std::floor(x[i])), iy = int(std::floor(y[i]));
        at[i] =
            (std::min(std::max(iy, top), bottom) - top) * stride + std::min(std::max(ix, left), right) - left;
    }
}

/// Of a picture with rows `stride` apart; those that the next rows will read are asked for on the way.
void pick(const Packed* __restrict from, int stride, const int32_t* __restrict at, Packed* __restrict out,
          size_t n) {
    constexpr size_t kLine = 64 / sizeof(Packed);
    constexpr int kRowsAhead = 2;
    size_t i = 0;
    for (; i + kLine <= n; i += kLine) {
        __builtin_prefetch(from + at[i] + ptrdiff_t(kRowsAhead) * stride);
        for (size_t j = i; j < i + kLine; ++j) out[j] = from[at[j]];
    }
    for (; i < n; ++i) out[i] = from[at[i]];
}

GLYPTOS_ROWS void meanRow(const Packed* __restrict picked, size_t n, Packed* __restrict out) {
    const auto *a = reinterpret_cast<const uint16_t*>(picked), *b = a + 4 * n, *c = b + 4 * n, *d = c + 4 * n;
    auto* to = reinterpret_cast<uint16_t*>(out);
    for (size_t i = 0; i < 4 * n; ++i) to[i] = uint16_t((a[i] + b[i] + c[i] + d[i] + 2) / 4);
}
GLYPTOS_ROWS void meanRow(const Packed* __restrict picked, size_t n, Colour* __restrict out) {
    constexpr float kShare = 1 / (kEach * kPackedMost);
    const auto *a = reinterpret_cast<const uint16_t*>(picked), *b = a + 4 * n, *c = b + 4 * n, *d = c + 4 * n;
    auto* to = reinterpret_cast<float*>(out);
    for (size_t i = 0; i < 4 * n; ++i) to[i] = float(a[i] + b[i] + c[i] + d[i]) * kShare;
}

/// From the pixels nearest to samples that lie far apart: there are many of them, and later rounds go
/// between.
template <class Pixel>
void roundOfNearest(const Pixels<Packed>& in, double step, Ways& ways, Pixels<Pixel>& out) {
    const auto n = size_t(out.area.w);
    std::vector<float> x(n), y(n);
    std::vector<int32_t> at(n);
    Buffer<Packed> picked(n * kEach);
    for (int row = out.area.y; row < out.area.bottom(); ++row) {
        ways.startRow(float(out.area.x) + 0.5f, float(row) + 0.5f, n);
        for (size_t k = 0; k < kEach; ++k) {
            ways.at(placeOf(k, step), x.data(), y.data());
            findNearest(x.data(), y.data(), in.area, at.data(), n);
            pick(in.values.data(), in.area.w, at.data(), picked.data() + k * n, n);
        }
        meanRow(picked.data(), n, out.row(row));
    }
}

/// One round of means, a share of the ways long.
struct Round {
    double step;
    bool nearest;
};

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

Planes meanAlong(const Planes& planes, const IntRect& area, double longest, const Vec2& farthest,
                 Ways& ways) {
    const std::vector<Round> rounds = roundsOf(longest);
    const auto readFrom = [&](size_t round) {
        Vec2 by;
        for (size_t j = round; j < rounds.size(); ++j)
            by = by + Vec2{readBy(rounds[j].step, farthest.x), readBy(rounds[j].step, farthest.y)};
        const int x = int(std::ceil(by.x)), y = int(std::ceil(by.y));
        return IntRect{area.x - x, area.y - y, area.w + 2 * x, area.h + 2 * y}.intersected(planes.area);
    };
    const auto drawnBy = [&](size_t round) { return readFrom(round + 1); };
    Pixels<Packed> far, nextFar;
    Pixels<Colour> in, next;
    if (rounds.front().nearest)
        far = joined<Packed>(planes, readFrom(0));
    else
        in = joined<Colour>(planes, readFrom(0));
    for (size_t i = 0; i < rounds.size(); ++i) {
        if (rounds[i].nearest && rounds[i + 1].nearest) {
            nextFar.setArea(drawnBy(i));
            roundOfNearest(far, rounds[i].step, ways, nextFar);
            std::swap(far, nextFar);
            continue;
        }
        next.setArea(drawnBy(i));
        if (rounds[i].nearest)
            roundOfNearest(far, rounds[i].step, ways, next);
        else
            roundBetween(in, rounds[i].step, ways, next);
        std::swap(in, next);
    }
    Planes out(area);
    for (int y = area.y; y < area.bottom(); ++y)
        splitRow(in.row(y), out.row(0, y), out.row(1, y), out.row(2, y), out.row(3, y), size_t(area.w));
    return out;
}

} // namespace glyptos
