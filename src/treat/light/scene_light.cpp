// Up to three lamps over the layer's own relief: what is light in it stands higher. Each lamp has a place on
// the piece and a height above it; its light falls off with the square of the distance, softly within a
// circle of its reach, and only within its cone. The relief is lit as in light/relief.h; light is added in
// linear light, on what ambient light shows.

#include "treat/filters.h"
#include "treat/light/relief.h"
#include "treat/vector_math.h"

#include <numbers>

namespace glyptos {
namespace {

constexpr size_t kLamps = 3, kLampFigures = 6;
enum { Ambient, AmbientColour, Relief, Detail, Roughness, Metal, FirstLamp };
enum { At, Above, Reach, Cone, Light, LampColour };

#define GLYPTOS_LAMP(id, label, x, y, light)                                                                 \
    point(id "At", label ": place", x, y), length(id "Above", label ": height above", 40, 0.01),             \
        length(id "Reach", label ": reach", 120, 0.1), degrees(id "Cone", label ": cone", 160, 5, 180),      \
        share(id "Light", label ": light", light, 0, 4),                                                     \
        colour(id "Colour", label ": colour", {1, 0.9f, 0.72f, 1})
constexpr Figure kFigures[]{
    share("ambient", "Ambient light", 0.35, 0, 2),
    colour("ambientColour", "Ambient colour", {0.75f, 0.82f, 1, 1}),
    share("relief", "Relief", 0.5, -3, 3),
    length("detail", "Smallest of it", 0.4),
    share("roughness", "Roughness", 0.5, 0.02, 1),
    share("metal", "Metal", 0),
    GLYPTOS_LAMP("first", "Lamp 1", 0.35f, 0.3f, 1),
    GLYPTOS_LAMP("second", "Lamp 2", 0.75f, 0.4f, 0),
    GLYPTOS_LAMP("third", "Lamp 3", 0.5f, 0.8f, 0),
};
#undef GLYPTOS_LAMP

double detailOf(const Figures& f, const Place& place) {
    return std::clamp(place.px(f.number(Detail)), 0.0, 5.9);
}

std::vector<Need> needs(const Figures& f, const Place& place) {
    return {{0, gaussianReach(detailOf(f, place)) + 1}};
}

struct Lamp {
    float x, y, z, reach, cosine;
    float light[3];
};

std::vector<Lamp> lampsOf(const Figures& f, const Place& place) {
    std::vector<Lamp> out;
    for (size_t i = 0; i < kLamps; ++i) {
        const size_t first = FirstLamp + i * kLampFigures;
        const auto light = float(f.number(first + Light));
        if (light == 0) continue;
        const Vec2 at = place.toOutput.map(place.at(kFigures[first + At], f.point(first + At)));
        const Rgba& c = f.colour(first + LampColour);
        out.push_back(
            {float(at.x),
             float(at.y),
             float(place.px(f.number(first + Above))),
             float(place.px(f.number(first + Reach))),
             float(std::cos(f.number(first + Cone) / 2 * std::numbers::pi / 180)),
             {light * rows::toLinear(c.r), light * rows::toLinear(c.g), light * rows::toLinear(c.b)}});
    }
    return out;
}

/// The relief of the layer's luma, in px.
Plane heightOf(const AroundJob& job, const IntRect& area) {
    const Planes& in = job.inputs[0];
    Plane luma(in.area);
    for (int y = in.area.y; y < in.area.bottom(); ++y)
        for (int x = 0; x < in.area.w; ++x)
            luma.row(y)[x] =
                0.2126f * in.row(0, y)[x] + 0.7152f * in.row(1, y)[x] + 0.0722f * in.row(2, y)[x];
    Plane out = gaussian(luma, area, detailOf(job.figures, job.place));
    // As many px high as its smallest form is wide: then its slopes look the same at every scale.
    const auto tall =
        float(8 * job.figures.number(Relief) * std::max(job.place.px(job.figures.number(Detail)), 0.3));
    for (int y = area.y; y < area.bottom(); ++y)
        for (int x = 0; x < area.w; ++x) out.row(y)[x] *= tall;
    return out;
}

void draw(const AroundJob& job, Planes& out) {
    const Figures& f = job.figures;
    const IntRect& area = out.area;
    const Slopes slopes = slopesOf(heightOf(job, {area.x - 1, area.y - 1, area.w + 2, area.h + 2}), area);
    const std::vector<Lamp> lamps = lampsOf(f, job.place);
    const auto rough = float(f.number(Roughness)), metal = float(f.number(Metal)),
               ambient = float(f.number(Ambient));
    const Rgba& a = f.colour(AmbientColour);
    const float still[3]{ambient * rows::toLinear(a.r), ambient * rows::toLinear(a.g),
                         ambient * rows::toLinear(a.b)};
    out = cutOut(job.inputs[0], area);
    for (int y = area.y; y < area.bottom(); ++y)
        for (int i = 0; i < area.w; ++i) {
            const float alpha = out.row(3, y)[i];
            if (alpha <= 0) continue;
            const Direction n = unit(-slopes.x.row(y)[i], -slopes.y.row(y)[i], 1);
            float diffuse[3]{still[0], still[1], still[2]}, shine[3]{};
            for (const Lamp& lamp : lamps) {
                const float dx = lamp.x - (float(area.x + i) + 0.5f), dy = lamp.y - (float(y) + 0.5f);
                const float squared = dx * dx + dy * dy + lamp.z * lamp.z, length = std::sqrt(squared);
                const Direction l{dx / length, dy / length, lamp.z / length};
                const float falls = 1 / (1 + (squared - lamp.z * lamp.z) / (lamp.reach * lamp.reach));
                const float within = rows::smooth(lamp.cosine - 0.05f, lamp.cosine + 0.05f, l.z);
                const Answer answer = answerOf(n, l, rough, 0.04f + 0.56f * metal);
                for (int c = 0; c < 3; ++c) {
                    const float light = lamp.light[c] * falls * falls * within;
                    diffuse[c] += light * answer.diffuse;
                    shine[c] += light * std::min(answer.shine, 4.0f);
                }
            }
            for (int c = 0; c < 3; ++c) {
                float& v = out.row(c, y)[i];
                const float own = rows::toLinear(v / alpha);
                const float tint = 1 + (own - 1) * metal;
                v = alpha * rows::clamp01(rows::toEncoded(own * diffuse[c] * (1 - 0.5f * metal) +
                                                          0.25f * shine[c] * tint));
            }
        }
}

} // namespace

extern const TreatmentKind kSceneLight{
    "scene-light", "Scene light", TreatmentFamily::Light, kFigures, false, false, nullptr, needs,
    draw,          "relief"};

} // namespace glyptos
