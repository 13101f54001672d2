#include "render/tiles/shape_tiles.h"

#include <cmath>

namespace glyptos {
namespace {

constexpr double kTolerance = 0.02; // px, of curves that are stroked

Buffer<float> covered(const Path& path, const Affine& toOutput, const IntRect& region) {
    return coverage(path, Affine::translation(-region.x, -region.y) * toOutput, region.w, region.h);
}

bool isOpen(const ShapeContent& shape) {
    return shape.kind == ShapeKind::Line ||
           (shape.kind == ShapeKind::Free && std::any_of(shape.contours.begin(), shape.contours.end(),
                                                         [](const Contour& c) { return !c.closed; }));
}

/// `cover`: what an outline in the shape's frame covers; `scale`: px for a unit of it.
template <class Cover>
Buffer<float> strokeCoverage(const ShapeContent& shape, double scale, const Cover& cover) {
    const StrokeStyle& style = *shape.stroke;
    const bool centre = style.place == StrokePlace::Centre || isOpen(shape);
    const Path outline = outlineOf(shape);
    const Path stroke =
        strokeOutline(flattened(outline, kTolerance / scale),
                      {centre ? style.width : 2 * style.width, style.join, style.startCap, style.endCap},
                      kTolerance / scale);
    Buffer<float> out = cover(stroke);
    if (centre) return out;
    // Twice as wide, and cut along the outline itself.
    const Buffer<float> inside = cover(outline);
    for (size_t i = 0; i < out.size(); ++i)
        out[i] *= style.place == StrokePlace::Inside ? inside[i] : 1 - inside[i];
    return out;
}

/// `paint` where `share` says, over what the tile holds.
void paintOver(Tile& tile, const Tile& paint, const Buffer<float>& share) {
    for (int y = 0; y < tile.height; ++y) {
        const float* row = share.data() + size_t(y) * size_t(tile.width);
        const uint16_t* alpha = paint.row(3, y);
        for (int x = 0; x < tile.width; ++x) {
            if (row[x] <= 0) continue;
            const float keep = 1 - row[x] * float(alpha[x]) / 65535;
            for (int c = 0; c < 4; ++c) {
                uint16_t& to = tile.row(c, y)[x];
                to = nearestSample(float(paint.row(c, y)[x]) * row[x] + float(to) * keep);
            }
        }
    }
}

} // namespace

Buffer<float> shapeCoverage(const ShapeContent& shape, const Affine& toOutput, const IntRect& region) {
    return covered(outlineOf(shape), toOutput, region);
}

Buffer<float> strokeCoverage(const ShapeContent& shape, const Affine& toOutput, const IntRect& region) {
    return strokeCoverage(shape, std::max({toOutput.scaleX(), toOutput.scaleY(), 1e-9}),
                          [&](const Path& path) { return covered(path, toOutput, region); });
}

Tile shapeTile(const ShapeContent& shape, const Affine& toOutput, const IntRect& region,
               const PatternPicture& fillPattern, const PatternPicture& strokePattern) {
    Tile tile(region.w, region.h);
    std::fill(tile.planes.begin(), tile.planes.end(), uint16_t(0));
    if (shape.fill && shape.kind != ShapeKind::Line)
        if (const Tile paint = paintTile(*shape.fill, toOutput, region, fillPattern); !paint.empty)
            paintOver(tile, paint, shapeCoverage(shape, toOutput, region));
    if (shape.stroke)
        if (const Tile paint = paintTile(shape.stroke->paint, toOutput, region, strokePattern); !paint.empty)
            paintOver(tile, paint, strokeCoverage(shape, toOutput, region));
    tile.settle();
    return tile;
}

Tile warpedShapeTile(const ShapeContent& shape, const Mapping& toOutput, double scale,
                     const IntRect& region) {
    Tile tile(region.w, region.h);
    std::fill(tile.planes.begin(), tile.planes.end(), uint16_t(0));
    const auto cover = [&](const Path& path) {
        return covered(mapped(path, toOutput, 2 * kTolerance), {}, region);
    };
    const auto paintIn = [&](const Paint& paint, const Buffer<float>& share) {
        if (const Tile colour = paintTile(paint, {}, region); !colour.empty) paintOver(tile, colour, share);
    };
    if (shape.fill && shape.kind != ShapeKind::Line) paintIn(*shape.fill, cover(outlineOf(shape)));
    if (shape.stroke) paintIn(shape.stroke->paint, strokeCoverage(shape, std::max(scale, 1e-9), cover));
    tile.settle();
    return tile;
}

} // namespace glyptos
