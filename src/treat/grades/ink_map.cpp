// Two or three inks by how light the picture is, mixed in Oklab, so that they meet without a grey between.

#include "color/oklab.h"
#include "treat/grades/run_by_light.h"

namespace glyptos {
namespace {

enum { Dark, Middle, Light, Three, Place_, Hardness };
constexpr Figure kFigures[]{
    colour("dark", "Dark ink", {0.07f, 0.13f, 0.2f, 1}),
    colour("middle", "Middle ink", {0.78f, 0.27f, 0.17f, 1}),
    colour("light", "Light ink", {0.95f, 0.91f, 0.82f, 1}),
    flag("three", "Three inks", false),
    share("place", "Middle stands at", 0.5, 0.02, 0.98),
    share("hardness", "Hardness", 0),
};

Rgba mixed(const Rgba& a, const Rgba& b, double t) {
    const Oklab p = toOklab(a), q = toOklab(b);
    const auto k = float(t);
    Rgba out = shownAs(toOklch(Oklab{p.L + (q.L - p.L) * k, p.a + (q.a - p.a) * k, p.b + (q.b - p.b) * k}));
    out.a = a.a + (b.a - a.a) * k;
    return out;
}

ColourOp inkMap(const Figures& f, const Place&) {
    const Rgba &dark = f.colour(Dark), &middle = f.colour(Middle), &light = f.colour(Light);
    const double place = f.number(Place_), hardness = f.number(Hardness);
    // Towards a step in the middle of each way from ink to ink.
    const auto hard = [&](double t) {
        const double half = (1 - hardness) / 2;
        return half < 1e-3 ? (t < 0.5 ? 0.0 : 1.0) : std::clamp((t - 0.5) / (2 * half) + 0.5, 0.0, 1.0);
    };
    RunTable table;
    for (int i = 0; i <= RunTable::kSteps; ++i) {
        const double t = double(i) / RunTable::kSteps;
        if (!f.flag(Three))
            table.set(i, mixed(dark, light, hard(t)));
        else if (t < place)
            table.set(i, mixed(dark, middle, hard(t / place)));
        else
            table.set(i, mixed(middle, light, hard((t - place) / (1 - place))));
    }
    return coloursByLight(std::move(table));
}

} // namespace

extern const TreatmentKind kInkMap{
    "ink-map", "Ink map", TreatmentFamily::Grade, kFigures, false, false, inkMap, nullptr,
    nullptr,   "hardness"};

} // namespace glyptos
