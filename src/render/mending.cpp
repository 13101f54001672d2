#include "render/mending.h"

#include "release/edits/edits.h"

#include "raster/resample.h"
#include "release/edits/mend_edits.h"
#include "render/tiles/layer_tiles.h"

#include <algorithm>

namespace glyptos {
namespace {

/// The byte nearest to a value within 0…255.
uint8_t nearestByte(double value) {
    constexpr double kHalf = 0.5;
    return static_cast<uint8_t>(value + kHalf);
}

} // namespace

Scene sceneBelow(const ReleasePtr& release, const PanelRef& panel, const std::string& layer, double pixel) {
    Scene out = panelScene(release, panel, {1 / pixel, true});
    for (PanelView& view : out.panels) view.stack = stackBelow(view.stack, layer);
    return out;
}

Scene sceneAlone(const ReleasePtr& release, const PanelRef& panel, const Layer& layer, double pixel) {
    Layer alone = layer;
    alone.on = true, alone.opacity = 1, alone.blend = BlendMode::Normal, alone.clipped = false;
    ReleasePtr empty = release;
    for (const LayerPtr& other : Stack(stackOf(*release, panel)))
        empty = withoutLayer(empty, panel, other->id);
    return panelScene(withLayer(empty, panel, std::move(alone)).release, panel, {1 / pixel, true});
}

IntRect mendReach(const IntRect& hole, const IntRect& all) {
    constexpr int kLeast = 96;
    const int by = std::max(kLeast, std::max(hole.w, hole.h));
    return IntRect{hole.x - by, hole.y - by, hole.w + 2 * by, hole.h + 2 * by}.intersected(all);
}

namespace {

/// Straight over straight: what is new as far as it covers, over what is there.
void lay(const uint8_t* filled, uint8_t cover, uint8_t* there) {
    const float share = float(cover) / 255 * float(filled[3]) / 255, before = float(there[3]) / 255;
    const float alpha = share + before * (1 - share);
    for (int c = 0; c < 3; ++c) {
        const float sum = float(filled[c]) * share + float(there[c]) * before * (1 - share);
        there[c] = alpha > 0 ? nearestByte(double(sum / alpha)) : 0;
    }
    there[3] = nearestByte(double(alpha * 255));
}

} // namespace

PaintedContent withPixels(const PaintedContent& content, const LaidPixels& laid, const PixelTiles* under) {
    const AlphaMap& cover = laid.cover;
    const IntRect area{laid.x, laid.y, cover.width, cover.height};
    PixelTiles tiles = *content.tiles;
    tiles.change(area, [&](const PixelPart& part) {
        for (int v = part.area.y; v < part.area.bottom(); ++v) {
            if (under) under->readRow(part.area.x, v, size_t(part.area.w), part.row(v));
            for (int u = part.area.x; u < part.area.right(); ++u)
                if (const uint8_t covered = cover.at(u - laid.x, v - laid.y))
                    lay(laid.picture.row<uint8_t>(v - laid.y) + ptrdiff_t(4) * (u - laid.x), covered,
                        part.row(v) + ptrdiff_t(4) * (u - part.area.x));
        }
    });
    PaintedContent out{std::make_shared<const PixelTiles>(std::move(tiles)), content.holes};
    if (!laid.isHole || !content.holes) return out;
    PixelTiles holes = *content.holes;
    holes.change(area, [&](const PixelPart& part) {
        for (int v = part.area.y; v < part.area.bottom(); ++v)
            for (int u = part.area.x; u < part.area.right(); ++u) {
                uint8_t& there = part.row(v)[u - part.area.x];
                there = std::max(there, cover.at(u - laid.x, v - laid.y));
            }
    });
    out.holes = std::make_shared<const PixelTiles>(std::move(holes));
    return out;
}

Picture copiedAlong(const Picture& picture, const Affine& toPicture, const IntRect& area) {
    Picture out = Picture::create<uint8_t>(area.w, area.h);
    std::fill_n(out.row<uint8_t>(0), out.bytes(), uint8_t(0));
    for (int y = 0; y < area.h; ++y)
        for (int x = 0; x < area.w; ++x) {
            const Vec2 p = toPicture.map({area.x + x + 0.5, area.y + y + 0.5});
            const double sx = p.x - 0.5, sy = p.y - 0.5;
            const int left = wholePixel(std::floor(sx)), top = wholePixel(std::floor(sy));
            const double fx = sx - left, fy = sy - top;
            double sum[4] = {};
            for (const auto& [dx, dy, w] : {std::tuple{0, 0, (1 - fx) * (1 - fy)},
                                            {1, 0, fx * (1 - fy)},
                                            {0, 1, (1 - fx) * fy},
                                            {1, 1, fx * fy}}) {
                const int u = left + dx, v = top + dy;
                if (w <= 0 || u < 0 || v < 0 || u >= picture.width || v >= picture.height) continue;
                const uint8_t* from = picture.row<uint8_t>(v) + ptrdiff_t(4) * u;
                for (int c = 0; c < 3; ++c) sum[c] += w * from[c] * from[3];
                sum[3] += w * from[3];
            }
            uint8_t* to = out.row<uint8_t>(y) + ptrdiff_t(4) * x;
            for (int c = 0; c < 3; ++c) to[c] = sum[3] > 0 ? nearestByte(sum[c] / sum[3]) : 0;
            to[3] = nearestByte(sum[3]);
        }
    return out;
}

} // namespace glyptos
