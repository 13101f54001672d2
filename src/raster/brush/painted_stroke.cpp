#include "raster/brush/painted_stroke.h"

#include "raster/brush/paint_mix.h"

namespace glyptos {

PaintedStroke::PaintedStroke(const Brush& brush, TipLook look, const IntRect& within, double steadyLength,
                             std::vector<Affine> copies)
    : walk_(brush, steadyLength)
    , layer_(std::move(look))
    , within_(within)
    , copies_(std::move(copies)) {}

/// Every appearance of dabs, as far as it reaches inside.
Dabs PaintedStroke::appearances(std::span<const Dab> dabs) const {
    Dabs out;
    for (const Dab& dab : dabs)
        for (const Affine& copy : copies_)
            if (Dab there = mapped(dab, copy); !pixelsAround(there.bounds()).intersected(within_).empty())
                out.push_back(there);
    return out;
}

IntRect PaintedStroke::draw() {
    const size_t first = walk_.takeFirstChanged();
    const std::span<const Dab> all(walk_.dabs());
    const Dabs fresh = appearances(all.subspan(first));
    if (first >= drawn_.size()) {
        drawn_.insert(drawn_.end(), all.begin() + ptrdiff_t(first), all.end());
        return layer_.draw(fresh, within_);
    }
    Rect changed; // where they were, and where they are now
    for (const Dab& dab : appearances(std::span(drawn_).subspan(first)))
        changed = changed.united(dab.bounds());
    for (const Dab& dab : fresh) changed = changed.united(dab.bounds());
    drawn_.assign(all.begin(), all.end());
    return layer_.redraw(pixelsAround(changed), appearances(all), within_);
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
