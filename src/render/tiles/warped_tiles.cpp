#include "render/tiles/warped_tiles.h"

#include <cmath>

namespace glyptos {
namespace {

/// What of the frame a region sees, and how finely.
struct Seen {
    Rect area;
    double scale = 1; ///< pixels for a unit of the frame
};

std::optional<Seen> seenBy(const Coordinates& from, double finest) {
    float l = 1e30F, t = 1e30F, r = -1e30F, b = -1e30F;
    for (size_t i = 0; i < from.share.size(); ++i) {
        if (from.share[i] <= 0) continue;
        l = std::min(l, from.x[i]), r = std::max(r, from.x[i]);
        t = std::min(t, from.y[i]), b = std::max(b, from.y[i]);
    }
    if (l > r) return std::nullopt;
    double unit = 1e300; // of the frame, for a pixel
    for (const auto& print : from.footprints) {
        const double size = std::max(print.across.length(), print.down.length());
        if (size > 0) unit = std::min(unit, size);
    }
    // Powers of two, so that painted pixels are read as they are or as one of their halves.
    Seen out{{l, t, double(r) - double(l), double(b) - double(t)},
             std::min(std::exp2(std::ceil(std::log2(1 / unit))), finest)};
    constexpr double kMost = 16e6; // pixels that are drawn for one tile
    const auto pixels = [&] { return (out.area.w * out.scale + 32) * (out.area.h * out.scale + 32); };
    while (pixels() > kMost) out.scale /= 2;
    return out;
}

/// A tile as a picture in 16 bits, straight; one of a single channel as its grey.
Picture asPicture(const Tile& tile) {
    Picture out = Picture::create<uint16_t>(tile.width, tile.height);
    out.opaque = tile.opaque || tile.channels == 1;
    for (int y = 0; y < tile.height; ++y) {
        uint16_t* to = out.row<uint16_t>(y);
        for (int x = 0; x < tile.width; ++x, to += 4) {
            if (tile.channels == 1) {
                to[0] = to[1] = to[2] = tile.row(0, y)[x], to[3] = 65535;
                continue;
            }
            const uint64_t alpha = tile.row(3, y)[x];
            for (int c = 0; c < 3; ++c)
                to[c] = alpha == 0 ? uint16_t(0)
                                   : static_cast<uint16_t>(std::min<uint64_t>(
                                         (uint64_t(tile.row(c, y)[x]) * 65535 + alpha / 2) / alpha, 65535));
            to[3] = static_cast<uint16_t>(alpha);
        }
    }
    return out;
}

Tile through(const WarpedDrawing& drawing, const IntRect& region) {
    const Coordinates from = coordinatesFor(drawing.mapping, drawing.extent, region, Borders::GoAlong);
    const auto seen = from.empty ? std::nullopt : seenBy(from, drawing.finest);
    if (!seen) return {};
    constexpr int kRound = 12; // px that the filter reads beyond
    const double k = seen->scale;
    const IntRect inner =
        pixelsAround({seen->area.x * k, seen->area.y * k, seen->area.w * k, seen->area.h * k});
    const IntRect area{inner.x - kRound, inner.y - kRound, inner.w + 2 * kRound, inner.h + 2 * kRound};
    const Tile drawn = drawing.draw(Affine::scaling(k, k), area);
    if (drawn.empty) return {};
    const Pyramid picture(asPicture(drawn));
    Tile out(region.w, region.h);
    remapTile({picture, k, k, {area.x / k, area.y / k}}, from, out, drawing.sampling);
    return out;
}

} // namespace

Tile warpedPictureTile(const WarpedPicture& picture, const IntRect& region) {
    const Coordinates from = coordinatesFor(picture.mapping, picture.shown, region);
    if (from.empty) return {};
    Tile out(region.w, region.h);
    remapTile({picture.pixels, double(picture.pixels.width()) / picture.width,
               double(picture.pixels.height()) / picture.height},
              from, out, picture.sampling);
    out.settle();
    return out;
}

Tile warpedTile(const WarpedDrawing& drawing, const IntRect& region) {
    Tile out = through(drawing, region);
    if (!out.empty) out.settle();
    return out;
}

Tile warpedMaskTile(const WarpedDrawing& drawing, const IntRect& region) {
    const Tile values = through(drawing, region);
    Tile out(region.w, region.h, 1);
    if (values.empty)
        std::fill(out.planes.begin(), out.planes.end(), uint16_t(0));
    else
        for (int y = 0; y < region.h; ++y) std::copy_n(values.row(0, y), region.w, out.row(0, y));
    out.settle();
    return out;
}

} // namespace glyptos
