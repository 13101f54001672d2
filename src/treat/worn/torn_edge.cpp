// The outline torn off: as far inside it as noise says, with the white core of the paper along the tear. By
// the distance from the outline (outlines/edge_distance.h).

#include "treat/drawn/tone.h"
#include "treat/outlines/edge_distance.h"

namespace glyptos {
namespace {

enum { Depth, Grain, Rim, RimColour, Seed };
constexpr Figure kFigures[]{
    length("depth", "Torn in by", 2.5, 0.01),
    length("grain", "Fibre", 5, 0.01),
    length("rim", "White core", 0.6),
    colour("rimColour", "Core", {0.95f, 0.93f, 0.88f, 1}),
    chance(),
};

double depthOf(const Figures& f, const Place& place) {
    return place.px(f.number(Depth) + 1.5 * f.number(Rim)) + 2;
}

std::vector<Need> needs(const Figures& f, const Place& place) {
    return {grownBy(distanceLevel(depthOf(f, place)).need(), 1), {0, 0}};
}

/// How far inside the tear each pixel lies, and inside the white core's own edge, px.
struct Tear {
    Plane sheet, print;
};

Tear tearOver(const AroundJob& job, const IntRect& area) {
    const Figures& f = job.figures;
    const Plane away = distances(job.inputs[0], distanceLevel(depthOf(f, job.place)), area);
    const double grain = f.number(Grain);
    const Affine map =
        Affine::scaling(1 / grain, 1 / grain) * job.place.toOutput.inverse().value_or(Affine{});
    const auto depth = float(job.place.px(f.number(Depth))), rim = float(job.place.px(f.number(Rim)));
    const uint32_t seed = f.seed(Seed) * 37u;
    Tear out{Plane(area), Plane(area)};
    for (int y = area.y; y < area.bottom(); ++y)
        for (int i = 0; i < area.w; ++i) {
            const float inside = -away.row(y)[i];
            float torn = 0, own = 0;
            if (inside > -2 && inside < 1.5f * (depth + rim) + 2) { // elsewhere it is one or nothing
                const Vec2 at = map.map({area.x + i + 0.5, y + 0.5});
                const auto u = float(at.x), v = float(at.y);
                torn = depth * fractalNoise(u, v, 4, seed);
                own = rim * (0.3f + 1.2f * fractalNoise(u * 0.7f + 31, v * 0.7f, 3, seed + 9));
            }
            out.sheet.row(y)[i] = inside - torn, out.print.row(y)[i] = inside - torn - own;
        }
    return out;
}

/// How much of a pixel lies where the plane is above 0.
float covered(const Plane& plane, int x, int y) {
    return rows::clamp01(plane.at(x, y) / std::max(steepnessAt(plane, x, y), 0.3f) + 0.5f);
}

void draw(const AroundJob& job, Planes& out) {
    const Figures& f = job.figures;
    const IntRect& area = out.area;
    const Tear tear = tearOver(job, {area.x - 1, area.y - 1, area.w + 2, area.h + 2});
    out = copyOf(job.inputs[1]);
    const Rgba& core = f.colour(RimColour);
    const float colour[3]{core.r, core.g, core.b};
    for (int y = area.y; y < area.bottom(); ++y)
        for (int i = 0; i < area.w; ++i) {
            const float alpha = out.row(3, y)[i];
            if (alpha <= 0) continue;
            const float keep = covered(tear.sheet, area.x + i, y);
            const float white = f.number(Rim) > 0 ? (1 - covered(tear.print, area.x + i, y)) * core.a : 0;
            for (int c = 0; c < 3; ++c) {
                float& value = out.row(c, y)[i];
                value = (value + (colour[c] * alpha - value) * white) * keep;
            }
            out.row(3, y)[i] = alpha * keep;
        }
}

} // namespace

extern const TreatmentKind kTornEdge{
    "torn-edge", "Torn edge", TreatmentFamily::Worn, kFigures, true, true, nullptr, needs, draw, "depth"};

} // namespace glyptos
