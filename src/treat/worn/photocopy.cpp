// A copy of a copy: black or white by how much darker a place is than what lies around it and by how dark it
// is at all, with toner that speckles and drums that leave streaks. Large dark areas wash out in their
// middle, as a drum that cannot hold that much toner leaves them.

#include "treat/drawn/tone.h"

namespace glyptos {
namespace {

enum { Darkness, Contrast, Edges, Radius, Speckle, SpeckleSize, Streaks, InkColour, PaperColour, Seed };
constexpr Figure kFigures[]{
    share("darkness", "Darkness", 0.5),
    share("contrast", "Contrast", 0.75),
    share("edges", "Edges", 0.6),
    length("radius", "Edges within", 3, 0.01),
    share("speckle", "Speckle", 0.35),
    length("speckleSize", "Size of specks", 0.3, 1e-3),
    share("streaks", "Streaks", 0.3),
    colour("ink", "Toner", {0.07f, 0.07f, 0.08f, 1}),
    colour("paper", "Paper", {0.94f, 0.93f, 0.9f, 1}),
    chance(),
};

WideGaussian roundOf(const Figures& f, const Place& place) {
    return wideGaussian(std::max(place.px(f.number(Radius)), 0.06));
}

std::vector<Need> needs(const Figures& f, const Place& place) {
    return {roundOf(f, place).need(), {0, 0}};
}

void draw(const AroundJob& job, Planes& out) {
    const Figures& f = job.figures;
    const IntRect& area = out.area;
    const Plane here = lightOf(job.inputs[1]),
                around = smoothLight(job.inputs[0], roundOf(f, job.place), area);
    const double size = f.number(SpeckleSize), px = job.place.px(size);
    const Affine map = Affine::scaling(1 / size, 1 / size) * job.place.toOutput.inverse().value_or(Affine{});
    const auto edges = float(2 * f.number(Edges)), level = float(1.1 - f.number(Darkness)),
               gain = float(std::exp2(5 * f.number(Contrast)));
    const auto speckle = float(f.number(Speckle) * std::min(px, 1.0)), streaks = float(f.number(Streaks));
    const Inked how = inkedBy(f.colour(InkColour), f.colour(PaperColour), false);
    for (int y = area.y; y < area.bottom(); ++y)
        for (int i = 0; i < area.w; ++i) {
            const Vec2 at = map.map({area.x + i + 0.5, y + 0.5});
            const auto u = float(at.x), v = float(at.y);
            const float light = here.row(y)[i] + edges * (here.row(y)[i] - around.row(y)[i]);
            const float specks = valueNoise(u, v, f.seed(Seed)) - 0.5f;
            const float drum = fractalNoise(u / 14, v / 900, 3, f.seed(Seed) + 5) - 0.5f;
            const float dark = rows::clamp01(
                0.5f + gain * (level - light + 0.5f * speckle * specks + 0.35f * streaks * drum));
            setInked(how, dark, job.inputs[1].row(3, y)[i], out, area.x + i, y);
        }
}

} // namespace

extern const TreatmentKind kPhotocopy{
    "photocopy", "Photocopy", TreatmentFamily::Worn, kFigures, false, true, nullptr, needs, draw, "contrast"};

} // namespace glyptos
