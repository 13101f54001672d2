#include "render/renderer.h"

#include "release/fields.h"
#include "render/layer_tiles.h"

#include <algorithm>
#include <cmath>
#include <cstring>
#include <tbb/parallel_for.h>
#include <variant>
#include <xxhash.h>

namespace glyptos {
namespace {

/// Rows blended together before moving on: 256 × 4 pixels of four float planes are 16 KiB, which stay in the
/// first-level cache while the whole stack passes over them.
constexpr int kBandRows = 4;

struct SolidRows {
    float colour[4]; ///< premultiplied
};
struct PictureRows {
    PyramidPtr picture;
    int dx = 0, dy = 0; ///< picture pixel = output pixel + (dx, dy)
    IntRect shown;      ///< output pixels it covers
};
struct TileRows {
    TilePtr tile;
};
struct PreparedLayer;
struct GroupRows {
    std::vector<PreparedLayer> layers; ///< back to front
    bool passing = false;              ///< each meets the backdrop by itself
};

struct PreparedLayer {
    BlendMode blend = BlendMode::Normal;
    float opacity = 1;
    bool opaque = false; ///< hides all beneath it in this tile
    std::variant<SolidRows, PictureRows, TileRows, GroupRows> rows;
};

class KeyHash {
  public:
    explicit KeyHash(int kind)
        : state_(XXH3_createState()) {
        XXH3_128bits_reset(state_.get());
        add(kind);
    }
    template <class T>
    KeyHash& add(const T& value) {
        static_assert(std::is_arithmetic_v<T>);
        XXH3_128bits_update(state_.get(), &value, sizeof value);
        return *this;
    }
    KeyHash& add(const std::string& text) {
        add(text.size());
        XXH3_128bits_update(state_.get(), text.data(), text.size());
        return *this;
    }
    KeyHash& add(const Affine& m) { return add(m.a).add(m.b).add(m.c).add(m.d).add(m.e).add(m.f); }
    KeyHash& add(const Rect& r) { return add(r.x).add(r.y).add(r.w).add(r.h); }
    KeyHash& add(const IntRect& r) { return add(r.x).add(r.y).add(r.w).add(r.h); }
    KeyHash& add(const Rgba& c) { return add(c.r).add(c.g).add(c.b).add(c.a); }
    KeyHash& add(const TextSpec& t) {
        return add(t.text)
            .add(t.family)
            .add(t.style)
            .add(t.size)
            .add(t.tracking)
            .add(t.leading)
            .add(int(t.align))
            .add(t.measure);
    }
    TileKey key() const {
        const XXH128_hash_t hash = XXH3_128bits_digest(state_.get());
        return {hash.low64, hash.high64};
    }

  private:
    struct Free {
        void operator()(XXH3_state_t* s) const { XXH3_freeState(s); }
    };
    std::unique_ptr<XXH3_state_t, Free> state_;
};

/// Planes of a band start this many floats apart: a little more than 4 KiB, since a processor takes a load
/// for dependent on a store just before it when their addresses differ by a multiple of 4 KiB.
constexpr size_t kPlane = size_t(kBandRows) * kTileSize + 96;
constexpr size_t kSourcePlane = kTileSize + 112;

/// Four planes of kBandRows × kTileSize floats.
class Band {
  public:
    Band()
        : values_(4 * kPlane) {}
    RowPlanes row(int y) {
        RowPlanes planes;
        for (size_t c = 0; c < 4; ++c) planes.c[c] = values_.data() + c * kPlane + size_t(y) * kTileSize;
        return planes;
    }
    void clear() { std::memset(values_.data(), 0, values_.size() * sizeof(float)); }
    void copy(const Band& other) {
        std::memcpy(values_.data(), other.values_.data(), values_.size() * sizeof(float));
    }

