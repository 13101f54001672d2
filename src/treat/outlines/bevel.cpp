// A raised or sunken edge under a lamp. The height over the distance d from the outline, within the width w,
// is a slope (d / w) or a round (√(1 - (1 - d / w)²)), smoothed; it is lit as a relief (light/relief.h).
// Paper keeps its colour and darkens and lightens; metal mirrors a sky that is light above and a ground that
// is dark, in its own colour.

#include "treat/light/relief.h"
#include "treat/outlines/edge_distance.h"
#include "treat/vector_math.h"

#include <numbers>

namespace glyptos {
namespace {

constexpr const char* kProfiles[]{"round", "slope", "groove"};
constexpr const char* kMaterials[]{"paper", "metal"};
enum class Profile { Round, Slope, Groove };

enum { Width, Height, Profile_, Sunken, Direction_, Elevation, Material, Roughness, Light, Shade, Smooth };
constexpr Figure kFigures[]{
    length("width", "Width", 1.5, 1e-4),
    share("height", "Height", 0.6, 0, 3),
    choice("profile", "Profile", kProfiles),
    flag("sunken", "Pressed in", false),
    degrees("direction", "Light comes from", -120),
    degrees("elevation", "Light stands at", 40, 1, 90),
    choice("material", "Answers as", kMaterials),
    share("roughness", "Roughness", 0.35, 0.02, 1),
    share("light", "Lights", 0.8),
    share("shade", "Shades", 0.8),
    length("smooth", "Smoothing", 0.1),
};

double smoothing(const Figures& f, const Place& place) {
    return std::clamp(place.px(f.number(Smooth)), 0.0, 12.0);
}

/// Around what is drawn: the height, one px for its slopes, and what smoothing reads.
int margin(const Figures& f, const Place& place) {
    return gaussianReach(smoothing(f, place)) + 2;
}

std::vector<Need> needs(const Figures& f, const Place& place) {
    if (f.number(Height) == 0 || (f.number(Light) == 0 && f.number(Shade) == 0)) return {};
    Need need = distanceLevel(place.px(f.number(Width))).need();
    need.reach += (margin(f, place) >> need.level) + 1;
    return {need, {0, 0}};
}

float heightAt(float inside, Profile profile) {
    const float t = rows::clamp01(inside);
    switch (profile) {
    case Profile::Slope:
        return t;
    case Profile::Groove:
        return 0.5f - 0.5f * std::cos(2 * std::numbers::pi_v<float> * t);
    default:
        return std::sqrt(std::max(1 - (1 - t) * (1 - t), 0.0f));
    }
}

Plane heights(const AroundJob& job, const IntRect& area) {
    const Figures& f = job.figures;
    const double width = job.place.px(f.number(Width));
    const int round = gaussianReach(smoothing(f, job.place));
    const IntRect wide{area.x - round, area.y - round, area.w + 2 * round, area.h + 2 * round};
    Plane out = distances(job.inputs[0], distanceLevel(width), wide);
    const auto tall = float(f.number(Height) * width * (f.flag(Sunken) ? -1 : 1));
    for (int y = wide.y; y < wide.bottom(); ++y)
        for (int x = 0; x < wide.w; ++x)
            out.row(y)[x] = tall * heightAt(-out.row(y)[x] / float(width), f.choice<Profile>(Profile_));
    return gaussian(out, area, smoothing(f, job.place));
}

/// What metal mirrors in a direction: a sky that is lightest at the horizon's end of the light, a dark
/// ground.
float mirrored(const Direction& normal, const Direction& light) {
    const Direction r{2 * normal.z * normal.x, 2 * normal.z * normal.y, 2 * normal.z * normal.z - 1};
    const float side = std::sqrt(light.x * light.x + light.y * light.y);
    const float up = side > 1e-4f ? (r.x * light.x + r.y * light.y) / side : 0;
    const float band = rows::smooth(-0.15f, 0.15f, up); // across the horizon
    return 0.25f + 0.2f * (1 + up) * (1 - band) + band * (0.95f - 0.35f * up);
}

void draw(const AroundJob& job, Planes& out) {
    const Figures& f = job.figures;
    const IntRect& area = out.area;
    const Plane height = heights(job, {area.x - 1, area.y - 1, area.w + 2, area.h + 2});
    const Slopes slopes = slopesOf(height, area);
    const Vec2 from = job.place.way(f.number(Direction_), 1);
    const double angle = f.number(Elevation) * std::numbers::pi / 180;
    const double flat = std::cos(angle) / std::max(from.length(), 1e-9);
    const Direction lamp{float(from.x * flat), float(from.y * flat), float(std::sin(angle))};
    const bool isMetal = f.number(Material) == 1;
    const auto rough = float(f.number(Roughness)), lights = float(f.number(Light)),
               shades = float(f.number(Shade));
    const Answer rest = answerOf({0, 0, 1}, lamp, rough, isMetal ? 0.6f : 0.04f);
    const float still = mirrored({0, 0, 1}, lamp);
    out = copyOf(job.inputs[1]);
    for (int y = area.y; y < area.bottom(); ++y)
        for (int x = 0; x < area.w; ++x) {
            const float alpha = out.row(3, y)[x];
            if (alpha <= 0) continue;
            const Direction n = unit(-slopes.x.row(y)[x], -slopes.y.row(y)[x], 1);
            const Answer answer = answerOf(n, lamp, rough, isMetal ? 0.6f : 0.04f);
            float factor = rest.diffuse > 1e-3f ? answer.diffuse / rest.diffuse : 1;
            float shine = std::max(answer.shine - rest.shine, 0.0f);
            if (isMetal) factor = mirrored(n, lamp) / still * (0.7f + 0.3f * factor);
            factor = factor > 1 ? 1 + (factor - 1) * lights : 1 + (factor - 1) * shades;
            shine *= lights * (isMetal ? 0.9f : 0.6f);
            for (int c = 0; c < 3; ++c) {
                float& v = out.row(c, y)[x];
                const float straight = v / alpha;
                // What is lit beyond white goes towards it and not past: 1 - (1 - v)^factor is v · factor for
                // dark v.
                const float lit =
                    factor > 1 ? 1 - std::pow(1 - std::min(straight, 0.999f), factor) : straight * factor;
                const float tint = isMetal ? 0.5f + 0.5f * straight : 1;
                v = alpha * rows::clamp01(lit + (1 - lit) * std::min(shine * tint, 1.0f));
            }
        }
}

} // namespace

extern const TreatmentKind kBevel{"bevel", "Bevel", TreatmentFamily::Outline, kFigures, true, false, nullptr,
                                  needs,   draw};

} // namespace glyptos
