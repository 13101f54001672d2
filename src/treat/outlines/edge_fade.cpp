// What shows, fading away towards its own outline: alpha times a smooth rise over the distance from it.

#include "treat/outlines/edge_distance.h"
#include "treat/vector_math.h"

namespace glyptos {
namespace {

enum { Width };
constexpr Figure kFigures[]{length("width", "Width", 6)};

std::vector<Need> needs(const Figures& f, const Place& place) {
    const double width = place.px(f.number(Width));
    if (width < 0.3) return {};
    return {distanceLevel(width).need(), {0, 0}};
}

void draw(const AroundJob& job, Planes& out) {
    const double width = job.place.px(job.figures.number(Width));
    const Plane away = distances(job.inputs[0], distanceLevel(width), out.area);
    out = copyOf(job.inputs[1]);
    for (int y = out.area.y; y < out.area.bottom(); ++y)
        for (int x = 0; x < out.area.w; ++x) {
            const float t = rows::clamp01(-away.row(y)[x] / float(width)), share = t * t * (3 - 2 * t);
            for (int c = 0; c < 4; ++c) out.row(c, y)[x] *= share;
        }
}

} // namespace

extern const TreatmentKind kEdgeFade{
    "edge-fade", "Edge fade", TreatmentFamily::Light, kFigures, true, false, nullptr, needs, draw};

} // namespace glyptos
