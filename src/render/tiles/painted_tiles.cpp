#include "render/tiles/painted_tiles.h"

#include "raster/resample.h"

#include <cmath>

namespace glyptos {
namespace {

/// A part of one level, as the sampling of pictures reads it.
struct Window {
    int level;
    IntRect area; ///< in pixels of that level
};

std::optional<Window> windowOf(const Affine& toOutput, const IntRect& region) {
    const auto back = toOutput.inverse();
    if (!back) return std::nullopt;
    const int level = levelFor(std::max(toOutput.scaleX(), toOutput.scaleY()), kPixelTileLevels);
    constexpr double kFilter = 6; // px round what is read, of the widest kernel
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

Tile resampled(Picture picture, const Window& window, const Affine& toOutput, const IntRect& region) {
    const double k = std::ldexp(1.0, window.level);
    const Affine map = toOutput * Affine::scaling(k, k) * Affine::translation(window.area.x, window.area.y);
    Tile out(region.w, region.h);
    resampleTile(Pyramid(std::move(picture)), map, region.x, region.y, out);
    return out;
}

bool isUsed(const PixelTiles& tiles, const Window& window) {
    return !window.area.intersected(atLevel(tiles.bounds(), window.level)).empty();
}

} // namespace

IntRect paintedReach(const Affine& toOutput, const IntRect& region) {
    const auto window = windowOf(toOutput, region);
    if (!window) return {};
    const int k = 1 << window->level;
    return {window->area.x * k, window->area.y * k, window->area.w * k, window->area.h * k};
}

Tile paintedTile(const PixelTiles& tiles, const Affine& toOutput, const IntRect& region) {
    const auto window = windowOf(toOutput, region);
    if (!window || !isUsed(tiles, *window)) return {};
    Picture picture = tiles.format().bytesPerSample == 2 ? pictureOf<uint16_t>(tiles, *window)
                                                         : pictureOf<uint8_t>(tiles, *window);
    Tile out = resampled(std::move(picture), *window, toOutput, region);
    out.settle();
    return out;
}

Buffer<float> paintedValues(const PixelTiles& tiles, const Affine& toOutput, const IntRect& region) {
    Buffer<float> out(size_t(region.w) * size_t(region.h));
    std::fill(out.begin(), out.end(), 0.0f);
    const auto window = windowOf(toOutput, region);
    if (!window || !isUsed(tiles, *window)) return out;
    const Tile values = resampled(greyPicture(tiles, *window), *window, toOutput, region);
    for (int y = 0; y < region.h; ++y)
        for (int x = 0; x < region.w; ++x)
            out[size_t(y) * size_t(region.w) + size_t(x)] = float(values.row(0, y)[x]) / 65535;
    return out;
}

} // namespace glyptos
