#include "render/tiles/layer_tiles.h"

#include "raster/resample.h"

#include <cmath>

namespace glyptos {
namespace {

/// Multiplies every channel of the tile by the coverage.
void cutTo(const Buffer<float>& cover, Tile& tile) {
    for (int y = 0; y < tile.height; ++y)
        for (int c = 0; c < 4; ++c) {
            uint16_t* row = tile.row(c, y);
            const float* share = cover.data() + size_t(y) * size_t(tile.width);
            for (int x = 0; x < tile.width; ++x) row[x] = nearestSample(float(row[x]) * share[x]);
        }
}

} // namespace

Tile pictureTile(const PlacedPicture& picture, const IntRect& region) {
    const auto& [pixels, width, height, sourceToOutput, shown] = picture;
    const Rect onOutput = sourceToOutput.mapBounds(shown);
    constexpr double kNothing = 1.0 / 1024; // px: covers less than a 16-bit step of any pixel
    if (pixelsAround(onOutput).intersected(region).empty() || onOutput.w < kNothing || onOutput.h < kNothing)
        return {};
    Tile tile(region.w, region.h);
    const Affine pictureToSource =
        Affine::scaling(double(width) / pixels.width(), double(height) / pixels.height());
    resampleTile(pixels, sourceToOutput * pictureToSource, region.x, region.y, tile);
    if (!coversAll(sourceToOutput, shown, region)) {
        Path edge;
        edge.addRect(shown);
        cutTo(coverage(edge, Affine::translation(-region.x, -region.y) * sourceToOutput, region.w, region.h),
              tile);
    }
    tile.settle();
    return tile;
}

namespace {

/// Fills what is covered, over what the tile has, or over nothing where it is new.
void ink(const Buffer<float>& cover, const Rgba& colour, bool isNew, Tile& tile) {
    const float channel[4] = {colour.r * colour.a, colour.g * colour.a, colour.b * colour.a, colour.a};
    for (int c = 0; c < 4; ++c) {
        const float full = channel[c] * 65535;
        for (int y = 0; y < tile.height; ++y) {
            uint16_t* row = tile.row(c, y);
            const float* share = cover.data() + size_t(y) * size_t(tile.width);
            for (int x = 0; x < tile.width; ++x) {
                const float below = isNew ? 0 : float(row[x]) * (1 - colour.a * share[x]);
                row[x] = nearestSample(full * share[x] + below);
            }
        }
    }
}

} // namespace

Tile textTile(const std::vector<InkedOutline>& inked, const Affine& toOutput, const IntRect& region) {
    const Affine toTile = Affine::translation(-region.x, -region.y) * toOutput;
    Tile tile;
    for (const auto& [outline, colour] : inked) {
        if (pixelsAround(toOutput.mapBounds(outline->bounds())).intersected(region).empty()) continue;
        const Buffer<float> cover = coverage(*outline, toTile, region.w, region.h);
        const bool isNew = tile.width == 0;
        if (isNew) tile = Tile(region.w, region.h);
        ink(cover, colour, isNew, tile);
    }
    if (tile.width > 0) tile.settle();
    return tile;
}

Tile edgeTile(const Path& edge, const IntRect& region) {
    const Buffer<float> cover = coverage(edge, Affine::translation(-region.x, -region.y), region.w, region.h);
    Tile tile(region.w, region.h, 1);
    for (int y = 0; y < region.h; ++y)
        for (int x = 0; x < region.w; ++x)
            tile.row(0, y)[x] = nearestSample(cover[size_t(y) * size_t(region.w) + size_t(x)] * 65535);
    tile.settle();
    return tile;
}

bool coversAll(const Affine& toOutput, const Rect& shown, const IntRect& region) {
    const auto back = toOutput.inverse();
    if (!back) return false;
    for (const Vec2 corner :
         {Vec2{double(region.x), double(region.y)}, Vec2{double(region.right()), double(region.y)},
          Vec2{double(region.x), double(region.bottom())},
          Vec2{double(region.right()), double(region.bottom())}}) {
        const Vec2 p = back->map(corner);
        if (p.x < shown.x || p.y < shown.y || p.x > shown.right() || p.y > shown.bottom()) return false;
    }
    return true;
}

} // namespace glyptos
