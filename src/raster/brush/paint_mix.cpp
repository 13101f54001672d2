#include "raster/brush/paint_mix.h"

#include "raster/composite.h"

#include <cmath>
#include <cstring>

namespace glyptos {
namespace {

/// `coverRow(x, y, out)` says how far each pixel of a row is covered, 0…1; false: nowhere.
template <class CoverRow>
void mixMask(PixelTiles& mask, const PixelTiles& before, const MaskPaint& paint, const IntRect& area,
             const CoverRow& coverRow) {
    constexpr float kHalf = 0.5f;
    mask.change(area, [&](const PixelPart& part) {
        const auto n = size_t(part.area.w);
        std::vector<float> cover(n);
        std::vector<uint8_t> there(n);
        for (int y = part.area.y; y < part.area.bottom(); ++y) {
            before.readRow(part.area.x, y, n, there.data());
            uint8_t* row = part.row(y);
            if (!coverRow(part.area.x, y, cover)) {
                std::copy(there.begin(), there.end(), row);
                continue;
            }
            const float* kept =
                paint.keep ? paint.keep + size_t(y - area.y) * size_t(area.w) + size_t(part.area.x - area.x)
                           : nullptr;
            for (size_t i = 0; i < n; ++i) {
                const float share = cover[i] * float(paint.opacity) * (kept ? kept[i] : 1);
                row[i] = static_cast<uint8_t>(float(there[i]) +
                                              (float(paint.value) - float(there[i])) * share + kHalf);
            }
        }
    });
}

/// Four planes with room for a row.
struct Planes {
    explicit Planes(size_t n)
        : stride(roundUpLanes(n))
        , values(4 * stride)
        , rows{{values.data(), values.data() + stride, values.data() + 2 * stride,
                values.data() + 3 * stride}} {}
    size_t stride;
    Buffer<float> values;
    RowPlanes rows;
};

RowPlanes behind(const RowPlanes& rows, size_t first) {
    return {{rows.c[0] + first, rows.c[1] + first, rows.c[2] + first, rows.c[3] + first}};
}

/// Where a row is covered at all: from a place that vectors begin at, and how many from there.
std::pair<size_t, size_t> coveredSpan(const float* cover, size_t n) {
    size_t first = 0, end = n;
    while (first < n && cover[first] <= 0) ++first;
    while (end > first && cover[end - 1] <= 0) --end;
    first = first / 16 * 16;
    return {first, end > first ? end - first : 0};
}

/// Planes to straight samples, rounded to nearest, where the stroke covers. `scratch`: as many samples.
void packCovered(const RowPlanes& in, const float* covered, uint8_t* out, uint8_t* scratch, size_t n) {
    packStraightRgba8(in, scratch, n);
    for (size_t i = 0; i < n; ++i)
        if (covered[i] > 0) std::memcpy(out + 4 * i, scratch + 4 * i, 4);
}
void packCovered(const RowPlanes& in, const float* covered, uint16_t* out, uint16_t*, size_t n) {
    constexpr float kFull = 65535, kHalf = 0.5f;
    for (size_t i = 0; i < n; ++i, out += 4) {
        if (covered[i] <= 0) continue;
        const float alpha = in.c[3][i], k = alpha > 0 ? kFull / alpha : 0;
        for (int c = 0; c < 3; ++c)
            out[c] = static_cast<uint16_t>(std::min(std::max(in.c[c][i] * k, 0.0f), kFull) + kHalf);
        out[3] = static_cast<uint16_t>(std::min(alpha, 1.0f) * kFull + kHalf);
    }
}

/// The stroke in planes: premultiplied colour, and cover as alpha.
bool strokeRow(const DabLayer& stroke, const LayerPaint& paint, int x, int y, const float* keep, Planes& out,
               size_t n) {
    const RowPlanes& p = out.rows;
    if (!stroke.readRow(x, y, n, {p.c[3], p.c[0], p.c[1], p.c[2]})) return false;
    if (keep)
        for (size_t i = 0; i < n; ++i) p.c[3][i] *= keep[i];
    if (stroke.look().coloured) {
        if (keep)
            for (int c = 0; c < 3; ++c)
                for (size_t i = 0; i < n; ++i) p.c[c][i] *= keep[i];
    } else {
        for (int c = 0; c < 3; ++c)
            for (size_t i = 0; i < n; ++i) p.c[c][i] = p.c[3][i] * paint.colour[size_t(c)];
    }
    return true;
}

/// The layer's colours as if nothing were see-through, and their alphas.
void takeAlpha(RowPlanes& planes, float* alpha, size_t n) {
    for (size_t i = 0; i < n; ++i) {
        alpha[i] = planes.c[3][i];
        const float k = alpha[i] > 0 ? 1 / alpha[i] : 0;
        for (int c = 0; c < 3; ++c) planes.c[c][i] *= k;
        planes.c[3][i] = 1;
    }
}

void giveAlpha(RowPlanes& planes, const float* alpha, size_t n) {
    for (int c = 0; c < 4; ++c)
        for (size_t i = 0; i < n; ++i) planes.c[c][i] *= alpha[i];
}

/// A row of the layer in `there`, with the stroke in `drawn`; what comes out is in `there`.
void mixRow(const LayerPaint& paint, RowPlanes& there, RowPlanes& drawn, float* alpha, size_t n) {
    const auto opacity = float(paint.opacity);
    switch (paint.way) {
    case PaintWay::Over:
        return blendRow(paint.blend, there, drawn, opacity, n);
    case PaintWay::Behind:
        // The stroke is the backdrop of the layer.
        for (int c = 0; c < 4; ++c)
            for (size_t i = 0; i < n; ++i) drawn.c[c][i] *= opacity;
        blendRow(BlendMode::Normal, drawn, there, 1, n);
        return std::swap(there, drawn);
    case PaintWay::Inside:
        takeAlpha(there, alpha, n);
        blendRow(paint.blend, there, drawn, opacity, n);
        return giveAlpha(there, alpha, n);
    case PaintWay::Erase:
        return blendRow(BlendMode::DestinationOut, there, drawn, opacity, n);
    }
}

template <class T>
void mixLayer(PixelTiles& layer, const PixelTiles& before, const DabLayer& stroke, const LayerPaint& paint,
              const IntRect& area) {
    layer.change(area, [&](const PixelPart& part) {
        const auto n = size_t(part.area.w);
        Planes there(n), drawn(n);
        std::vector<float> covered(n), alpha(n);
        Buffer<T> samples(4 * n), scratch(4 * n); // kernels may read past their ends
        auto* bytes = reinterpret_cast<uint8_t*>(samples.data());
        for (int y = part.area.y; y < part.area.bottom(); ++y) {
            before.readRow(part.area.x, y, n, bytes);
            const float* keep =
                paint.keep ? paint.keep + size_t(y - area.y) * size_t(area.w) + size_t(part.area.x - area.x)
                           : nullptr;
            if (strokeRow(stroke, paint, part.area.x, y, keep, drawn, n)) {
                const auto [first, count] = coveredSpan(drawn.rows.c[3], n);
                RowPlanes span = behind(drawn.rows, first), under = there.rows;
                std::copy_n(span.c[3], count, covered.data());
                unpackRow(samples.data() + 4 * first, under, count);
                mixRow(paint, under, span, alpha.data(), count);
                packCovered(under, covered.data(), samples.data() + 4 * first, scratch.data(), count);
            }
            std::memcpy(part.row(y), bytes, 4 * n * sizeof(T));
        }
    });
}

} // namespace

void mixDabs(PixelTiles& mask, const PixelTiles& before, const DabLayer& stroke, const MaskPaint& paint,
             const IntRect& area) {
    const int planes = stroke.look().coloured ? 4 : 1;
    mixMask(mask, before, paint, area, [&](int x, int y, std::vector<float>& out) {
        std::vector<float> unused(planes > 1 ? 3 * out.size() : 0);
        float* u = unused.data();
        const size_t n = out.size();
        return planes > 1 ? stroke.readRow(x, y, n, {out.data(), u, u + n, u + 2 * n})
                          : stroke.readRow(x, y, n, {out.data(), nullptr, nullptr, nullptr});
    });
}

void mixDabs(PixelTiles& layer, const PixelTiles& before, const DabLayer& stroke, const LayerPaint& paint,
             const IntRect& area) {
    layer.format().bytesPerSample == 2 ? mixLayer<uint16_t>(layer, before, stroke, paint, area)
                                       : mixLayer<uint8_t>(layer, before, stroke, paint, area);
}

void mixRun(PixelTiles& mask, const PixelTiles& before, Vec2 from, Vec2 to, const MaskPaint& paint,
            const IntRect& area) {
    const Vec2 way = to - from;
    const double squared = way.x * way.x + way.y * way.y;
    mixMask(mask, before, paint, area, [&](int x, int y, std::vector<float>& out) {
        const double begin = ((x + 0.5 - from.x) * way.x + (y + 0.5 - from.y) * way.y) / squared,
                     step = way.x / squared;
        for (size_t i = 0; i < out.size(); ++i)
            out[i] = float(std::clamp(1 - (begin + step * double(i)), 0.0, 1.0));
        return true;
    });
}

} // namespace glyptos
