#include "render/layer_tiles.h"

#include "raster/path.h"
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
            for (int x = 0; x < tile.width; ++x)
                row[x] = static_cast<uint16_t>(float(row[x]) * share[x] + 0.5f);
        }
}

uint16_t to16(double v) {
    return static_cast<uint16_t>(std::lround(std::clamp(v, 0.0, 1.0) * 65535));
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

} // namespace

Tile pictureTile(const Pyramid& picture, int sourceWidth, int sourceHeight, const Affine& sourceToOutput,
                 const Rect& shown, const IntRect& region) {
    const Rect onOutput = sourceToOutput.mapBounds(shown);
    constexpr double kNothing = 1.0 / 1024; // px: covers less than a 16-bit step of any pixel
    if (pixelsAround(onOutput).intersected(region).empty() || onOutput.w < kNothing || onOutput.h < kNothing)
        return {};
    Tile tile(region.w, region.h);
    const Affine pictureToSource =
        Affine::scaling(double(sourceWidth) / picture.width(), double(sourceHeight) / picture.height());
    resampleTile(picture, sourceToOutput * pictureToSource, region.x, region.y, tile);
    if (!coversAll(sourceToOutput, shown, region)) {
        Path edge;
        edge.addRect(shown);
        cutTo(coverage(edge, Affine::translation(-region.x, -region.y) * sourceToOutput, region.w, region.h),
              tile);
    }
    tile.settle();
    return tile;
}

Tile textTile(const Path& outline, const Affine& toOutput, const Rgba& colour, const IntRect& region) {
    if (pixelsAround(toOutput.mapBounds(outline.bounds())).intersected(region).empty()) return {};
    Tile tile(region.w, region.h);
    const Buffer<float> cover =
        coverage(outline, Affine::translation(-region.x, -region.y) * toOutput, region.w, region.h);
    const float channel[4] = {colour.r * colour.a, colour.g * colour.a, colour.b * colour.a, colour.a};
    for (int c = 0; c < 4; ++c) {
        const float full = channel[c] * 65535;
        for (int y = 0; y < region.h; ++y) {
            uint16_t* row = tile.row(c, y);
            const float* share = cover.data() + size_t(y) * size_t(region.w);
            for (int x = 0; x < region.w; ++x) row[x] = static_cast<uint16_t>(full * share[x] + 0.5f);
        }
    }
    tile.settle();
    return tile;
}

Tile gradientTile(const FillContent& fill, const Rect& area, const Affine& toOutput, const IntRect& region) {
    Tile tile(region.w, region.h);
    const auto toPanel = toOutput.inverse();
    if (!toPanel || !fill.to) return {};
    // The run's direction, and its length so that the far corners of the area get the end colours.
    const Vec2 along = Affine::rotation(fill.turn).mapVector({0, 1});
    const double length = std::abs(along.x) * area.w + std::abs(along.y) * area.h;
    const Rgba &p = fill.colour, &q = *fill.to;
    for (int y = 0; y < region.h; ++y)
        for (int x = 0; x < region.w; ++x) {
            const Vec2 at = toPanel->map({region.x + x + 0.5, region.y + y + 0.5}) - area.centre();
            const double t = std::clamp((at.x * along.x + at.y * along.y) / length + 0.5, 0.0, 1.0),
                         s = 1 - t;
            // Premultiplied, so that a run into transparency does not darken on its way.
            tile.row(0, y)[x] = to16(s * p.r * p.a + t * q.r * q.a);
            tile.row(1, y)[x] = to16(s * p.g * p.a + t * q.g * q.a);
            tile.row(2, y)[x] = to16(s * p.b * p.a + t * q.b * q.a);
            tile.row(3, y)[x] = to16(s * p.a + t * q.a);
        }
    tile.settle();
    return tile;
}

} // namespace glyptos
