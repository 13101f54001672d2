#include "render/renderer.h"

#include "raster/light.h"
#include "render/kept_composites.h"
#include "render/stack_preparer.h"

#include <algorithm>
#include <cmath>
#include <cstring>
#include <tbb/parallel_for.h>

namespace glyptos {
namespace {

/// 0…1 to 0…255, to the nearest; what lies outside is not to be had in bytes.
uint8_t toByte(float v) {
    return static_cast<uint8_t>(std::lrint(std::clamp(v, 0.0f, 1.0f) * 255));
}

/// On white paper: what shows through is white.
void packRgb8OnWhite(const RowPlanes& row, uint8_t* p, size_t n) {
    for (size_t i = 0; i < n; ++i)
        for (const float* plane : {row.c[0], row.c[1], row.c[2]}) *p++ = toByte(plane[i] + 1 - row.c[3][i]);
}

/// The tiles of a region, row by row from its middle outwards. Along a row, since neighbours read the same
/// pages of their pictures: going round the middle takes half as long again.
std::vector<IntRect> tilesFromMiddle(const IntRect& region) {
    std::vector<IntRect> out;
    for (int y = region.y; y < region.bottom(); y += kTileSize)
        for (int x = region.x; x < region.right(); x += kTileSize)
            out.push_back(IntRect{x, y, kTileSize, kTileSize}.intersected(region));
    const double middle = region.toRect().centre().y;
    const auto off = [&](const IntRect& tile) { return std::abs(tile.toRect().centre().y - middle); };
    std::stable_sort(out.begin(), out.end(),
                     [&](const IntRect& a, const IntRect& b) { return off(a) < off(b); });
    return out;
}

} // namespace

Renderer::Renderer(PictureProvider& pictures, const FontLibrary& fonts, size_t cacheBytes)
    : pictures_(pictures)
    , paragraphs_(fonts)
    , cache_(cacheBytes) {}

void Renderer::renderTile(const Scene& scene, const IntRect& region, const RowSink& sink) {
    static thread_local Scratch scratch;
    scratch.linear = scene.release->linearLight;
    for (const PanelView& view : scene.panels) {
        const IntRect part = view.clip.intersected(region);
        if (part.empty()) continue;
        auto layers =
            prepareStack({pictures_, paragraphs_, cache_}, *scene.release, view, part, scene.inHand);
        keepComposites(layers, part, cache_, scratch);
        for (int y = part.y; y < part.bottom(); y += kBandRows) {
            const int rows = std::min(kBandRows, part.bottom() - y);
            blendBand(layers, y, rows, part, scratch, 0);
            for (int r = 0; r < rows; ++r) {
                const RowPlanes row = scratch.band(0).row(r);
                if (scratch.linear) toEncodedRow(row, size_t(part.w));
                sink(y + r, part.x, row, size_t(part.w));
            }
        }
    }
}

void Renderer::render(const Scene& scene, const IntRect& region, const RowSink& sink,
                      const std::atomic<bool>* cancel) {
    const std::vector<IntRect> tiles = tilesFromMiddle(region);
    // Whichever thread is free takes the next tile, so that they really are made in this order.
    std::atomic<size_t> next = 0;
    tbb::parallel_for(size_t(0), tiles.size(), [&](size_t) {
        if (!cancel || !*cancel) renderTile(scene, tiles[next++], sink);
    });
}

Buffer<uint8_t> Renderer::renderBytes(const Scene& scene, const IntRect& region, size_t pixelBytes,
                                      uint8_t ground, PackRow pack, const std::atomic<bool>* cancel) {
    Buffer<uint8_t> out(size_t(region.w) * size_t(region.h) * pixelBytes);
    std::memset(out.data(), ground, out.size());
    const auto put = [&](int y, int x, const RowPlanes& row, size_t n) {
        const size_t at = size_t(y - region.y) * size_t(region.w) + size_t(x - region.x);
        pack(row, out.data() + at * pixelBytes, n);
    };
    render(scene, region, put, cancel);
    return out;
}

Buffer<uint8_t> Renderer::renderBgra8(const Scene& scene, const IntRect& region,
                                      const std::atomic<bool>* cancel) {
    return renderBytes(scene, region, 4, 0, packBgra8, cancel);
}

Buffer<uint8_t> Renderer::renderStraightRgba8(const Scene& scene, const IntRect& region,
                                              const std::atomic<bool>* cancel) {
    return renderBytes(scene, region, 4, 0, packStraightRgba8, cancel);
}

Buffer<uint8_t> Renderer::renderRgb8OnWhite(const Scene& scene, const IntRect& region,
                                            const std::atomic<bool>* cancel) {
    return renderBytes(scene, region, 3, 255, packRgb8OnWhite, cancel);
}

} // namespace glyptos
