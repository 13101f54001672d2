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
    const StrokeStyle& style = *shape.stroke;
    const bool centre = style.place == StrokePlace::Centre || isOpen(shape);
    const double scale = std::max({toOutput.scaleX(), toOutput.scaleY(), 1e-9});
    const Path outline = outlineOf(shape);
    const Path stroke =
        strokeOutline(flattened(outline, kTolerance / scale),
                      {centre ? style.width : 2 * style.width, style.join, style.startCap, style.endCap},
                      kTolerance / scale);
    Buffer<float> out = covered(stroke, toOutput, region);
    if (centre) return out;
    // Twice as wide, and cut along the outline itself.
    const Buffer<float> inside = covered(outline, toOutput, region);
    for (size_t i = 0; i < out.size(); ++i)
        out[i] *= style.place == StrokePlace::Inside ? inside[i] : 1 - inside[i];
    return out;
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

} // namespace glyptos
