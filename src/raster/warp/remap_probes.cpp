#include "raster/warp/remap_probes.h"

#include "raster/resample.h"

#include <cmath>

namespace glyptos {
namespace {

/// The footprint's longer and shorter axis: singular values of its Jacobian, and the way of the longer.
struct Axes {
    double longer, shorter;
    Vec2 twice; ///< the way of the longer, its angle doubled
};

Axes axesOf(Vec2 a, Vec2 b) {
    const double aa = a.x * a.x + b.x * b.x, bb = a.y * a.y + b.y * b.y, ab = a.x * a.y + b.x * b.y;
    const double mean = (aa + bb) / 2, half = (aa - bb) / 2, apart = std::sqrt(half * half + ab * ab);
    return {std::sqrt(mean + apart), std::sqrt(std::max(mean - apart, 0.0)), {aa - bb, 2 * ab}};
}

} // namespace

Probes probesFor(const FramedPicture& framed, const Coordinates::Footprint& print, Sampling sampling) {
    constexpr double kMostProbes = 16, kAsGoodAsOne = 1.02;
    constexpr double kApart = 1.5; // shorter axes from one to the next: the cubic is that wide
    const auto pixels = [&](Vec2 v) { return Vec2{v.x * framed.scaleX, v.y * framed.scaleY}; };
    const Vec2 across = pixels(print.across), down = pixels(print.down);
    Probes out;
    out.origin = framed.origin;
    // Not made smaller any way: neither axis can be longer than this.
    const double whole = across.x * across.x + across.y * across.y + down.x * down.x + down.y * down.y;
    const bool isFine = whole <= 1;
    const Axes axes = isFine ? Axes{1, 1, {}} : axesOf(across, down);
    const double longer = std::max(axes.longer, 1.0),
                 shorter = std::max({axes.shorter, 1.0, longer / kMostProbes});
    const bool isDraft = sampling == Sampling::Draft;
    const int level = levelFor(isDraft ? std::numbers::sqrt2 / 2 / longer : 1 / shorter, framed.pixels);
    const double size = std::ldexp(1.0, -level);
    out.picture = &framed.pixels.level(level);
    // A level's own sides are rounded up: what counts is how many pixels of it one of level 0 is.
    out.k = framed.scaleX * size, out.l = framed.scaleY * size;
    if (isDraft) return out;
    const double widen = shorter * size;
    out.widen = widen > kAsGoodAsOne ? float(std::min(widen, 2.5)) : 1.0F;
    out.count = std::max(1, int(std::ceil(longer / shorter / kApart - 0.2)));
    if (out.count > 1) {
        const double turn = 0.5 * std::atan2(axes.twice.y, axes.twice.x);
        out.way = Vec2{std::cos(turn), std::sin(turn)} * ((longer - shorter) * size / (out.count - 1));
    }
    return out;
}

} // namespace glyptos
