#include "render/tiles/shape_tiles.h"

#include "raster/brush/dab_drawing.h"

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

/// The dabs that reach into a region, in its pixels.
Dabs dabsIn(const Dabs& dabs, const Affine& toOutput, const IntRect& region) {
    Dabs out;
    for (const Dab& dab : dabs)
        if (const Dab there = mapped(dab, toOutput);
            !pixelsAround(there.bounds()).intersected(region).empty())
            out.push_back(there);
    return out;
}

/// The colour of a paint that dabs of their own colours start from.
Ink firstColour(const Paint& paint) {
    if (const auto* ink = std::get_if<Ink>(&paint)) return *ink;
    const auto* run = std::get_if<Gradient>(&paint);
    return run && !run->stops.empty() ? run->stops.front().colour : Ink{1, 1, 1, 1};
}

/// The colour that dabs have by themselves, as a tile.
Tile colouredTile(const DabPlanes& planes, float opacity) {
    Tile tile(planes.area.w, planes.area.h);
    for (int y = 0; y < tile.height; ++y)
        for (int c = 0; c < 4; ++c) {
            const float* from = planes.row((c + 1) % 4, planes.area.y + y);
            uint16_t* to = tile.row(c, y);
            for (int x = 0; x < tile.width; ++x) to[x] = nearestSample(from[x] * opacity * 65535);
        }
    tile.settle();
    return tile;
}

void brushOver(Tile& tile, const ShapeContent& shape, const Affine& toOutput, const IntRect& region,
               const ShapeParts& parts) {
    const Dabs dabs = parts.dabs ? dabsIn(parts.dabs->dabs, toOutput, region) : Dabs{};
    if (dabs.empty()) return;
    const Paint& paint = shape.stroke->paint;
    const Brush brush = brushOf(*shape.stroke);
    const Ink ink = firstColour(paint);
    const TipLook look = mapped(tipLook(brush, {ink.r, ink.g, ink.b}, parts.stamps), toOutput);
    const size_t size = size_t(region.w) * size_t(region.h);
    Buffer<float> values(size * (look.coloured ? 4 : 1));
    std::fill(values.begin(), values.end(), 0.0f);
    const DabPlanes planes{region, values.data(), look.coloured};
    drawDabs(look, dabs, planes);
    Buffer<float> share(size);
    if (look.coloured) {
        std::fill(share.begin(), share.end(), 1.0f);
        return paintOver(tile, colouredTile(planes, float(brush.opacity) * ink.a), share);
    }
    for (size_t i = 0; i < size; ++i) share[i] = values[i] * float(brush.opacity);
    if (const Tile colour = paintTile(paint, toOutput, region, parts.stroke); !colour.empty)
        paintOver(tile, colour, share);
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
               const ShapeParts& parts) {
    Tile tile(region.w, region.h);
    std::fill(tile.planes.begin(), tile.planes.end(), uint16_t(0));
    if (shape.fill && shape.kind != ShapeKind::Line)
        if (const Tile paint = paintTile(*shape.fill, toOutput, region, parts.fill); !paint.empty)
            paintOver(tile, paint, shapeCoverage(shape, toOutput, region));
    if (shape.stroke && shape.stroke->brushed)
        brushOver(tile, shape, toOutput, region, parts);
    else if (shape.stroke)
        if (const Tile paint = paintTile(shape.stroke->paint, toOutput, region, parts.stroke); !paint.empty)
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
