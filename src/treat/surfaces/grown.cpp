// Surfaces that grew, flow or weather: clouds, marble, water, wood, rust, concrete. Noise of raster/noise.h
// in octaves (F. K. Musgrave in D. Ebert et al., "Texturing and Modeling", 2003), looked up where other noise
// has moved it to (K. Perlin, "An Image Synthesizer", 1985).

#include "treat/surfaces/surface.h"

namespace glyptos {
namespace {

GLYPTOS_IN_ROWS float cloudAt(float u, float v, const rows::Lattice& l) {
    const float wx = rows::fractal<3>(u, v, rows::finer(l, 1, 1, 1)) - 0.5f,
                wy = rows::fractal<3>(u, v, rows::finer(l, 1, 1, 2)) - 0.5f;
    return rows::smooth(0.22f, 0.78f, rows::fractal<6>(u + 1.4f * wx, v + 1.4f * wy, l));
}
GLYPTOS_SURFACE(clouds, cloudAt)

/// Veins where a wave that noise has bent passes zero; finer ones between.
GLYPTOS_IN_ROWS float marbleAt(float u, float v, const rows::Lattice& l) {
    const float bend = rows::fractal<5>(u, v, l), fine = rows::ridges<4>(u, v, rows::finer(l, 1, 1, 3));
    const float wave = rows::absolute(rows::sineOf(0.5f * (u + v) + 2.2f * bend));
    const float vein = 1 - rows::smooth(0.0f, 0.35f, wave), thread = rows::smooth(0.93f, 1.0f, fine);
    return rows::clamp01(0.62f + 0.5f * (bend - 0.5f) - 0.5f * vein - 0.3f * thread);
}
GLYPTOS_SURFACE(marble, marbleAt)

/// Light gathered by ripples: ridges of two noises that bend each other.
GLYPTOS_IN_ROWS float waterAt(float u, float v, const rows::Lattice& l) {
    const float a = rows::fractal<3>(u, v, rows::finer(l, 1, 1, 1)) - 0.5f,
                b = rows::fractal<3>(u, v, rows::finer(l, 1, 1, 2)) - 0.5f;
    const float one = rows::ridges<2>(u + 0.9f * a, v + 0.9f * b, l),
                two = rows::ridges<2>(u - 0.8f * b, v + 0.8f * a, rows::finer(l, 1, 1, 5));
    const float net = one * two;
    return rows::clamp01(0.12f + 0.55f * net * net + 0.45f * rows::smooth(0.72f, 0.98f, net));
}
GLYPTOS_SURFACE(water, waterAt)

/// Rings along u, wandering slowly, with a hard late edge; pores along the grain.
GLYPTOS_IN_ROWS float woodAt(float u, float v, const rows::Lattice& l) {
    const float wander = rows::fractal<3>(0.25f * u, v, rows::finer(l, 1, 1, 1)) - 0.5f;
    const float across = 4 * v + 3.5f * wander;
    const float ring = across - float(rows::floorOf(across));
    const float late = ring * ring * (1 - rows::smooth(0.9f, 1.0f, ring));
    const float pore = rows::noise(2 * u, 32 * v, rows::finer(l, 2, 32, 2));
    const float fibre = rows::fractal<3>(u, 16 * v, rows::finer(l, 1, 16, 3));
    return rows::clamp01(0.72f - 0.5f * late + 0.3f * (fibre - 0.5f) -
                         0.35f * rows::smooth(0.6f, 0.9f, pore) * rows::shownOf(rows::finer(l, 1, 64, 0)));
}
GLYPTOS_SURFACE(wood, woodAt)

/// Islands of sound metal in scales of rust, with pits.
GLYPTOS_IN_ROWS float rustAt(float u, float v, const rows::Lattice& l) {
    const float patch = rows::fractal<6>(u, v, l),
                grain = rows::fractal<4>(8 * u, 8 * v, rows::finer(l, 8, 8, 2));
    const float scale = rows::ridges<4>(2 * u, 2 * v, rows::finer(l, 2, 2, 4));
    const float eaten = rows::smooth(0.38f, 0.62f, patch);
    return rows::clamp01(0.1f + 0.5f * eaten * (0.5f + 0.5f * scale) + 0.4f * grain - 0.1f);
}
GLYPTOS_SURFACE(rust, rustAt)

/// Broad stains, a fine grain, and holes where air was.
GLYPTOS_IN_ROWS float concreteAt(float u, float v, const rows::Lattice& l) {
    const float stain = rows::fractal<4>(u, v, l),
                grain = rows::fractal<3>(16 * u, 16 * v, rows::finer(l, 16, 16, 2));
    const rows::Lattice holes = rows::finer(l, 4, 4, 4);
    const rows::CellPoint cell = rows::cellPointAt(4 * u, 4 * v, holes);
    const float radius = 0.3f * (cell.chance - 0.62f);
    const float soft = 1.5f / (holes.cell > 1 ? holes.cell : 1.0f);
    const float hole =
        cell.chance > 0.62f ? 1 - rows::smooth(radius - soft, radius + soft, cell.nearest) : 0.0f;
    return rows::clamp01(0.5f + 0.7f * (stain - 0.5f) + 0.35f * (grain - 0.5f) - 0.45f * hole);
}
GLYPTOS_SURFACE(concrete, concreteAt)

constexpr auto kCloudFigures =
    surfaceFigures({40, {0.36f, 0.47f, 0.58f, 1}, {0.68f, 0.74f, 0.8f, 1}, {0.97f, 0.97f, 0.95f, 1}, 0});
constexpr auto kMarbleFigures =
    surfaceFigures({30, {0.3f, 0.31f, 0.33f, 1}, {0.78f, 0.77f, 0.76f, 1}, {0.97f, 0.96f, 0.94f, 1}, 0.1});
constexpr auto kWaterFigures =
    surfaceFigures({12, {0.03f, 0.17f, 0.24f, 1}, {0.16f, 0.43f, 0.5f, 1}, {0.86f, 0.96f, 0.94f, 1}, 0.25});
constexpr auto kWoodFigures =
    surfaceFigures({24, {0.26f, 0.15f, 0.08f, 1}, {0.55f, 0.36f, 0.2f, 1}, {0.78f, 0.6f, 0.38f, 1}, 0.35});
constexpr auto kRustFigures =
    surfaceFigures({18, {0.15f, 0.08f, 0.06f, 1}, {0.5f, 0.23f, 0.1f, 1}, {0.82f, 0.5f, 0.24f, 1}, 0.7});
constexpr auto kConcreteFigures =
    surfaceFigures({25, {0.33f, 0.33f, 0.32f, 1}, {0.6f, 0.59f, 0.57f, 1}, {0.8f, 0.79f, 0.76f, 1}, 0.4});

} // namespace

extern const TreatmentKind kClouds{
    "clouds", "Clouds",     TreatmentFamily::Surface, kCloudFigures, false, true,
    nullptr,  surfaceNeeds, drawSurfaceOf<clouds>,    "scale"};
extern const TreatmentKind kMarble{
    "marble", "Marble",     TreatmentFamily::Surface, kMarbleFigures, false, true,
    nullptr,  surfaceNeeds, drawSurfaceOf<marble>,    "scale"};
extern const TreatmentKind kWater{"water", "Water",      TreatmentFamily::Surface, kWaterFigures, false, true,
                                  nullptr, surfaceNeeds, drawSurfaceOf<water>,     "scale"};
extern const TreatmentKind kWood{"wood",  "Wood",       TreatmentFamily::Surface, kWoodFigures, false, true,
                                 nullptr, surfaceNeeds, drawSurfaceOf<wood>,      "scale"};
extern const TreatmentKind kRust{"rust",  "Rust",       TreatmentFamily::Surface, kRustFigures, false, true,
                                 nullptr, surfaceNeeds, drawSurfaceOf<rust>,      "scale"};
extern const TreatmentKind kConcrete{
    "concrete", "Concrete",   TreatmentFamily::Surface, kConcreteFigures, false, true,
    nullptr,    surfaceNeeds, drawSurfaceOf<concrete>,  "scale"};

} // namespace glyptos
