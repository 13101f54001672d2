// From a snapshot to pixels: tiles of every layer, blended in float from back to front, in blocks that stay
// in cache.
#pragma once

#include "raster/composite.h"
#include "render/layer_geometry.h"
#include "render/picture_provider.h"
#include "render/scene.h"
#include "render/tile_cache.h"

#include <atomic>
#include <functional>

namespace glyptos {

/// Rows of finished float planes, sRGB-encoded: output row y, columns [x, x+n). Called from one thread at a
/// time for one tile, and from several at once for different tiles.
using RowSink = std::function<void(int y, int x, const RowPlanes& row, size_t n)>;

class Renderer {
  public:
    Renderer(PictureProvider& pictures, const FontLibrary& fonts, size_t cacheBytes = size_t(256) << 20);

    /// Renders any region, tile by tile on all cores, from the middle outwards, and hands its rows to `sink`;
    /// pixels that no panel covers are left out. Stops early, between tiles, once `*cancel` is true.
    void render(const Scene& scene, const IntRect& region, const RowSink& sink,
                const std::atomic<bool>* cancel = nullptr);

    /// Premultiplied BGRA bytes of the region, transparent where no panel is; rows of 4·w bytes without gaps.
    Buffer<uint8_t> renderBgra8(const Scene& scene, const IntRect& region,
                                const std::atomic<bool>* cancel = nullptr);
    /// Straight RGBA bytes of the region, for files; transparent where no panel is.
    Buffer<uint8_t> renderStraightRgba8(const Scene& scene, const IntRect& region,
                                        const std::atomic<bool>* cancel = nullptr);
    /// The region on white paper: sRGB, 3 bytes a pixel, rows without gaps.
    Buffer<uint8_t> renderRgb8OnWhite(const Scene& scene, const IntRect& region,
                                      const std::atomic<bool>* cancel = nullptr);

    ParagraphCache& paragraphs() { return paragraphs_; }
    size_t cachedBytes() const { return cache_.bytes(); }
    /// Most memory that finished tiles may take. Smaller than before: the oldest go at once.
    void setCacheBytes(size_t bytes) { cache_.setBudget(bytes); }

  private:
    void renderTile(const Scene& scene, const IntRect& region, const RowSink& sink);
    using PackRow = void (*)(const RowPlanes& in, uint8_t* out, size_t n);
    Buffer<uint8_t> renderBytes(const Scene& scene, const IntRect& region, size_t pixelBytes, uint8_t ground,
                                PackRow pack, const std::atomic<bool>* cancel);
    PictureProvider& pictures_;
    ParagraphCache paragraphs_;
    TileCache cache_;
};

} // namespace glyptos
