// From a snapshot to pixels: tiles of every layer, blended in float from back to front, in blocks that stay
// in cache. Tiles lie on a fixed lattice of the scene's pixels, cut only by the panel that they show, so that
// whatever is moved about in the same scene finds them again.
#pragma once

#include "raster/composite.h"
#include "render/layer_geometry.h"
#include "render/picture_provider.h"
#include "render/scene.h"
#include "render/tiles/tile_cache.h"

#include <atomic>
#include <functional>

namespace glyptos {

class BrushCache;
class GradeCache;
struct NamedLayer;

/// Rows of finished float planes, sRGB-encoded: output row y, columns [x, x+n). Called from one thread at a
/// time for one tile, and from several at once for different tiles.
using RowSink = std::function<void(int y, int x, const RowPlanes& row, size_t n)>;

class Renderer {
  public:
    Renderer(PictureProvider& pictures, const FontLibrary& fonts, size_t cacheBytes = size_t(256) << 20);
    ~Renderer();

    /// Renders any region in wide parts on all cores, from the middle outwards, and hands its rows to `sink`;
    /// pixels that no panel covers are left out. Stops early, between parts, once `*cancel` is true. Finished
    /// pixels are not kept.
    void render(const Scene& scene, const IntRect& region, const RowSink& sink,
                const std::atomic<bool>* cancel = nullptr);

    /// Premultiplied BGRA bytes of the region, transparent where no panel is; rows of 4·w bytes without gaps.
    /// Its tiles are kept: what was shown before, and looks as it did, is not rendered again.
    Buffer<uint8_t> renderBgra8(const Scene& scene, const IntRect& region,
                                const std::atomic<bool>* cancel = nullptr);
    /// Straight RGBA bytes of the region, for files; transparent where no panel is.
    Buffer<uint8_t> renderStraightRgba8(const Scene& scene, const IntRect& region,
                                        const std::atomic<bool>* cancel = nullptr);
    /// The region on white paper: sRGB, 3 bytes a pixel, rows without gaps.
    Buffer<uint8_t> renderRgb8OnWhite(const Scene& scene, const IntRect& region,
                                      const std::atomic<bool>* cancel = nullptr);

    ParagraphCache& paragraphs() { return paragraphs_; }
    size_t cachedBytes() const { return layerTiles_.bytes() + shownTiles_.bytes(); }
    /// Most memory that kept tiles may take, a quarter of it those that are finished. Smaller than before:
    /// the oldest go at once.
    void setCacheBytes(size_t bytes);
    /// How many tiles have been blended since the renderer was made.
    size_t tilesRendered() const { return rendered_; }

  private:
    /// The part of one panel that lies in one cell of the lattice, and what of it is wanted.
    struct Part {
        const PanelView& view;
        IntRect area, wanted;
    };
    /// Of tiles that are kept, or of the wide ones that are not.
    enum class Lattice : unsigned char { Kept, Once };
    /// Calls act(part) for every part of the region, on all cores, cells from the middle outwards.
    void eachPart(const Scene& scene, const IntRect& region, Lattice lattice, const std::atomic<bool>* cancel,
                  const std::function<void(const Part&)>& act);
    std::vector<NamedLayer> nameOfPart(const Scene& scene, const Part& part);
    void blend(const Scene& scene, const Part& part, std::vector<NamedLayer> names, const RowSink& sink);
    std::shared_ptr<const ShownTile> shownTile(const Scene& scene, const Part& part,
                                               std::vector<NamedLayer> names);
    struct ByteFormat {
        size_t pixelBytes;
        uint8_t ground; ///< every byte where no panel is
        void (*pack)(const RowPlanes& in, uint8_t* out, size_t n);
    };
    Buffer<uint8_t> renderBytes(const Scene& scene, const IntRect& region, const ByteFormat& format,
                                const std::atomic<bool>* cancel);
    PictureProvider& pictures_;
    ParagraphCache paragraphs_;
    std::unique_ptr<BrushCache> brushes_;
    std::unique_ptr<GradeCache> grades_;
    TileCache layerTiles_;
    ShownTileCache shownTiles_;
    std::atomic<size_t> rendered_ = 0;
};

} // namespace glyptos
