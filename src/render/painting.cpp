#include "render/painting.h"

#include "release/placing.h"
#include "render/tiles/mask_tiles.h"
#include "render/tiles/painted_tiles.h"

#include <algorithm>
#include <cmath>

namespace glyptos {
namespace {

using Values = Buffer<float>;

uint8_t byteOf(float share) {
    constexpr float kHalf = 0.5f;
    return static_cast<uint8_t>(std::clamp(share, 0.0f, 1.0f) * 255 + kHalf);
}

/// Pixels of `area` made tile by tile.
PixelTiles madeIn(const IntRect& area, const std::function<Values(const IntRect&)>& make) {
    PixelTiles out(kMaskPixels);
    out.change(area, [&](const PixelPart& part) {
        const Values values = make(part.area);
        for (int y = 0; y < part.area.h; ++y) {
            uint8_t* row = part.row(part.area.y + y);
            for (int x = 0; x < part.area.w; ++x)
                row[x] = byteOf(values[size_t(y) * size_t(part.area.w) + size_t(x)]);
        }
    });
    return out;
}

std::optional<Selection> unlessEmpty(PixelTiles tiles, double pixel) {
    if (tiles.empty()) return std::nullopt;
    return Selection{std::make_shared<const PixelTiles>(std::move(tiles)), pixel};
}

IntRect pixelsOf(const Rect& area, double pixel) {
    return pixelsAround({area.x / pixel, area.y / pixel, area.w / pixel, area.h / pixel});
}

/// What a mask lets through in pixels of the panel.
Values maskValues(const Mask& mask, double pixel, const IntRect& region, const PatternPicture& picture) {
    const Tile tile = maskTile(mask, Affine::scaling(1 / pixel, 1 / pixel), region, picture);
    Values out(size_t(region.w) * size_t(region.h));
    for (int y = 0; y < region.h; ++y)
        for (int x = 0; x < region.w; ++x)
            out[size_t(y) * size_t(region.w) + size_t(x)] = float(tile.row(0, y)[x]) / 65535;
    return out;
}

PatternPicture pictureOf(const Mask& mask, double pixel, const Release& release, PictureProvider& pictures) {
    const auto* shown = std::get_if<PictureContent>(&mask.form);
    const SourcePtr source = shown ? release.source(shown->source) : nullptr;
    if (!source) return {};
    const Affine map = placementMap(mask.placement);
    return {pictures.picture(*source, std::max(map.scaleX(), map.scaleY()) / pixel), source->width,
            source->height};
}

int met(int before, int with, Combine how) {
    switch (how) {
    case Combine::Add:
        return std::max(before, with);
    case Combine::TakeAway:
        return std::min(before, 255 - with);
    case Combine::Intersect:
        return std::min(before, with);
    default:
        return with;
    }
}

/// A selection in pixels of another size.
Selection inPixels(const Selection& selection, double pixel) {
    if (selection.pixel == pixel) return selection;
    const double k = selection.pixel / pixel;
    const Rect bounds = selection.tiles->bounds().toRect();
    const IntRect area = pixelsAround(Rect{bounds.x * k, bounds.y * k, bounds.w * k, bounds.h * k}.grown(1));
    return {std::make_shared<const PixelTiles>(madeIn(area,
                                                      [&](const IntRect& part) {
                                                          return paintedValues(*selection.tiles,
                                                                               Affine::scaling(k, k), part);
                                                      })),
            pixel};
}

} // namespace

double paintPixel(const Flat& flat) {
    return flat.unit == Unit::Px ? 1 : 25.4 / flat.ppi;
}

std::optional<Selection> combined(const std::optional<Selection>& before,
                                  const std::optional<Selection>& with, Combine how) {
    if (how == Combine::Replace || (!before && how == Combine::Add)) return with;
    if (!before) return std::nullopt;
    if (!with) return how == Combine::Intersect ? std::nullopt : before;
    const Selection other = inPixels(*with, before->pixel);
    const IntRect area =
        pixelsAround(before->tiles->bounds().toRect().united(other.tiles->bounds().toRect()));
    PixelTiles out = *before->tiles;
    out.change(area, [&](const PixelPart& part) {
        std::vector<uint8_t> row(size_t(part.area.w));
        for (int y = part.area.y; y < part.area.bottom(); ++y) {
            other.tiles->readRow(part.area.x, y, row.size(), row.data());
            uint8_t* there = part.row(y);
            for (size_t x = 0; x < row.size(); ++x)
                there[x] = static_cast<uint8_t>(met(there[x], row[x], how));
        }
    });
    return unlessEmpty(std::move(out), before->pixel);
}

std::optional<Selection> selectionOf(const Path& onPanel, double pixel, const Rect& panelArea) {
    const IntRect area = pixelsOf(onPanel.bounds().intersected(panelArea), pixel);
    if (area.empty()) return std::nullopt;
    return unlessEmpty(madeIn(area,
                              [&](const IntRect& part) {
                                  return coverage(onPanel,
                                                  Affine::translation(-part.x, -part.y) *
                                                      Affine::scaling(1 / pixel, 1 / pixel),
                                                  part.w, part.h);
                              }),
                       pixel);
}

std::optional<Selection> selectionOf(const AlphaMap& map, const Affine& toPanel, double pixel,
                                     const Rect& panelArea) {
    const Rect whole{0, 0, double(map.width), double(map.height)};
    const IntRect area = pixelsOf(toPanel.mapBounds(whole).intersected(panelArea), pixel);
    if (area.empty()) return std::nullopt;
    const PixelTilesPtr tiles = tilesOf(map, 0, 0);
    const Affine toPixels = Affine::scaling(1 / pixel, 1 / pixel) * toPanel;
    return unlessEmpty(
        madeIn(area, [&](const IntRect& part) { return paintedValues(*tiles, toPixels, part); }), pixel);
}

std::optional<Selection> selectionOf(const Mask& mask, double pixel, const Rect& panelArea,
                                     const Release& release, PictureProvider& pictures) {
    const PatternPicture picture = pictureOf(mask, pixel, release, pictures);
    return unlessEmpty(madeIn(pixelsOf(panelArea, pixel),
                              [&](const IntRect& part) { return maskValues(mask, pixel, part, picture); }),
                       pixel);
}

std::optional<Selection> inverted(const std::optional<Selection>& selection, double pixel,
                                  const Rect& panelArea) {
    const double side = selection ? selection->pixel : pixel;
    PixelTiles out(kMaskPixels);
    out.change(pixelsOf(panelArea, side), [&](const PixelPart& part) {
        const auto n = size_t(part.area.w);
        for (int y = part.area.y; y < part.area.bottom(); ++y) {
            uint8_t* row = part.row(y);
            if (selection) selection->tiles->readRow(part.area.x, y, n, row);
            for (size_t x = 0; x < n; ++x) row[x] = static_cast<uint8_t>(255 - row[x]);
        }
    });
    return unlessEmpty(std::move(out), side);
}

AlphaMap paintedBytes(const PixelTiles& tiles, const Affine& toOutput, const IntRect& region) {
    const Values values = paintedValues(tiles, toOutput, region);
    AlphaMap out(region.w, region.h);
    std::transform(values.data(), values.data() + out.values.size(), out.values.begin(), byteOf);
    return out;
}

Buffer<float> paintedShares(const PixelTiles& tiles, const Affine& toOutput, const IntRect& region) {
    return paintedValues(tiles, toOutput, region);
}

Buffer<float> selectedShares(const std::optional<Selection>& selection, const Affine& panelToOutput,
                             const IntRect& region) {
    if (!selection) return {};
    return paintedShares(*selection->tiles,
                         panelToOutput * Affine::scaling(selection->pixel, selection->pixel), region);
}

AlphaMap valuesOf(const PixelTiles& tiles, const IntRect& area) {
    AlphaMap out(area.w, area.h);
    for (int y = 0; y < area.h; ++y)
        tiles.readRow(area.x, area.y + y, size_t(area.w), out.values.data() + size_t(y) * size_t(area.w));
    return out;
}

PixelTilesPtr tilesOf(const AlphaMap& map, int x, int y) {
    auto out = std::make_shared<PixelTiles>(kMaskPixels);
    out->change({x, y, map.width, map.height}, [&](const PixelPart& part) {
        for (int v = part.area.y; v < part.area.bottom(); ++v)
            std::copy_n(map.values.data() + size_t(v - y) * size_t(map.width) + size_t(part.area.x - x),
                        part.area.w, part.row(v));
    });
    return out;
}

std::optional<Selection> reshaped(const Selection& selection, double reach,
                                  const std::function<AlphaMap(const AlphaMap&)>& change) {
    const IntRect bounds = selection.tiles->bounds();
    const int by = static_cast<int>(std::ceil(std::max(reach, 0.0))) + 2;
    const IntRect area{bounds.x - by, bounds.y - by, bounds.w + 2 * by, bounds.h + 2 * by};
    return unlessEmpty(*tilesOf(change(valuesOf(*selection.tiles, area)), area.x, area.y), selection.pixel);
}

std::optional<Selection> transformed(const Selection& selection, const Affine& onPanel,
                                     const Rect& panelArea) {
    const double pixel = selection.pixel;
    const Affine map = Affine::scaling(1 / pixel, 1 / pixel) * onPanel * Affine::scaling(pixel, pixel);
    const IntRect area = pixelsAround(map.mapBounds(selection.tiles->bounds().toRect()).grown(1))
                             .intersected(pixelsOf(panelArea, pixel));
    if (area.empty() || !map.inverse()) return std::nullopt;
    return unlessEmpty(
        madeIn(area, [&](const IntRect& part) { return paintedValues(*selection.tiles, map, part); }), pixel);
}

bool keepsHidden(const Mask& mask) {
    return std::get<PaintedMask>(mask.form).shows != mask.inverted;
}

uint8_t keptValue(const Mask& mask, double shows) {
    return static_cast<uint8_t>(std::lround(255 * (keepsHidden(mask) ? 1 - shows : shows)));
}

Mask maskOf(const Selection& selection) {
    Mask out;
    out.form = PaintedMask{selection.tiles, false};
    out.placement.scaleX = out.placement.scaleY = selection.pixel;
    return out;
}

Mask maskOf(const AlphaMap& values, const Placement& placement) {
    Mask out;
    out.form = PaintedMask{tilesOf(values, 0, 0), false};
    out.placement = placement;
    return out;
}

Mask paintable(const std::shared_ptr<const Mask>& mask, double pixel, const Rect& panelArea,
               const Release& release, PictureProvider& pictures) {
    if (mask && std::holds_alternative<PaintedMask>(mask->form)) return *mask;
    Mask out;
    out.placement.scaleX = out.placement.scaleY = pixel;
    PixelTiles tiles(kMaskPixels);
    if (mask) {
        const PatternPicture picture = pictureOf(*mask, pixel, release, pictures);
        // Kept as what is hidden, so that beyond the panel all shows.
        tiles = madeIn(pixelsOf(panelArea, pixel), [&](const IntRect& part) {
            Values values = maskValues(*mask, pixel, part, picture);
            for (float& v : values) v = 1 - v;
            return values;
        });
        out.on = mask->on, out.linked = mask->linked;
    }
    out.form = PaintedMask{std::make_shared<const PixelTiles>(std::move(tiles)), true};
    return out;
}

} // namespace glyptos
