#include "render/renderer.h"

#include "raster/light.h"
#include "release/walks.h"
#include "render/tiles/blend_bands.h"
#include "render/tiles/brush_cache.h"
#include "render/tiles/grade_cache.h"
#include "render/tiles/kept_composites.h"
#include "render/tiles/stack_preparer.h"
#include "render/white_paper.h"

#include <algorithm>
#include <cmath>
#include <cstring>
#include <tbb/parallel_for.h>

namespace glyptos {
namespace {

/// The first line of a lattice at or before a pixel.
int cellStart(int at, int side) {
    return at - (at % side + side) % side;
}

/// The cells of a lattice of width × height that a region touches, row by row from its middle outwards. Along
/// a row, since neighbours read the same pages of their pictures: going round the middle takes half as long
/// again.
std::vector<IntRect> cellsFromMiddle(const IntRect& region, int width, int height) {
    std::vector<IntRect> out;
    for (int y = cellStart(region.y, height); y < region.bottom(); y += height)
        for (int x = cellStart(region.x, width); x < region.right(); x += width)
            out.push_back({x, y, width, height});
    const double middle = region.toRect().centre().y;
    const auto off = [&](const IntRect& cell) { return std::abs(cell.toRect().centre().y - middle); };
    std::stable_sort(out.begin(), out.end(),
                     [&](const IntRect& a, const IntRect& b) { return off(a) < off(b); });
    return out;
}

/// Whether any layer has a treatment that looks around itself.
bool looksAround(const Release& release) {
    bool any = false;
    eachLayer(release, [&](const LayerPtr& layer) {
        any = any || (layer->treatments && !changesColoursOnly(*layer->treatments));
    });
    return any;
}

/// Of a render that is worth looking ahead for.
constexpr size_t kManyPixels = size_t(1) << 20;

/// Which pictures are asked for, in which scale; it has none.
struct AskedPictures : PictureProvider {
    std::vector<std::pair<Source, double>> all;
    PyramidPtr picture(const Source& source, double scale) override {
        const bool known = std::any_of(all.begin(), all.end(), [&](const auto& one) {
            return one.first.id == source.id && one.second >= scale;
        });
        if (!known) all.emplace_back(source, scale);
        return nullptr;
    }
};

Scratch& scratchOf(const Scene& scene) {
    static thread_local Scratch scratch;
    scratch.linear = scene.release->linearLight;
    return scratch;
}

} // namespace

Renderer::Renderer(PictureProvider& pictures, const FontLibrary& fonts, size_t cacheBytes)
    : pictures_(pictures)
    , paragraphs_(fonts)
    , brushes_(std::make_unique<BrushCache>())
    , grades_(std::make_unique<GradeCache>())
    , layerTiles_(0)
    , shownTiles_(0) {
    setCacheBytes(cacheBytes);
}

Renderer::~Renderer() = default;

void Renderer::setCacheBytes(size_t bytes) {
    layerTiles_.setBudget(bytes / 4 * 3);
    shownTiles_.setBudget(bytes / 4);
}

void Renderer::eachPart(const Scene& scene, const IntRect& region, Lattice lattice,
                        const std::atomic<bool>* cancel, const std::function<void(const Part&)>& act) {
    const std::vector<IntRect> cells = lattice == Lattice::Kept
                                           ? cellsFromMiddle(region, kTileSize, kTileSize)
                                           : cellsFromMiddle(region, kWideTile, kLowTile);
    // Whichever thread is free takes the next cell, so that they really are made in this order.
    std::atomic<size_t> next = 0;
    tbb::parallel_for(size_t(0), cells.size(), [&](size_t) {
        if (cancel && *cancel) return;
        const IntRect cell = cells[next++];
        for (const PanelView& view : scene.panels) {
            const Part part{view, view.clip.intersected(cell),
                            view.clip.intersected(cell).intersected(region)};
            if (!part.wanted.empty()) act(part);
        }
    });
}

std::vector<NamedLayer> Renderer::nameOfPart(const Scene& scene, const Part& part) {
    return nameStack({pictures_, paragraphs_, *brushes_, *grades_, layerTiles_}, scene, part.view, part.area);
}

void Renderer::blend(const Scene& scene, const Part& part, std::vector<NamedLayer> names,
                     const RowSink& sink) {
    Scratch& scratch = scratchOf(scene);
    keepComposites(names, part.area, scratch.linear, layerTiles_);
    const auto layers = prepared(names, layerTiles_, scratch);
    const IntRect& wanted = part.wanted;
    const int most = bandRows(part.area.w);
    for (int y = wanted.y; y < wanted.bottom(); y += most) {
        const int rows = std::min(most, wanted.bottom() - y);
        blendBand(layers, {part.area, y, rows}, scratch, 0);
        for (int r = 0; r < rows; ++r) {
            RowPlanes row = scratch.band(0).row(r);
            if (scratch.linear) toEncodedRow(row, size_t(part.area.w));
            for (float*& plane : row.c) plane += wanted.x - part.area.x;
            sink(y + r, wanted.x, row, size_t(wanted.w));
        }
    }
    ++rendered_;
}

void Renderer::render(const Scene& scene, const IntRect& region, const RowSink& sink,
                      const std::atomic<bool>* cancel) {
    // What treatments draw is kept in square tiles, so that parts of those are rendered.
    const Lattice lattice = looksAround(*scene.release) ? Lattice::Kept : Lattice::Once;
    // Pictures are decoded several at once first: parts are named, and so ask for them, one after the other.
    AskedPictures asked;
    for (const PanelView& view : scene.panels)
        if (const IntRect seen = view.clip.intersected(region); size_t(seen.w) * size_t(seen.h) > kManyPixels)
            nameStack({asked, paragraphs_, *brushes_, *grades_, layerTiles_}, scene, view, seen);
    tbb::parallel_for(size_t(0), asked.all.size(), [&](size_t i) {
        if (!cancel || !*cancel) pictures_.picture(asked.all[i].first, asked.all[i].second);
    });
    eachPart(scene, region, lattice, cancel,
             [&](const Part& part) { blend(scene, part, nameOfPart(scene, part), sink); });
}

std::shared_ptr<const ShownTile> Renderer::shownTile(const Scene& scene, const Part& part,
                                                     std::vector<NamedLayer> names) {
    const TileKey key = glyptos::nameOf(names, part.area, scene.release->linearLight);
    if (auto kept = shownTiles_.find(key)) return kept;
    const IntRect area = part.area;
    auto tile = std::make_shared<ShownTile>();
    tile->bgra = Buffer<uint8_t>(size_t(area.w) * size_t(area.h) * 4);
    blend(scene, {part.view, area, area}, std::move(names), [&](int y, int, const RowPlanes& row, size_t n) {
        packBgra8(row, tile->bgra.data() + size_t(y - area.y) * size_t(area.w) * 4, n);
    });
    shownTiles_.insert(key, tile);
    return tile;
}

Buffer<uint8_t> Renderer::renderBgra8(const Scene& scene, const IntRect& region,
                                      const std::atomic<bool>* cancel) {
    // What would push everything else out is not worth keeping.
    const size_t size = size_t(region.w) * size_t(region.h) * 4;
    if (size > shownTiles_.budget() / 2) return renderBytes(scene, region, {4, 0, packBgra8}, cancel);
    Buffer<uint8_t> out(size);
    std::memset(out.data(), 0, out.size());
    eachPart(scene, region, Lattice::Kept, cancel, [&](const Part& part) {
        const auto tile = shownTile(scene, part, nameOfPart(scene, part));
        const IntRect &from = part.area, &to = part.wanted;
        for (int y = to.y; y < to.bottom(); ++y)
            std::memcpy(out.data() + (size_t(y - region.y) * size_t(region.w) + size_t(to.x - region.x)) * 4,
                        tile->bgra.data() + (size_t(y - from.y) * size_t(from.w) + size_t(to.x - from.x)) * 4,
                        size_t(to.w) * 4);
    });
    return out;
}

Buffer<uint8_t> Renderer::renderBytes(const Scene& scene, const IntRect& region, const ByteFormat& format,
                                      const std::atomic<bool>* cancel) {
    Buffer<uint8_t> out(size_t(region.w) * size_t(region.h) * format.pixelBytes);
    std::memset(out.data(), format.ground, out.size());
    const auto put = [&](int y, int x, const RowPlanes& row, size_t n) {
        const size_t at = size_t(y - region.y) * size_t(region.w) + size_t(x - region.x);
        format.pack(row, out.data() + at * format.pixelBytes, n);
    };
    render(scene, region, put, cancel);
    return out;
}

Buffer<uint8_t> Renderer::renderStraightRgba8(const Scene& scene, const IntRect& region,
                                              const std::atomic<bool>* cancel) {
    return renderBytes(scene, region, {4, 0, packStraightRgba8}, cancel);
}

Buffer<uint8_t> Renderer::renderRgb8OnWhite(const Scene& scene, const IntRect& region,
                                            const std::atomic<bool>* cancel) {
    return renderBytes(scene, region, {3, 255, packRgb8OnWhite}, cancel);
}

} // namespace glyptos