  private:
    Buffer<float> values_;
};

/// Scratch memory of one thread: one source row, and a band for each depth of groups.
struct Scratch {
    Buffer<float> source{4 * kSourcePlane};
    std::vector<std::unique_ptr<Band>> bands;
    RowPlanes sourceRow() {
        RowPlanes planes;
        for (size_t c = 0; c < 4; ++c) planes.c[c] = source.data() + c * kSourcePlane;
        return planes;
    }
    Band& band(size_t depth) {
        while (bands.size() <= depth) bands.push_back(std::make_unique<Band>());
        return *bands[depth];
    }
};

/// 0…1 to 0…255, to the nearest; what lies outside is not to be had in bytes.
uint8_t toByte(float v) {
    return static_cast<uint8_t>(std::lrint(std::clamp(v, 0.0f, 1.0f) * 255));
}

void fetch(const SolidRows& s, int, const IntRect& region, const RowPlanes& out) {
    for (int c = 0; c < 4; ++c) std::fill_n(out.c[c], region.w, s.colour[c]);
}

/// Rows of a tile lie too far apart for the processor to guess the next one, so the row that the next band
/// reads is named.
void prefetch(const PictureRows& p, int y, const IntRect& part) {
    if (y >= p.shown.bottom()) return;
    const Picture& picture = p.picture->level(0);
    const size_t pixel = picture.is16() ? 8 : 4;
    const char* row = picture.is16() ? reinterpret_cast<const char*>(picture.row<uint16_t>(y + p.dy))
                                     : reinterpret_cast<const char*>(picture.row<uint8_t>(y + p.dy));
    row += size_t(part.x + p.dx) * pixel;
    for (size_t i = 0; i < size_t(part.w) * pixel; i += 64) __builtin_prefetch(row + i);
}

void fetch(const PictureRows& p, int y, const IntRect& region, const RowPlanes& out) {
    const IntRect part = p.shown.intersected({region.x, y, region.w, 1});
    if (part.w < region.w || part.empty())
        for (float* plane : out.c) std::fill_n(plane, region.w, 0.0f);
    if (part.empty()) return;
    prefetch(p, y + kBandRows, part);
    // Unpacking writes whole vectors from the start of the row on; a part that starts later goes through a
    // shifted copy.
    const Picture& picture = p.picture->level(0);
    const size_t first = size_t(part.x + p.dx) * 4;
    const auto unpack = [&](const auto* row) {
        if (part.x == region.x) return unpackRow(row + first, out, size_t(part.w));
        for (size_t i = 0, n = size_t(part.w), to = size_t(part.x - region.x); i < n; ++i)
            for (size_t c = 0; c < 4; ++c)
                out.c[c][to + i] = float(row[first + 4 * i + c]) / (sizeof(*row) == 1 ? 255.0f : 65535.0f);
    };
    if (picture.is16())
        unpack(picture.row<uint16_t>(y + p.dy));
    else
        unpack(picture.row<uint8_t>(y + p.dy));
    for (float* plane : out.c) std::fill(plane + (part.right() - region.x), plane + region.w, 0.0f);
}

void fetch(const TileRows& t, int y, const IntRect& region, const RowPlanes& out) {
    for (int c = 0; c < 4; ++c) unpackPlane(t.tile->row(c, y - region.y), out.c[c], size_t(region.w));
}

void blendBand(const std::vector<PreparedLayer>& layers, int y, int rows, const IntRect& region,
               Scratch& scratch, size_t depth);

void blendLayer(const PreparedLayer& layer, int y, int rows, const IntRect& region, Band& onto,
                Scratch& scratch, size_t depth);

/// The group's layers on the backdrop itself; of what they change, the share `opacity` is kept.
void passThrough(const GroupRows& group, float opacity, int y, int rows, const IntRect& region, Band& onto,
                 Scratch& scratch, size_t depth) {
    if (opacity >= 1) {
        for (const PreparedLayer& layer : group.layers)
            blendLayer(layer, y, rows, region, onto, scratch, depth);
        return;
    }
    Band& changed = scratch.band(depth + 1);
    changed.copy(onto);
    for (const PreparedLayer& layer : group.layers)
        blendLayer(layer, y, rows, region, changed, scratch, depth + 1);
    for (int r = 0; r < rows; ++r)
        for (int c = 0; c < 4; ++c) {
            float* to = onto.row(r).c[c];
            const float* from = changed.row(r).c[c];
            for (int x = 0; x < region.w; ++x) to[x] += (from[x] - to[x]) * opacity;
        }
}

void blendLayer(const PreparedLayer& layer, int y, int rows, const IntRect& region, Band& onto,
                Scratch& scratch, size_t depth) {
    const size_t n = size_t(region.w);
    if (const auto* group = std::get_if<GroupRows>(&layer.rows)) {
        if (group->passing) return passThrough(*group, layer.opacity, y, rows, region, onto, scratch, depth);
        blendBand(group->layers, y, rows, region, scratch, depth + 1);
        for (int r = 0; r < rows; ++r)
            blendRow(layer.blend, onto.row(r), scratch.band(depth + 1).row(r), layer.opacity, n);
        return;
    }
    const RowPlanes source = scratch.sourceRow();
    for (int r = 0; r < rows; ++r) {
        if (const auto* solid = std::get_if<SolidRows>(&layer.rows)) {
            if (r == 0) fetch(*solid, y, region, source);
        } else if (const auto* picture = std::get_if<PictureRows>(&layer.rows)) {
            fetch(*picture, y + r, region, source);
        } else {
            fetch(std::get<TileRows>(layer.rows), y + r, region, source);
        }
        blendRow(layer.blend, onto.row(r), source, layer.opacity, n);
    }
}

void blendBand(const std::vector<PreparedLayer>& layers, int y, int rows, const IntRect& region,
               Scratch& scratch, size_t depth) {
    Band& band = scratch.band(depth);
    band.clear();
    for (const PreparedLayer& layer : layers) blendLayer(layer, y, rows, region, band, scratch, depth);
}

} // namespace

/// Gets a stack ready for one tile: pictures sampled, words drawn, hidden layers left out.
class StackPreparer {
  public:
    StackPreparer(Renderer& renderer, const Release& release, const PanelView& view, const IntRect& region)
        : renderer_(renderer)
        , release_(release)
        , view_(view)
        , region_(region) {}

