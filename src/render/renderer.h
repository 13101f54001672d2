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

/// Rows of finished float planes: output row y, columns [x, x+n). Called from one thread at a time for one
/// tile, and from several at once for different tiles.
using RowSink = std::function<void(int y, int x, const RowPlanes& row, size_t n)>;

inline constexpr int kTileSize = 256;

class Renderer {
  public:
    Renderer(PictureProvider& pictures, const FontLibrary& fonts, size_t cacheBytes = size_t(512) << 20);

    /// Renders the pixels of `scene` inside `region` (at most kTileSize wide) and hands their rows to `sink`;
    /// pixels that no panel covers are left out.
    void renderTile(const Scene& scene, const IntRect& region, const RowSink& sink);

    /// The same for any region, tile by tile on all cores. Stops early, between tiles, once `*cancel` is
    /// true.
    void render(const Scene& scene, const IntRect& region, const RowSink& sink,
                const std::atomic<bool>* cancel = nullptr);

    /// Premultiplied BGRA bytes of the region, transparent where no panel is; rows of 4·w bytes without gaps.
    Buffer<uint8_t> renderBgra8(const Scene& scene, const IntRect& region,
                                const std::atomic<bool>* cancel = nullptr);
    /// The region on white paper: sRGB, 3 bytes a pixel, rows without gaps.
    Buffer<uint8_t> renderRgb8OnWhite(const Scene& scene, const IntRect& region,
                                      const std::atomic<bool>* cancel = nullptr);

    ParagraphCache& paragraphs() { return paragraphs_; }
    size_t cachedBytes() const { return cache_.bytes(); }

  private:
    friend class StackPreparer;
    PictureProvider& pictures_;
    ParagraphCache paragraphs_;
    TileCache cache_;
};

} // namespace glyptos
