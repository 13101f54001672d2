// A raised or sunken edge under a lamp. The height over the distance d from the outline, within the width w,
// is a slope (d / w) or a round (√(1 - (1 - d / w)²)), smoothed; it is lit as a relief (light/relief.h).
// Paper keeps its colour and darkens and lightens; metal mirrors a sky that is light above and a ground that
// is dark, in its own colour. A picture may fill what shows first.

#include "treat/light/relief.h"
#include "treat/outlines/edge_distance.h"
#include "treat/vector_math.h"

#include <numbers>

namespace glyptos {
namespace {

constexpr const char* kProfiles[]{"round", "slope", "groove"};
constexpr const char* kMaterials[]{"paper", "metal"};
enum class Profile { Round, Slope, Groove };

enum {
    Width,
    Height,
    Profile_,
    Sunken,
    Direction_,
    Elevation,
    Material,
    Roughness,
    Light,
    Shade,
    Smooth,
    Fill,
    FillAcross,
    FillDown,
    FillSize
};
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
    picture("fill", "Filled with"),
    length("fillAcross", "Filling across", 0, -kLongestFigure),
    length("fillDown", "Filling down", 0, -kLongestFigure),
    share("fillSize", "Filling's size", 1, 0.05, 20),
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
    return {grownBy(distanceLevel(place.px(f.number(Width))).need(), margin(f, place)), {0, 0}};
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
/// ground. `sx`, `sy`: towards the light, in the plane of the piece.
GLYPTOS_IN_ROWS float mirrored(const Direction& n, float sx, float sy) {
    const float up = 2 * n.z * (n.x * sx + n.y * sy);
    const float band = rows::smooth(-0.15f, 0.15f, up); // across the horizon
    return 0.25f + 0.2f * (1 + up) * (1 - band) + band * (0.95f - 0.35f * up);
}

/// The lamp, how strongly it acts, and what a flat place looks like under it.
struct Lighting {
    Direction lamp;
    float sx, sy; // where it stands, seen from above
    float rough, facing, lights, shades, metal;
    float restDiffuse, restShine, restMirrored;
};

/// What is lit beyond white goes towards it and not past: 1 - (1 - v)^factor is v · factor for dark v.
GLYPTOS_IN_ROWS float litBy(float v, float factor, float shine, float metal) {
    const float dark = v < 0.999f ? 1 - v : 0.001f;
    const float up = 1 - rows::exp2(factor * rows::log2(dark)), down = v * factor;
    const float on = factor > 1 ? up : down;
    const float gleam = shine * (1 + 0.5f * (v - 1) * metal);
    return rows::clamp01(on + (1 - on) * (gleam < 1 ? gleam : 1.0f));
}

/// Premultiplied colours lit by their slopes.
GLYPTOS_ROWS void lightRow(const float* __restrict slopeX, const float* __restrict slopeY,
                           const float* __restrict alpha, float* __restrict r, float* __restrict g,
                           float* __restrict b, size_t n, const Lighting& k) {
    const Direction lamp = k.lamp;
    const float rough = k.rough, facing = k.facing, metal = k.metal, lights = k.lights, shades = k.shades;
    const float sx = k.sx, sy = k.sy, restShine = k.restShine;
    const float perDiffuse = 1 / k.restDiffuse, perMirrored = 1 / k.restMirrored;
    for (size_t i = 0; i < n; ++i) {
        const Direction normal = unit(-slopeX[i], -slopeY[i], 1);
        const Answer answer = answerOf(normal, lamp, rough, facing);
        const float dull = answer.diffuse * perDiffuse;
        const float mirror = mirrored(normal, sx, sy) * perMirrored * (0.7f + 0.3f * dull);
        const float plain = dull + (mirror - dull) * metal;
        const float factor = rows::upTo(8, 1 + (plain - 1) * (plain > 1 ? lights : shades));
        const float more = answer.shine - restShine;
        const float shine = (more > 0 ? more : 0.0f) * lights * (0.6f + 0.3f * metal);
        const float a = alpha[i], inverse = a > 0 ? 1 / a : 0.0f;
        r[i] = a * litBy(r[i] * inverse, factor, shine, metal);
        g[i] = a * litBy(g[i] * inverse, factor, shine, metal);
        b[i] = a * litBy(b[i] * inverse, factor, shine, metal);
    }
}

Lighting lightingOf(const Figures& f, const Place& place) {
    const Vec2 from = place.way(f.number(Direction_), 1);
    const double angle = f.number(Elevation) * std::numbers::pi / 180, length = std::max(from.length(), 1e-9);
    Lighting out{};
    out.sx = float(from.x / length), out.sy = float(from.y / length);
    out.lamp = {out.sx * float(std::cos(angle)), out.sy * float(std::cos(angle)), float(std::sin(angle))};
    out.metal = f.number(Material) == 1 ? 1.0f : 0.0f;
    out.rough = float(f.number(Roughness)), out.facing = 0.04f + 0.56f * out.metal;
    out.lights = float(f.number(Light)), out.shades = float(f.number(Shade));
    const Answer rest = answerOf({0, 0, 1}, out.lamp, out.rough, out.facing);
    out.restDiffuse = std::max(rest.diffuse, 1e-3f), out.restShine = rest.shine;
    out.restMirrored = mirrored({0, 0, 1}, out.sx, out.sy);
    return out;
}

/// About the middle of the panel, and slid.
Affine fillOnPanel(const Figures& f, const Place& place) {
    const Vec2 middle = place.panel.centre();
    return Affine::translation(middle.x + f.number(FillAcross), middle.y + f.number(FillDown)) *
           Affine::scaling(f.number(FillSize), f.number(FillSize)) *
           Affine::translation(-middle.x, -middle.y);
}

/// The picture within what shows.
void fillWith(const Planes& picture, Planes& out) {
    for (int y = out.area.y; y < out.area.bottom(); ++y)
        for (int i = 0; i < out.area.w; ++i) {
            const float left = 1 - picture.row(3, y)[i];
            for (int c = 0; c < 3; ++c)
                out.row(c, y)[i] = out.row(c, y)[i] * left + picture.row(c, y)[i] * out.row(3, y)[i];
        }
}

void draw(const AroundJob& job, Planes& out) {
    const IntRect& area = out.area;
    const Plane height = heights(job, {area.x - 1, area.y - 1, area.w + 2, area.h + 2});
    const Slopes slopes = slopesOf(height, area);
    const Lighting lighting = lightingOf(job.figures, job.place);
    out = copyOf(job.inputs[1]);
    if (const Planes* picture = job.picture(0)) fillWith(*picture, out);
    for (int y = area.y; y < area.bottom(); ++y)
        lightRow(slopes.x.row(y), slopes.y.row(y), out.row(3, y), out.row(0, y), out.row(1, y), out.row(2, y),
                 size_t(area.w), lighting);
}

} // namespace

extern const TreatmentKind kBevel{
    "bevel", "Bevel",    TreatmentFamily::Outline, kFigures, true, false, nullptr, needs, draw,
    "width", fillOnPanel};

} // namespace glyptos
