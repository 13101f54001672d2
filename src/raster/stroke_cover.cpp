#include "raster/stroke_cover.h"

namespace glyptos {

PixelTiles strokeCover(const std::vector<Vec2>& points, const RoundTip& tip, const Affine& toPixels,
                       const Rect& area) {
    BrushStroke stroke(tip);
    Rect covered;
    for (const Vec2& p : points) covered = covered.united(stroke.moveTo(toPixels.map(p)).toRect());
    PixelTiles out(PixelFormat{1, 1});
    mixStroke(out, out, stroke, {255}, pixelsAround(covered.intersected(toPixels.mapBounds(area))));
    return out;
}

} // namespace glyptos
