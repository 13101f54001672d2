// A line along the outline, and a glow that falls off with the distance from it, both by exact distances.

#include "treat/outlines/edge_distance.h"
#include "treat/outlines/laying.h"
#include "treat/vector_math.h"

namespace glyptos {
namespace {

constexpr const char* kPlaces[]{"outside", "centre", "inside"};
enum class Where { Outside, Centre, Inside };

enum { Colour, Opacity, Width, Gap, Place_, Softness };
constexpr Figure kFigures[]{
    colour("colour", "Colour", {0.95f, 0.91f, 0.82f, 1}),
    share("strength", "Strength", 1),
    length("width", "Width", 0.8, 1e-4),
    length("gap", "Gap", 0),
    choice("place", "Lies", kPlaces),
    length("softness", "Softness", 0),
};

/// From where to where it lies, px outwards from the edge.
struct Stripe {
    double from, to, soft;
    bool isInside;
    double reach() const { return std::max(std::abs(from), std::abs(to)) + soft + 1; }
};

Stripe stripeOf(const Figures& f, const Place& place) {
    const double width = place.px(f.number(Width)), gap = place.px(f.number(Gap)),
                 soft = place.px(f.number(Softness));
    switch (f.choice<Where>(Place_)) {
    case Where::Outside:
        return {gap, gap + width, soft, false};
    case Where::Inside:
        return {-gap - width, -gap, soft, true};
    default:
        return {-width / 2, width / 2, soft, false};
    }
}

std::vector<Need> needs(const Figures& f, const Place& place) {
    if (f.number(Opacity) == 0) return {};
    return {distanceLevel(stripeOf(f, place).reach()).need(), {0, 0}};
}

void draw(const AroundJob& job, Planes& out) {
    const Figures& f = job.figures;
    const Stripe stripe = stripeOf(f, job.place);
    Plane line = distances(job.inputs[0], distanceLevel(stripe.reach()), out.area);
    const auto half = float(std::max(0.5, stripe.soft / 2));
    const auto rise = [&](float at, double edge) {
        const float t = rows::clamp01((at - float(edge)) / (2 * half) + 0.5f);
        return half > 0.6f ? t * t * (3 - 2 * t) : t;
    };
    out = copyOf(job.inputs[1]);
    const bool touches = stripe.from == 0 || stripe.to == 0;
    for (int y = out.area.y; y < out.area.bottom(); ++y)
        for (int x = 0; x < out.area.w; ++x) {
            const float d = line.row(y)[x];
            // Where it begins at the outline itself, that is what the layer's own alpha says.
            const float inner = rise(d, touches && !stripe.isInside ? -1.5 : stripe.from);
            const float outer = touches && stripe.isInside ? 1.0f : 1 - rise(d, stripe.to);
            line.row(y)[x] = inner * outer;
        }
    const Tint tint{line, f.colour(Colour), float(f.number(Opacity))};
    if (stripe.isInside)
        layInside(tint, out);
    else if (touches)
        layUnder(tint, out);
    else
        layOver(tint, out);
}

enum { GlowColour, GlowOpacity, Size, Hardness, GlowPlace };
constexpr Figure kGlowFigures[]{
    colour("colour", "Colour", {1, 0.86f, 0.55f, 1}),
    share("strength", "Strength", 0.8),
    length("size", "Size", 4, 1e-4),
    share("hardness", "Hardness", 0.2),
    choice("place", "Lies", kPlaces),
};

std::vector<Need> glowNeeds(const Figures& f, const Place& place) {
    if (f.number(GlowOpacity) == 0) return {};
    return {distanceLevel(place.px(f.number(Size))).need(), {0, 0}};
}

/// 1 at the edge, 0 at the size; a hard one stays up longer.
void drawGlow(const AroundJob& job, Planes& out) {
    const Figures& f = job.figures;
    const double size = job.place.px(f.number(Size));
    Plane glow = distances(job.inputs[0], distanceLevel(size), out.area);
    const auto power = float(std::exp2(2 - 4 * f.number(Hardness)));
    const Where where = f.choice<Where>(GlowPlace);
    for (int y = out.area.y; y < out.area.bottom(); ++y)
        for (int x = 0; x < out.area.w; ++x) {
            const float d = glow.row(y)[x] / float(size);
            const float away = where == Where::Outside  ? std::max(d, 0.0f)
                               : where == Where::Inside ? std::max(-d, 0.0f)
                                                        : std::abs(d);
            const float t = rows::clamp01(1 - away);
            glow.row(y)[x] = std::pow(t * t * (3 - 2 * t), power);
        }
    out = copyOf(job.inputs[1]);
    const Tint tint{glow, f.colour(GlowColour), float(f.number(GlowOpacity))};
    if (where != Where::Outside) layInside(tint, out);
    if (where != Where::Inside) layUnder(tint, out);
}

} // namespace

extern const TreatmentKind kOutline{
    "outline", "Outline", TreatmentFamily::Outline, kFigures, true, false, nullptr, needs, draw, "width"};
extern const TreatmentKind kGlow{
    "glow",   "Glow", TreatmentFamily::Outline, kGlowFigures, true, false, nullptr, glowNeeds,
    drawGlow, "size"};

} // namespace glyptos