    /// Back to front, from the topmost layer that hides all beneath it.
    std::vector<PreparedLayer> prepare(const Stack& stack) {
        std::vector<PreparedLayer> out;
        for (const LayerPtr& layer : stack) {
            if (!layer->on) continue;
            PreparedLayer prepared;
            if (layer->opacity <= 0 || !rowsOf(*layer, prepared)) {
                if (infoOf(layer->blend).keepsBackdrop) continue;
                prepared = {}; // nothing, which still takes the backdrop away
            }
            prepared.blend = layer->blend;
            prepared.opacity = float(std::min(layer->opacity, 1.0));
            prepared.opaque = prepared.opaque && layer->blend == BlendMode::Normal && layer->opacity >= 1;
            out.push_back(std::move(prepared));
            if (out.back().opaque) break;
        }
        std::reverse(out.begin(), out.end());
        return out;
    }

  private:
    /// False when the layer shows nothing in this tile.
    bool rowsOf(const Layer& layer, PreparedLayer& out) {
        if (const auto* picture = layer.as<PictureContent>()) return pictureRows(layer, *picture, out);
        if (const auto* text = layer.as<TextContent>()) return textRows(layer, *text, out);
        if (const auto* fill = layer.as<FillContent>()) return fillRows(*fill, out);
        const auto& content = *layer.as<GroupContent>();
        GroupRows group{prepare(content.layers), content.passing && layer.blend == BlendMode::Normal};
        const bool any = !group.layers.empty();
        out.opaque = any && group.layers.front().opaque &&
                     std::none_of(group.layers.begin(), group.layers.end(),
                                  [](const PreparedLayer& l) { return cutsBackdrop(l.blend); });
        out.rows = std::move(group);
        return any;
    }

    bool pictureRows(const Layer& layer, const PictureContent& content, PreparedLayer& out) {
        const SourcePtr source = release_.source(content.source);
        if (!source) return false;
        const Affine map = view_.toOutput * pictureToPanel(layer.placement, *source);
        const Rect shown{content.crop.x * source->width, content.crop.y * source->height,
                         content.crop.w * source->width, content.crop.h * source->height};
        if (pixelsAround(map.mapBounds(shown)).intersected(region_).empty()) return false;
        const PyramidPtr picture = renderer_.pictures_.picture(*source, std::max(map.scaleX(), map.scaleY()));
        if (!picture) return false;
        if (direct(picture, *source, map, shown, out)) return true;
        KeyHash hash(1);
        hash.add(source->id).add(picture->width()).add(map).add(shown).add(region_);
        return cachedTile(hash.key(), out, [&] {
            return pictureTile(*picture, source->width, source->height, map, shown, region_);
        });
    }

    /// Pixels that fall exactly on pixels need no sampling.
    bool direct(const PyramidPtr& picture, const Source& source, const Affine& map, const Rect& shown,
                PreparedLayer& out) const {
        const auto whole = [](double v) { return std::abs(v - std::round(v)) < 1e-6; };
        const Rect area = map.mapBounds(shown);
        if (std::abs(map.a - 1) > 1e-9 || std::abs(map.d - 1) > 1e-9 || map.b != 0 || map.c != 0 ||
            !whole(map.e) || !whole(map.f) || !whole(area.x) || !whole(area.y) || !whole(area.right()) ||
            !whole(area.bottom()) || picture->width() != source.width || picture->height() != source.height)
            return false;
        const int left = int(std::lround(area.x)), top = int(std::lround(area.y));
        PictureRows rows{
            picture,
            -int(std::lround(map.e)),
            -int(std::lround(map.f)),
            {left, top, int(std::lround(area.right())) - left, int(std::lround(area.bottom())) - top}};
        out.opaque = picture->level(0).opaque && rows.shown.intersected(region_) == region_;
        out.rows = std::move(rows);
        return true;
    }

