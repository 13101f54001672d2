#include "render/tiles/painted_tiles.h"

#include "raster/resample.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace glyptos {
namespace {

constexpr double kFilter = 6; ///< px round what is read, of the widest kernel
/// Output pixels of a painted one below which nothing of it can be seen.
constexpr double kSeen = 1e-6;

/// A part of one level, as the sampling of pictures reads it.
struct Window {
    int level;
    IntRect area; ///< in pixels of that level
};

std::optional<Window> windowOf(const Affine& toOutput, const IntRect& region) {
    const auto back = toOutput.inverse();
    if (!back || std::max(toOutput.scaleX(), toOutput.scaleY()) < kSeen) return std::nullopt;
    const int level = levelFor(std::max(toOutput.scaleX(), toOutput.scaleY()), kPixelTileLevels);
    const double k = std::ldexp(1.0, -level);
    const Rect there = back->mapBounds(region.toRect());
    return Window{level,
                  pixelsAround(Rect{there.x * k, there.y * k, there.w * k, there.h * k}.grown(kFilter))};
}

IntRect atLevel(const IntRect& area, int level) {
    const double k = std::ldexp(1.0, -level);
    return pixelsAround({area.x * k, area.y * k, area.w * k, area.h * k});
}

template <class T>
Picture pictureOf(const PixelTiles& tiles, const Window& window) {
    const IntRect& a = window.area;
    Picture out = Picture::create<T>(a.w, a.h);
    for (int y = 0; y < a.h; ++y)
        tiles.readRow(a.x, a.y + y, size_t(a.w), reinterpret_cast<uint8_t*>(out.row<T>(y)), window.level);
    return out;
}

Tile resampled(Picture picture, const Window& window, const Affine& toOutput, const IntRect& region) {
    const double k = std::ldexp(1.0, window.level);
    const Affine map = toOutput * Affine::scaling(k, k) * Affine::translation(window.area.x, window.area.y);
    Tile out(region.w, region.h);
    resampleTile(Pyramid(std::move(picture)), map, region.x, region.y, out);
    return out;
}

/// The part of a window that is painted, and a rim of nothing for the kernel; nothing where none is.
std::optional<Window> paintedPart(const PixelTiles& tiles, const std::optional<Window>& window) {
    if (!window) return std::nullopt;
    constexpr int kRim = 2 * int(kFilter);
    IntRect painted = atLevel(tiles.bounds(), window->level);
    if (window->area.intersected(painted).empty()) return std::nullopt;
    painted = {painted.x - kRim, painted.y - kRim, painted.w + 2 * kRim, painted.h + 2 * kRim};
    return Window{window->level, window->area.intersected(painted)};
}

} // namespace

IntRect paintedReach(const Affine& toOutput, const IntRect& region) {
    const auto window = windowOf(toOutput, region);
    if (!window) return {};
    const double k = std::ldexp(1.0, window->level);
    return pixelsAround({window->area.x * k, window->area.y * k, window->area.w * k, window->area.h * k});
}

Tile paintedTile(const PixelTiles& tiles, const Affine& toOutput, const IntRect& region) {
    const auto window = paintedPart(tiles, windowOf(toOutput, region));
    if (!window) return {};
    Picture picture = tiles.format().bytesPerSample == 2 ? pictureOf<uint16_t>(tiles, *window)
                                                         : pictureOf<uint8_t>(tiles, *window);
    Tile out = resampled(std::move(picture), *window, toOutput, region);
    out.settle();
    return out;
}

