#include "raster/brush/dab_layer.h"

#include <tbb/parallel_for.h>

namespace glyptos {
namespace {

constexpr size_t kTilePixels = size_t(kPixelTileSide) * kPixelTileSide;

IntRect touched(std::span<const Dab> dabs, const IntRect& within) {
    Rect all;
    for (const Dab& dab : dabs) {
        const IntRect box = pixelsAround(dab.bounds()).intersected(within);
        if (!box.empty()) all = all.united(box.toRect());
    }
    return pixelsAround(all);
}

} // namespace

DabPlanes DabLayer::planesAt(TilePlace place) {
    Buffer<float>& tile = tiles_[place];
    if (tile.size() == 0) {
        tile = Buffer<float>(kTilePixels * (look_.coloured ? 4 : 1));
        std::fill(tile.begin(), tile.end(), 0.0f);
    }
    return {place.area(), tile.data(), look_.coloured};
}

IntRect DabLayer::draw(std::span<const Dab> dabs, const IntRect& within) {
    const IntRect area = touched(dabs, within);
    std::vector<DabPlanes> planes;
    for (const TilePlace& place : placesIn(area)) {
        const bool isTouched = std::any_of(dabs.begin(), dabs.end(), [&](const Dab& dab) {
            return !pixelsAround(dab.bounds()).intersected(place.area()).empty();
        });
        if (isTouched) planes.push_back(planesAt(place));
    }
    tbb::parallel_for(size_t(0), planes.size(), [&](size_t i) { drawDabs(look_, dabs, planes[i]); });
    return area;
}

IntRect DabLayer::redraw(const IntRect& area, std::span<const Dab> all, const IntRect& within) {
    const IntRect part = area.intersected(within);
    Rect changed;
    std::vector<DabPlanes> planes;
    for (const TilePlace& place : placesIn(part))
        if (tiles_.contains(place)) {
            planes.push_back(planesAt(place));
            changed = changed.united(place.area().toRect());
        }
    tbb::parallel_for(size_t(0), planes.size(), [&](size_t i) {
        std::fill_n(planes[i].values, planes[i].planeSize() * (look_.coloured ? 4 : 1), 0.0f);
        drawDabs(look_, all, planes[i]);
    });
    return pixelsAround(changed).intersected(within);
}

bool DabLayer::readRow(int x, int y, size_t n, float* const (&out)[4]) const {
    bool isCovered = false;
    const int planes = look_.coloured ? 4 : 1;
    size_t at = 0;
    for (const int end = x + int(n); x < end;) {
        const TilePlace place = placeAt(x, y);
        const IntRect area = place.area();
        const auto part = size_t(std::min(end, area.right()) - x);
        const auto found = tiles_.find(place);
        for (int p = 0; p < planes; ++p) {
            float* to = out[p] + at;
            if (found == tiles_.end())
                std::fill_n(to, part, 0.0f);
            else
                std::copy_n(found->second.data() + size_t(p) * kTilePixels +
                                size_t(y - area.y) * kPixelTileSide + size_t(x - area.x),
                            part, to);
        }
        isCovered = isCovered || found != tiles_.end();
        at += part, x += int(part);
    }
    return isCovered;
}

} // namespace glyptos
