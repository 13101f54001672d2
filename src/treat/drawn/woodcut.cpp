// Lines cut along the form, thick where it is dark. The lines are the levels of a height: of the way across
// them, and of the smoothed lightness, which bends them round what is light and what is dark. As thick as the
// tone asks for, which is smoothed along with them; where the lines crowd closer than two pixels, the tone
// itself.

#include "treat/drawn/tone.h"

namespace glyptos {
namespace {

enum { Distance, Angle, Bend, Form, Wobble, InkColour, PaperColour, SeeThrough, Seed };
constexpr Figure kFigures[]{
    length("distance", "From line to line", 1.1, 0.01),
    degrees("angle", "Angle", 15),
    share("bend", "Follows the form", 0.4, 0, 2),
    length("form", "Forms from", 4),
    share("wobble", "Unsteady hand", 0.3),
    colour("ink", "Ink", {0.07f, 0.07f, 0.09f, 1}),
    colour("paper", "Paper", {0.95f, 0.92f, 0.85f, 1}),
    flag("seeThrough", "No paper", false),
    chance(),
};

WideGaussian toneOf(const Figures& f, const Place& place) {
    return wideGaussian(std::max(0.35 * place.px(f.number(Distance)), 0.06));
}
WideGaussian formOf(const Figures& f, const Place& place) {
    return wideGaussian(std::max(place.px(f.number(Form)), 0.06));
}
std::vector<Need> needs(const Figures& f, const Place& place) {
    return {toneOf(f, place).need(), grownBy(formOf(f, place).need(), 1), {0, 0}};
}

/// Which line each pixel lies on or between.
Plane linesOver(const AroundJob& job, const IntRect& area) {
    constexpr double kLinesOfForm = 14, kLinesOfWobble = 1.2, kWobbleStep = 9;
    const Figures& f = job.figures;
    const Plane form = smoothLight(job.inputs[1], formOf(f, job.place), area);
    const double step = f.number(Distance);
    const Affine map = Affine::scaling(1 / step, 1 / step) * Affine::rotation(-f.number(Angle)) *
                       job.place.toOutput.inverse().value_or(Affine{});
    const auto bend = float(kLinesOfForm * f.number(Bend)), wobble = float(kLinesOfWobble * f.number(Wobble));
    Plane out(area);
    for (int y = area.y; y < area.bottom(); ++y)
        for (int i = 0; i < area.w; ++i) {
            const Vec2 at = map.map({area.x + i + 0.5, y + 0.5});
            const float hand = valueNoise(float(at.x / kWobbleStep), float(at.y / kWobbleStep), f.seed(Seed));
            out.row(y)[i] = float(at.y) + bend * form.row(y)[i] + wobble * hand;
        }
    return out;
}

void draw(const AroundJob& job, Planes& out) {
    const Figures& f = job.figures;
    const IntRect& area = out.area;
    const Plane tone = smoothLight(job.inputs[0], toneOf(f, job.place), area);
    const Plane lines = linesOver(job, {area.x - 1, area.y - 1, area.w + 2, area.h + 2});
    const Inked how = inkedBy(f.colour(InkColour), f.colour(PaperColour), f.flag(SeeThrough));
    for (int y = area.y; y < area.bottom(); ++y)
        for (int x = area.x; x < area.right(); ++x) {
            const float dark = rows::clamp01(1.12f * (1 - tone.at(x, y)) - 0.06f);
            const float perPx = std::max(steepnessAt(lines, x, y), 1e-6f), apart = 1 / perPx;
            const float at = lines.at(x, y), within = std::abs(2 * (at - std::floor(at)) - 1);
            const float line = rows::clamp01((dark - (1 - within)) * apart / 2 + 0.5f);
            const float fine = rows::clamp01(apart / 2 - 1);
            const float cut = dark <= 0 || dark >= 1 ? dark : dark + (line - dark) * fine;
            setInked(how, cut, job.inputs[2].c[3].at(x, y), out, x, y);
        }
}

} // namespace

extern const TreatmentKind kWoodcut{
    "woodcut", "Woodcut", TreatmentFamily::Drawn, kFigures, false, true, nullptr, needs, draw, "distance"};

} // namespace glyptos
