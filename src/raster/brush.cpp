#include "raster/brush.h"

#include <algorithm>
#include <cmath>
#include <tbb/parallel_for.h>

namespace glyptos {
namespace {

constexpr double kDabsADiameter = 25, kLeastSpacing = 0.5;
constexpr float kFull = 65535;

/// Where the fall from whole cover to none begins and ends, px from the middle.
struct Fall {
    float from, to;
    explicit Fall(const RoundTip& tip)
        : from(std::max(0.0f, float(tip.hardness * tip.diameter / 2) - 0.5f))
        , to(float(tip.diameter / 2) + 0.5f) {}
    float at(float distance) const {
        const float t = std::clamp((to - distance) / (to - from), 0.0f, 1.0f);
        return t * t * (3 - 2 * t);
    }
};

/// `row` begins dx from the dab's middle, dy above or below it.
void coverRow(uint16_t* row, int n, float dx, float dy, const Fall& fall, float flow) {
    const float across = dy * dy, inverse = 1 / (fall.to - fall.from);
    for (int i = 0; i < n; ++i) {
        const float x = dx + float(i), distance = std::sqrt(x * x + across);
        const float t = std::min(std::max((fall.to - distance) * inverse, 0.0f), 1.0f);
        const float cover = t * t * (3 - 2 * t) * kFull, now = float(row[i]);
        row[i] = static_cast<uint16_t>(now + std::max(cover - now, 0.0f) * flow + 0.5f);
    }
}

int placeOf(int pixel) {
    return int(std::floor(double(pixel) / kPixelTileSide));
}

} // namespace

double RoundTip::coverAt(double distance) const {
    return double(Fall(*this).at(float(distance)));
}

IntRect BrushStroke::dab(Vec2 at) {
    const Fall fall(tip_);
    const double reach = double(fall.to);
    const IntRect area = pixelsAround({at.x - reach, at.y - reach, 2 * reach, 2 * reach});
    std::vector<std::pair<IntRect, uint16_t*>> parts;
    for (int row = placeOf(area.y); row <= placeOf(area.bottom() - 1); ++row)
        for (int column = placeOf(area.x); column <= placeOf(area.right() - 1); ++column) {
            Buffer<uint16_t>& tile = tiles_[{column, row}];
            if (tile.size() == 0) {
                tile = Buffer<uint16_t>(size_t(kPixelTileSide) * kPixelTileSide);
                std::fill(tile.begin(), tile.end(), uint16_t(0));
            }
            parts.emplace_back(TilePlace{column, row}.area(), tile.data());
        }
    const auto cover = [&](size_t i) {
        const auto& [whole, pixels] = parts[i];
        const IntRect part = whole.intersected(area);
        for (int y = part.y; y < part.bottom(); ++y)
            coverRow(pixels + ptrdiff_t(y - whole.y) * kPixelTileSide + (part.x - whole.x), part.w,
                     float(part.x + 0.5 - at.x), float(y + 0.5 - at.y), fall, float(tip_.flow));
    };
    if (parts.size() > 4)
        tbb::parallel_for(size_t(0), parts.size(), cover);
    else
        for (size_t i = 0; i < parts.size(); ++i) cover(i);
    return area;
}

IntRect BrushStroke::moveTo(Vec2 at) {
    if (!last_) {
        last_ = at;
        return dab(at);
    }
    const double spacing = std::max(kLeastSpacing, tip_.diameter / kDabsADiameter);
    Rect changed;
    while ((at - *last_).length() >= spacing) {
        last_ = *last_ + (at - *last_) * (spacing / (at - *last_).length());
        changed = changed.united(dab(*last_).toRect());
    }
    return pixelsAround(changed);
}

void BrushStroke::readRow(int x, int y, size_t n, uint16_t* out) const {
    for (const int end = x + int(n); x < end;) {
        const TilePlace place{placeOf(x), placeOf(y)};
        const IntRect area = place.area();
        const auto part = size_t(std::min(end, area.right()) - x);
        const auto found = tiles_.find(place);
        if (found == tiles_.end())
            std::fill_n(out, part, uint16_t(0));
        else
            std::copy_n(found->second.data() + ptrdiff_t(y - area.y) * kPixelTileSide + (x - area.x), part,
                        out);
        out += part, x += int(part);
    }
}

void mixStroke(PixelTiles& mask, const PixelTiles& before, const BrushStroke& stroke, uint8_t value,
               double opacity, const IntRect& area, const float* keep) {
    mask.change(area, [&](const PixelPart& part) {
        const auto n = size_t(part.area.w);
        std::vector<uint16_t> cover(n);
        std::vector<uint8_t> there(n);
        for (int y = part.area.y; y < part.area.bottom(); ++y) {
            stroke.readRow(part.area.x, y, n, cover.data());
            before.readRow(part.area.x, y, n, there.data());
            const float* kept =
                keep ? keep + size_t(y - area.y) * size_t(area.w) + size_t(part.area.x - area.x) : nullptr;
            uint8_t* row = part.row(y);
            for (size_t i = 0; i < n; ++i) {
                const float share = float(cover[i]) / kFull * float(opacity) * (kept ? kept[i] : 1);
                row[i] =
                    static_cast<uint8_t>(float(there[i]) + (float(value) - float(there[i])) * share + 0.5f);
            }
        }
    });
}

} // namespace glyptos