namespace {

/// Values of a window, with what is read of them for each column or row of the output: where it begins, and
/// how much each of kTaps counts.
constexpr int kTaps = 10;
struct Taps {
    int first = 0;
    std::array<float, kTaps> weights{};
};

/// The cubic of R. Keys, as resample.h has it: a = -1/2, widened where the result is smaller.
float cubic(float x) {
    x = std::abs(x);
    if (x < 1) return (1.5f * x - 2.5f) * x * x + 1;
    return x < 2 ? ((-0.5f * x + 2.5f) * x - 4) * x + 2 : 0;
}

/// For output pixels [from, from + n), whose place in the window is middle · step + offset.
std::vector<Taps> tapsFor(int from, int n, double step, double offset) {
    const double wide = std::max(std::abs(step), 1.0);
    std::vector<Taps> out(static_cast<size_t>(n));
    for (int i = 0; i < n; ++i) {
        const double at = (from + i + 0.5) * step + offset - 0.5;
        Taps& taps = out[size_t(i)];
        taps.first = static_cast<int>(std::ceil(at - 2 * wide));
        float sum = 0;
        for (int k = 0; k < kTaps; ++k)
            sum += taps.weights[size_t(k)] = cubic(float((taps.first + k - at) / wide));
        for (float& w : taps.weights) w /= sum;
    }
    return out;
}

/// An upright mapping, row after column.
Buffer<float> uprightValues(const PixelTiles& tiles, const Window& window, const Affine& back,
                            const IntRect& region) {
    const double k = std::ldexp(1.0, -window.level);
    const auto columns = tapsFor(region.x, region.w, back.a * k, back.e * k),
               rows = tapsFor(region.y, region.h, back.d * k, back.f * k);
    const auto reach = [](const std::vector<Taps>& taps) {
        const auto [least, most] = std::minmax(taps.front().first, taps.back().first);
        return std::pair{least, most + kTaps};
    };
    const auto [left, right] = reach(columns);
    const auto [top, bottom] = reach(rows);
    const int width = right - left;
    std::vector<uint8_t> bytes(static_cast<size_t>(width));
    Buffer<float> across(size_t(region.w) * size_t(bottom - top)), out(size_t(region.w) * size_t(region.h));
    for (int y = top; y < bottom; ++y) {
        tiles.readRow(left, y, bytes.size(), bytes.data(), window.level);
        float* to = across.data() + size_t(y - top) * size_t(region.w);
        for (int x = 0; x < region.w; ++x) {
            const Taps& taps = columns[size_t(x)];
            const uint8_t* from = bytes.data() + (taps.first - left);
            float sum = 0;
            for (size_t t = 0; t < kTaps; ++t) sum += taps.weights[t] * float(from[t]);
            to[x] = sum;
        }
    }
    for (int y = 0; y < region.h; ++y) {
        const Taps& taps = rows[size_t(y)];
        float* to = out.data() + size_t(y) * size_t(region.w);
        std::fill_n(to, region.w, 0.0f);
        for (size_t t = 0; t < kTaps; ++t) {
            if (taps.weights[t] == 0) continue;
            const float w = taps.weights[t] / 255;
            const float* from = across.data() + size_t(taps.first - top + int(t)) * size_t(region.w);
            for (int x = 0; x < region.w; ++x) to[x] += w * from[x];
        }
        for (int x = 0; x < region.w; ++x) to[x] = std::clamp(to[x], 0.0f, 1.0f);
    }
    return out;
}

/// The values as the red of a picture, for mappings that turn.
Picture greyPicture(const PixelTiles& tiles, const Window& window) {
    const IntRect& a = window.area;
    Picture out = Picture::create<uint8_t>(a.w, a.h);
    out.opaque = true;
    std::vector<uint8_t> row(size_t(a.w));
    for (int y = 0; y < a.h; ++y) {
        tiles.readRow(a.x, a.y + y, row.size(), row.data(), window.level);
        uint8_t* to = out.row<uint8_t>(y);
        for (const uint8_t v : row) *to++ = v, *to++ = v, *to++ = v, *to++ = 255;
    }
    return out;
}

} // namespace

Buffer<float> paintedValues(const PixelTiles& tiles, const Affine& toOutput, const IntRect& region) {
    const auto window = paintedPart(tiles, windowOf(toOutput, region));
    const auto back = toOutput.inverse();
    // Beyond the smallest level the taps would lie ever further apart.
    constexpr double kLeastScale = 0.25;
    const auto isFine = [&] {
        return std::ldexp(std::min(toOutput.scaleX(), toOutput.scaleY()), window->level) >= kLeastScale;
    };
    if (window && back && toOutput.b == 0 && toOutput.c == 0 && isFine())
        return uprightValues(tiles, *window, *back, region);
    Buffer<float> out(size_t(region.w) * size_t(region.h));
    std::fill(out.begin(), out.end(), 0.0f);
    if (!window) return out;
    const Tile values = resampled(greyPicture(tiles, *window), *window, toOutput, region);
    for (int y = 0; y < region.h; ++y)
        for (int x = 0; x < region.w; ++x)
            out[size_t(y) * size_t(region.w) + size_t(x)] = float(values.row(0, y)[x]) / 65535;
    return out;
}

} // namespace glyptos