    bool textRows(const Layer& layer, const TextContent& content, PreparedLayer& out) {
        const TextSpec spec = resolvedText(content, release_.brief);
        const auto paragraph = renderer_.paragraphs_.get(spec);
        const Affine map = view_.toOutput * textToPanel(layer.placement);
        if (pixelsAround(map.mapBounds(paragraph->ink)).intersected(region_).empty()) return false;
        KeyHash hash(2);
        hash.add(spec).add(content.colour).add(map).add(region_);
        return cachedTile(hash.key(), out,
                          [&] { return textTile(paragraph->outline, map, content.colour, region_); });
    }

    bool fillRows(const FillContent& fill, PreparedLayer& out) {
        if (fill.to) {
            KeyHash hash(3);
            hash.add(fill.colour)
                .add(*fill.to)
                .add(fill.turn)
                .add(view_.area)
                .add(view_.toOutput)
                .add(region_);
            return cachedTile(hash.key(), out,
                              [&] { return gradientTile(fill, view_.area, view_.toOutput, region_); });
        }
        const Rgba& c = fill.colour;
        out.rows = SolidRows{{c.r * c.a, c.g * c.a, c.b * c.a, c.a}};
        out.opaque = c.a >= 1;
        return c.a > 0;
    }

    template <class Make>
    bool cachedTile(const TileKey& key, PreparedLayer& out, Make make) {
        TilePtr tile = renderer_.cache_.find(key);
        if (!tile) {
            tile = std::make_shared<const Tile>(make());
            renderer_.cache_.insert(key, tile);
        }
        out.opaque = tile->opaque;
        out.rows = TileRows{tile};
        return !tile->empty;
    }

    Renderer& renderer_;
    const Release& release_;
    const PanelView& view_;
    IntRect region_;
};

Renderer::Renderer(PictureProvider& pictures, const FontLibrary& fonts, size_t cacheBytes)
    : pictures_(pictures)
    , paragraphs_(fonts)
    , cache_(cacheBytes) {}

void Renderer::renderTile(const Scene& scene, const IntRect& region, const RowSink& sink) {
    static thread_local Scratch scratch;
    for (const PanelView& view : scene.panels) {
        const IntRect part = view.clip.intersected(region);
        if (part.empty()) continue;
        const auto layers = StackPreparer(*this, *scene.release, view, part).prepare(view.stack);
        for (int y = part.y; y < part.bottom(); y += kBandRows) {
            const int rows = std::min(kBandRows, part.bottom() - y);
            blendBand(layers, y, rows, part, scratch, 0);
            for (int r = 0; r < rows; ++r) sink(y + r, part.x, scratch.band(0).row(r), size_t(part.w));
        }
    }
}

void Renderer::render(const Scene& scene, const IntRect& region, const RowSink& sink,
                      const std::atomic<bool>* cancel) {
    const int across = (region.w + kTileSize - 1) / kTileSize, down = (region.h + kTileSize - 1) / kTileSize;
    tbb::parallel_for(tbb::blocked_range<int>(0, across * down, 1),
                      [&](const tbb::blocked_range<int>& tiles) {
                          for (int i = tiles.begin(); i < tiles.end(); ++i) {
                              if (cancel && *cancel) return;
                              const IntRect tile{region.x + i % across * kTileSize,
                                                 region.y + i / across * kTileSize, kTileSize, kTileSize};
                              renderTile(scene, tile.intersected(region), sink);
                          }
                      });
}

Buffer<uint8_t> Renderer::renderBgra8(const Scene& scene, const IntRect& region,
                                      const std::atomic<bool>* cancel) {
    Buffer<uint8_t> out(size_t(region.w) * size_t(region.h) * 4);
    std::memset(out.data(), 0, out.size());
    render(
        scene, region,
        [&](int y, int x, const RowPlanes& row, size_t n) {
            packBgra8(row, out.data() + (size_t(y - region.y) * size_t(region.w) + size_t(x - region.x)) * 4,
                      n);
        },
        cancel);
    return out;
}

Buffer<uint8_t> Renderer::renderRgb8OnWhite(const Scene& scene, const IntRect& region,
                                            const std::atomic<bool>* cancel) {
    Buffer<uint8_t> out(size_t(region.w) * size_t(region.h) * 3);
    std::memset(out.data(), 255, out.size());
    const auto put = [&](int y, int x, const RowPlanes& row, size_t n) {
        uint8_t* p = out.data() + (size_t(y - region.y) * size_t(region.w) + size_t(x - region.x)) * 3;
        for (size_t i = 0; i < n; ++i)
            for (size_t c = 0; c < 3; ++c) *p++ = toByte(row.c[c][i] + 1 - row.c[3][i]);
    };
    render(scene, region, put, cancel);
    return out;
}

} // namespace glyptos
