#include "form/clipping.h"

#include "raster/stroke.h"

#include <cmath>

namespace glyptos {

ClipperLib::Paths toSteps(const Path& path) {
    ClipperLib::Paths out;
    for (const Polyline& contour : flattened(path, 0.001)) {
        ClipperLib::Path steps;
        for (const Vec2& p : contour.points)
            steps.push_back({ClipperLib::cInt(std::llround(p.x * kClippingSteps)),
                             ClipperLib::cInt(std::llround(p.y * kClippingSteps))});
        out.push_back(std::move(steps));
    }
    return out;
}

Path fromSteps(const ClipperLib::Paths& paths) {
    Path out;
    for (const ClipperLib::Path& contour : paths)
        for (size_t i = 0; i < contour.size(); ++i) {
            const Vec2 p{double(contour[i].X) / kClippingSteps, double(contour[i].Y) / kClippingSteps};
            i == 0 ? out.moveTo(p) : out.lineTo(p);
        }
    return out;
}

} // namespace glyptos
