// Shadows of what shows: cast on what lies below, of something lifted off it, and inside its edge.

#include "treat/outlines/laying.h"
#include "treat/outlines/shifted.h"

namespace glyptos {
namespace {

/// More of it than there is: from nothing at 0 to all at 1 - spread.
void spreadOut(Plane& plane, double spread) {
    const auto factor = float(1 / std::max(1 - spread, 1e-3));
    for (int y = plane.area.y; y < plane.area.bottom(); ++y)
        for (int x = 0; x < plane.area.w; ++x) plane.row(y)[x] = std::min(plane.row(y)[x] * factor, 1.0f);
}

enum { Colour, Opacity, Direction, Distance, Softness, Spread, Alone };
constexpr Figure kCastFigures[]{
    colour("colour", "Colour", {0.05f, 0.06f, 0.08f, 1}),
    share("strength", "Strength", 0.6),
    degrees("direction", "Falls towards", 60),
    length("distance", "Distance", 2),
    length("softness", "Softness", 2),
    share("spread", "Spread", 0),
    flag("alone", "The shadow alone", false),
};

Shifted castShift(const Figures& f, const Place& place) {
    return shifted(place, f.number(Direction), f.number(Distance), f.number(Softness));
}

std::vector<Need> castNeeds(const Figures& f, const Place& place) {
    if (f.number(Opacity) == 0) return {};
    return {castShift(f, place).need(), {0, 0}};
}

void drawCast(const AroundJob& job, Planes& out) {
    const Figures& f = job.figures;
    Plane shadow = castShift(f, job.place).of(job.inputs[0].c[3], out.area);
    spreadOut(shadow, f.number(Spread));
    if (f.flag(Alone))
        out.clear();
    else
        out = copyOf(job.inputs[1]);
    layUnder({shadow, f.colour(Colour), float(f.number(Opacity))}, out);
}

// A lifted thing has a shadow close by that is dark and sharp, and one farther off that is pale and soft:
// five between them, each as much farther, softer and paler.
enum { LiftColour, LiftOpacity, LiftDirection, Height };
constexpr Figure kLiftedFigures[]{
    colour("colour", "Colour", {0.05f, 0.06f, 0.08f, 1}),
    share("strength", "Strength", 0.5),
    degrees("direction", "Falls towards", 75),
    length("height", "Height above", 5),
};
constexpr int kLifts = 5;

Shifted liftShift(const Figures& f, const Place& place, int i) {
    const double k = double(i + 1) / kLifts, far = f.number(Height) * k * k;
    return shifted(place, f.number(LiftDirection), 0.6 * far, 1.2 * far);
}

std::vector<Need> liftedNeeds(const Figures& f, const Place& place) {
    if (f.number(LiftOpacity) == 0) return {};
    std::vector<Need> out{{0, 0}};
    for (int i = 0; i < kLifts; ++i) out.push_back(liftShift(f, place, i).need());
    return out;
}

void drawLifted(const AroundJob& job, Planes& out) {
    const Figures& f = job.figures;
    out = copyOf(job.inputs[0]);
    // Together as dark as was asked for: 1 - (1 - s)^n = opacity.
    const double one = 1 - std::pow(1 - f.number(LiftOpacity), 1.0 / kLifts);
    for (int i = 0; i < kLifts; ++i) {
        const Plane shadow = liftShift(f, job.place, i).of(job.inputs[size_t(i) + 1].c[3], out.area);
        layUnder({shadow, f.colour(LiftColour), float(one)}, out);
    }
}

constexpr Figure kInnerFigures[]{
    colour("colour", "Colour", {0.05f, 0.06f, 0.08f, 1}),
    share("strength", "Strength", 0.6),
    degrees("direction", "Falls towards", 60),
    length("distance", "Distance", 1),
    length("softness", "Softness", 1.5),
    share("spread", "Spread", 0),
};

void drawInner(const AroundJob& job, Planes& out) {
    const Figures& f = job.figures;
    Plane shadow = castShift(f, job.place).of(job.inputs[0].c[3], out.area);
    for (int y = out.area.y; y < out.area.bottom(); ++y)
        for (int x = 0; x < out.area.w; ++x) shadow.row(y)[x] = 1 - shadow.row(y)[x];
    spreadOut(shadow, f.number(Spread));
    out = copyOf(job.inputs[1]);
    layInside({shadow, f.colour(Colour), float(f.number(Opacity))}, out);
}

} // namespace

extern const TreatmentKind kCastShadow{
    "cast-shadow", "Cast shadow", TreatmentFamily::Outline, kCastFigures, true, false, nullptr, castNeeds,
    drawCast,      "distance"};
extern const TreatmentKind kLiftedShadow{"lifted-shadow",
                                         "Lifted shadow",
                                         TreatmentFamily::Outline,
                                         kLiftedFigures,
                                         true,
                                         false,
                                         nullptr,
                                         liftedNeeds,
                                         drawLifted,
                                         "height"};
extern const TreatmentKind kInnerShadow{
    "inner-shadow", "Inner shadow", TreatmentFamily::Outline, kInnerFigures, true, false, nullptr, castNeeds,
    drawInner,      "distance"};

} // namespace glyptos
