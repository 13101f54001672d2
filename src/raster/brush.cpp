#include "raster/brush.h"

#include <algorithm>
#include <cmath>
#include <tbb/parallel_for.h>
#include <utility>

namespace glyptos {
namespace {

constexpr double kDabsADiameter = 25, kLeastSpacing = 0.5;
constexpr float kFull = 65535, kHalf = 0.5f;

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

/// A piece of the way of the tip's middle: from a point on, so far in a direction.
struct Way {
    Vec2 from;
    float x = 1, y = 0, length = 0; ///< the direction has the length 1
    Way(Vec2 a, Vec2 b)
        : from(a)
        , length(float((b - a).length())) {
        if (length > 0) x = float((b.x - a.x) / double(length)), y = float((b.y - a.y) / double(length));
    }
};

/// `row` begins dx across and dy down from where the way begins.
void coverRow(uint16_t* row, int n, float dx, float dy, const Way& way, const Fall& fall, float flow) {
    const float inverse = 1 / (fall.to - fall.from);
    for (int i = 0; i < n; ++i) {
        const float u = dx + float(i), along = std::min(std::max(u * way.x + dy * way.y, 0.0f), way.length);
        const float x = u - along * way.x, y = dy - along * way.y;
        const float t = std::min(std::max((fall.to - std::sqrt(x * x + y * y)) * inverse, 0.0f), 1.0f);
        const float cover = t * t * (3 - 2 * t) * kFull, now = float(row[i]);
        row[i] = static_cast<uint16_t>(static_cast<int>(now + std::max(cover - now, 0.0f) * flow + kHalf));
    }
}

/// What of a row can lie within `reach` of the way: round both ends, and all between them.
IntRect reached(const IntRect& box, int y, Vec2 from, Vec2 to, double reach) {
    const auto half = [&](double middle) {
        const double away = std::max(std::abs(y + 0.5 - middle) - 0.5, 0.0);
        return away < reach ? std::sqrt(reach * reach - away * away) : -1;
    };
    const double a = half(from.y), b = half(to.y);
    const bool between = (y + 0.5 - from.y) * (y + 0.5 - to.y) < 0;
    if (a < 0 && b < 0 && !between) return {};
    if (from.x != to.x || from.y != to.y) return {box.x, y, box.w, 1};
    return IntRect{wholePixel(std::floor(from.x - a)), y, wholePixel(std::ceil(2 * a)) + 2, 1}.intersected(
        box);
}

int placeOf(int pixel) {
    return int(std::floor(double(pixel) / kPixelTileSide));
}

} // namespace

double RoundTip::coverAt(double distance) const {
    return double(Fall(*this).at(float(distance)));
}

IntRect BrushStroke::cover(Vec2 from, Vec2 to) {
    const Fall fall(tip_);
    const Way way(from, to);
    const double reach = double(fall.to);
    const IntRect area = pixelsAround(
        Rect{std::min(from.x, to.x), std::min(from.y, to.y), std::abs(from.x - to.x), std::abs(from.y - to.y)}
            .grown(reach));
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
        const IntRect box = whole.intersected(area);
        for (int y = box.y; y < box.bottom(); ++y) {
            const IntRect part = reached(box, y, from, to, reach);
            if (part.empty()) continue;
            coverRow(pixels + ptrdiff_t(y - whole.y) * kPixelTileSide + (part.x - whole.x), part.w,
                     float(part.x + 0.5 - from.x), float(y + 0.5 - from.y), way, fall, float(tip_.flow));
        }
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
        return cover(at, at);
    }
    // With all its flow a stroke is the same as without end many dabs.
    if (tip_.flow >= 1) return cover(*std::exchange(last_, at), at);
    const double spacing = std::max(kLeastSpacing, tip_.diameter / kDabsADiameter);
    Rect changed;
    while ((at - *last_).length() >= spacing) {
        last_ = *last_ + (at - *last_) * (spacing / (at - *last_).length());
        changed = changed.united(cover(*last_, *last_).toRect());
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

namespace {

/// `coverRow(x, y, out)` says how far each pixel of a row is covered, 0…kFull.
template <class CoverRow>
void mix(PixelTiles& mask, const PixelTiles& before, const MaskPaint& paint, const IntRect& area,
         const CoverRow& coverRow) {
    mask.change(area, [&](const PixelPart& part) {
        const auto n = size_t(part.area.w);
        std::vector<uint16_t> cover(n);
        std::vector<uint8_t> there(n);
        for (int y = part.area.y; y < part.area.bottom(); ++y) {
            coverRow(part.area.x, y, cover);
            before.readRow(part.area.x, y, n, there.data());
            const float* kept =
                paint.keep ? paint.keep + size_t(y - area.y) * size_t(area.w) + size_t(part.area.x - area.x)
                           : nullptr;
            uint8_t* row = part.row(y);
            for (size_t i = 0; i < n; ++i) {
                const float share = float(cover[i]) / kFull * float(paint.opacity) * (kept ? kept[i] : 1);
                row[i] = static_cast<uint8_t>(float(there[i]) +
                                              (float(paint.value) - float(there[i])) * share + kHalf);
            }
        }
    });
}

} // namespace

void mixStroke(PixelTiles& mask, const PixelTiles& before, const BrushStroke& stroke, const MaskPaint& paint,
               const IntRect& area) {
    mix(mask, before, paint, area,
        [&](int x, int y, std::vector<uint16_t>& out) { stroke.readRow(x, y, out.size(), out.data()); });
}

void mixRun(PixelTiles& mask, const PixelTiles& before, Vec2 from, Vec2 to, const MaskPaint& paint,
            const IntRect& area) {
    const Vec2 way = to - from;
    const double squared = way.x * way.x + way.y * way.y;
    mix(mask, before, paint, area, [&](int x, int y, std::vector<uint16_t>& out) {
        const double begin = ((x + 0.5 - from.x) * way.x + (y + 0.5 - from.y) * way.y) / squared,
                     step = way.x / squared;
        for (size_t i = 0; i < out.size(); ++i)
            out[i] = static_cast<uint16_t>(
                std::lround(std::clamp(1 - (begin + step * double(i)), 0.0, 1.0) * double(kFull)));
    });
}

} // namespace glyptos
