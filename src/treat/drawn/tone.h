// Internal to drawn: how light what shows is, and forms that are put into a picture.
#pragma once

#include "raster/noise.h"
#include "treat/filters.h"
#include "treat/vector_math.h"

namespace glyptos {

/// Luma of the straight, encoded colours (ITU-R BT.709), 0…1; 1, as of paper, where nothing shows.
Plane lightOf(const Planes& planes);

/// The same of a picture smoothed over `area`, from what the Gaussian asked for.
Plane smoothLight(const Planes& input, const WideGaussian& how, const IntRect& area);

/// Of a plane in px, its values per px along both axes; at its edge those of the pixel beside.
GLYPTOS_IN_ROWS float steepnessAt(const Plane& plane, int x, int y) {
    const float dx = 0.5f * (plane.at(x + 1, y) - plane.at(x - 1, y)),
                dy = 0.5f * (plane.at(x, y + 1) - plane.at(x, y - 1));
    return __builtin_sqrtf(dx * dx + dy * dy);
}

/// How ink and paper take the place of a colour.
struct Inked {
    float ink[3], paper[3], inkAlpha;
    bool seeThrough; ///< no paper
};
/// A pixel of `alpha` covered by ink as far as `cover` says.
void setInked(const Inked& how, float cover, float alpha, Planes& out, int x, int y);
Inked inkedBy(const Rgba& ink, const Rgba& paper, bool seeThrough);

/// A point at a chance place in each cell of a grid on the piece, `step` units wide.
struct GridPoint {
    float x, y;     ///< output px
    int32_t ix, iy; ///< of the grid
};
/// Calls act(point) for all within `reach` px of `area`, always in the same order.
template <class Act>
void eachGridPoint(const Affine& toOutput, double step, uint32_t seed, const IntRect& area, double reach,
                   Act act) {
    const auto back = toOutput.inverse();
    if (!back || !(step > 0)) return;
    const Rect wide = area.toRect().grown(reach);
    const Rect there = back->mapBounds(wide).grown(step);
    const auto first = [&](double v) { return wholePixel(std::floor(v / step)); };
    for (int32_t iy = first(there.y); iy <= first(there.bottom()); ++iy)
        for (int32_t ix = first(there.x); ix <= first(there.right()); ++ix) {
            const Vec2 at = toOutput.map({(ix + double(hashNoise(ix, iy, seed))) * step,
                                          (iy + double(hashNoise(ix, iy, seed + 1))) * step});
            if (at.x >= wide.x && at.y >= wide.y && at.x <= wide.right() && at.y <= wide.bottom())
                act(GridPoint{float(at.x), float(at.y), ix, iy});
        }
}

} // namespace glyptos
