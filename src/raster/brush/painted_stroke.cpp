#include "raster/brush/painted_stroke.h"

#include "raster/brush/paint_mix.h"

namespace glyptos {

PaintedStroke::PaintedStroke(const Brush& brush, TipLook look, const IntRect& within, double steadyLength,
                             std::vector<Affine> copies)
    : walk_(brush, steadyLength)
    , layer_(std::move(look))
    , within_(within)
    , copies_(std::move(copies)) {}

IntRect PaintedStroke::draw() {
    const size_t first = walk_.takeFirstChanged();
    const Dabs& dabs = walk_.dabs();
    const size_t was = drawn_.size() / copies_.size();
    Rect before; // of what was drawn otherwise
    for (size_t i = first * copies_.size(); i < drawn_.size(); ++i)
        before = before.united(drawn_[i].bounds());
    drawn_.resize(first * copies_.size());
    for (size_t i = first; i < dabs.size(); ++i)
        for (const Affine& copy : copies_) drawn_.push_back(mapped(dabs[i], copy));
    const std::span<const Dab> fresh = std::span(drawn_).subspan(first * copies_.size());
    if (first >= was) return layer_.draw(fresh, within_);
    for (const Dab& dab : fresh) before = before.united(dab.bounds());
    return layer_.redraw(pixelsAround(before), drawn_, within_);
}

IntRect PaintedStroke::moveTo(const PenSample& sample) {
    walk_.moveTo(sample);
    return draw();
}

IntRect PaintedStroke::dwell(double seconds) {
    walk_.dwell(seconds);
    return draw();
}

IntRect PaintedStroke::finish() {
    walk_.finish();
    return draw();
}

PixelTiles strokeCover(const std::vector<Vec2>& points, const Brush& brush, const Affine& toPixels,
                       const Rect& area) {
    const IntRect within = pixelsAround(toPixels.mapBounds(area));
    PaintedStroke stroke(brush, tipLook(brush, {}), within);
    Rect covered;
    for (const Vec2& p : points) covered = covered.united(stroke.lineTo(toPixels.map(p)).toRect());
    PixelTiles out(PixelFormat{1, 1});
    mixDabs(out, out, stroke.cover(), MaskPaint{255}, pixelsAround(covered));
    return out;
}

} // namespace glyptos
