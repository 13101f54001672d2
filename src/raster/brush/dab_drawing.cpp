#include "raster/brush/dab_drawing.h"

#include "raster/brush/dab_rows.h"
#include "raster/resample.h"

namespace glyptos {
namespace {

constexpr double kThinnest = 0.5; // px, of a radius that is drawn as it is

/// A dab thinner than a pixel as one that is a pixel wide and fainter.
Dab drawable(const Dab& dab, bool closed) {
    const double least = std::min(dab.place.scaleX(), dab.place.scaleY());
    if (least >= kThinnest || least <= 0) return dab;
    Dab out = dab;
    const double across = std::min(dab.place.scaleX() / kThinnest, 1.0),
                 down = std::min(dab.place.scaleY() / kThinnest, 1.0);
    out.place = dab.place * Affine::scaling(1 / across, 1 / down);
    // A row of them covers as much less as it is thinner; one by itself by its area.
    out.cover *= float(closed ? std::min(across, down) : across * down);
    return out;
}

TipArea areaOf(const TipLook& look, const Dab& dab, const Affine& toTip) {
    TipArea out;
    const Affine& p = dab.place;
    out.hardness = look.hardness;
    out.flat = look.tip == TipKind::Flat;
    const double radius = p.scaleX();
    const bool isCircle = std::abs(radius - p.scaleY()) < 1e-6 * radius &&
                          std::abs(p.a * p.c + p.b * p.d) < 1e-6 * radius * radius;
    out.round = isCircle && !out.flat;
    out.radius = float(radius);
    const Vec2 way = toTip.mapVector(dab.from - dab.at());
    if (dab.isDrawn()) out.wayU = float(way.x), out.wayV = float(way.y);
    out.ux = float(toTip.a), out.uy = float(toTip.c), out.vx = float(toTip.b), out.vy = float(toTip.d);
    return out;
}

/// What of a row a circle can reach; all of the box for others.
std::pair<int, int> reached(const Dab& dab, const TipArea& tip, const IntRect& box, int y) {
    if (!tip.round || dab.isDrawn()) return {box.x, box.right()};
    const double away = y + 0.5 - dab.at().y, reach = double(tip.radius) + 1,
                 half = reach * reach - away * away;
    if (half <= 0) return {0, 0};
    const double wide = std::sqrt(half);
    return {std::max(box.x, wholePixel(std::floor(dab.at().x - wide))),
            std::min(box.right(), wholePixel(std::ceil(dab.at().x + wide)) + 1)};
}

/// Premultiplied colour over a row, by alphas.
void addColour(const DabPlanes& planes, int x, int y, const float* alpha, const std::array<float, 3>& colour,
               size_t n) {
    const auto at = size_t(x - planes.area.x);
    for (int c = 0; c < 3; ++c) {
        float* to = planes.row(c + 1, y) + at;
        for (size_t i = 0; i < n; ++i) to[i] += (colour[size_t(c)] - to[i]) * alpha[i];
    }
    float* cover = planes.row(0, y) + at;
    for (size_t i = 0; i < n; ++i) cover[i] += (1 - cover[i]) * alpha[i];
}

/// Of a square that goes on mirrored.
float folded(float v) {
    const float t = std::abs(v + 1), whole = std::floor(t / 4) * 4;
    return std::abs(2 - (t - whole)) - 1;
}

/// The cover of n pixels of a row through the texture: of each, the mean of its quarters.
void textureRow(const TipLook& look, const Affine& toTip, int x, int y, float* cover, size_t n) {
    // A grain lies still; other textures go with the tip.
    const Affine map = look.grain.value_or(toTip);
    const TipTexture& texture = *look.texture;
    const double radius = 1 / std::sqrt(std::abs(map.determinant()));
    const size_t level = texture.levelFor(2 * radius);
    const bool isCoarse = texture.isLargerThan(radius);
    const auto value = [&](Vec2 at) {
        const auto u = float(at.x), v = float(at.y);
        return look.grain ? texture.at(folded(u), folded(v), level) : texture.at(u, v, level);
    };
    const Vec2 right = map.mapVector({0.25, 0}), down = map.mapVector({0, 0.25});
    for (size_t i = 0; i < n; ++i) {
        if (cover[i] <= 0) continue;
        const Vec2 at = map.map({x + double(i) + 0.5, y + 0.5});
        cover[i] *= isCoarse ? value(at)
                             : (value(at - right - down) + value(at + right - down) +
                                value(at - right + down) + value(at + right + down)) /
                                   4;
    }
}

void drawTip(const TipLook& look, const Dab& dab, const IntRect& box, const DabPlanes& planes,
             std::vector<float>& tip) {
    const auto toTip = dab.place.inverse();
    if (!toTip) return;
    const TipArea area = areaOf(look, dab, *toTip);
    const std::array<float, 3> colour = planes.coloured ? shaded(look.colour, dab) : std::array<float, 3>{};
    tip.resize(roundUpLanes(size_t(box.w)));
    for (int y = box.y; y < box.bottom(); ++y) {
        const auto [from, to] = reached(dab, area, box, y);
        if (to <= from) continue;
        const auto n = size_t(to - from);
        const Vec2 first = toTip->map({from + 0.5, y + 0.5});
        const TipRow row{float(first.x), float(first.y), float(toTip->a), float(toTip->b)};
        coverRow(area, row, tip.data(), n);
        if (look.texture) textureRow(look, *toTip, from, y, tip.data(), n);
        if (planes.coloured) {
            for (size_t i = 0; i < n; ++i) tip[i] *= dab.cover * look.flow;
            addColour(planes, from, y, tip.data(), colour, n);
            continue;
        }
        if (dab.cover != 1)
            for (size_t i = 0; i < n; ++i) tip[i] *= dab.cover;
        float* cover = planes.row(0, y) + (from - planes.area.x);
        if (look.layered)
            for (size_t i = 0; i < n; ++i) cover[i] += (1 - cover[i]) * tip[i] * look.flow;
        else
            addCover(cover, tip.data(), look.flow, n);
    }
}

/// From px of a stamp's picture to the tip's frame.
Affine stampFrame(const Pyramid& picture) {
    const double longer = std::max(picture.width(), picture.height());
    return Affine::scaling(2 / longer, 2 / longer) *
           Affine::translation(-picture.width() / 2.0, -picture.height() / 2.0);
}

/// How much of a pixel lies between two edges, given how far it lies from their middle.
float within(double away, double half, double px) {
    return float(std::clamp((half - std::abs(away)) / std::max(px, 1e-12) + 0.5, 0.0, 1.0));
}

void drawStamp(const TipLook& look, const Dab& dab, const IntRect& box, const DabPlanes& planes,
               std::vector<float>& alpha) {
    if (look.stamps.empty()) return;
    const StampLook& stamp = look.stamps[dab.stamp % look.stamps.size()];
    if (!stamp.picture) return;
    const Pyramid& picture = *stamp.picture;
    const Affine toPx = dab.place * stampFrame(picture);
    const auto back = toPx.inverse();
    const IntRect part = box.intersected(
        pixelsAround(toPx.mapBounds({0, 0, double(picture.width()), double(picture.height())}).grown(1)));
    if (!back || part.empty()) return;
    Tile tile(part.w, part.h);
    resampleTile(picture, toPx, part.x, part.y, tile);
    const double halfW = picture.width() / 2.0, halfH = picture.height() / 2.0,
                 pxW = std::hypot(back->a, back->c), pxH = std::hypot(back->b, back->d);
    const std::array<float, 3> tint = shaded(look.colour, dab);
    const float strength = dab.cover * (planes.coloured ? look.flow : 1) / 65535;
    alpha.resize(size_t(part.w));
    for (int y = part.y; y < part.bottom(); ++y) {
        const uint16_t* covers = tile.row(3, y - part.y);
        for (int i = 0; i < part.w; ++i) {
            const Vec2 at = back->map({part.x + i + 0.5, y + 0.5});
            alpha[size_t(i)] = float(covers[i]) * strength * within(at.x - halfW, halfW, pxW) *
                               within(at.y - halfH, halfH, pxH);
        }
        const auto n = size_t(part.w), at = size_t(part.x - planes.area.x);
        if (!planes.coloured) {
            addCover(planes.row(0, y) + at, alpha.data(), look.flow, n);
            continue;
        }
        if (stamp.tinted) {
            addColour(planes, part.x, y, alpha.data(), tint, n);
            continue;
        }
        for (size_t i = 0; i < n; ++i) {
            if (alpha[i] <= 0) continue;
            const float k = 1.0f / float(covers[i]);
            const std::array<float, 3> own =
                shaded({float(tile.row(0, y - part.y)[i]) * k, float(tile.row(1, y - part.y)[i]) * k,
                        float(tile.row(2, y - part.y)[i]) * k},
                       dab);
            addColour(planes, part.x + int(i), y, &alpha[i], own, 1);
        }
    }
}

} // namespace

double roundCover(double radius, double hardness, double distance) {
    const double width = std::min((1 - hardness) * radius + 1, radius + 0.5);
    const double t = std::clamp((radius + 0.5 - distance) / width, 0.0, 1.0);
    return t * t * (3 - 2 * t);
}

void drawDabs(const TipLook& look, std::span<const Dab> dabs, const DabPlanes& planes) {
    std::vector<float> scratch;
    for (const Dab& one : dabs) {
        const Dab dab = drawable(one, look.closed);
        const IntRect box = pixelsAround(dab.bounds()).intersected(planes.area);
        if (box.empty()) continue;
        look.tip == TipKind::Stamp ? drawStamp(look, dab, box, planes, scratch)
                                   : drawTip(look, dab, box, planes, scratch);
    }
}

} // namespace glyptos
