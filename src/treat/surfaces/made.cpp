// Surfaces that hands made: leather, paper, gold leaf, vinyl, cloth.

#include "treat/surfaces/surface.h"

namespace glyptos {
namespace {

/// Cushions between creases, which are where two feature points are equally near.
GLYPTOS_IN_ROWS float leatherAt(float u, float v, const rows::Lattice& l) {
    const float wx = rows::fractal<2>(4 * u, 4 * v, rows::finer(l, 4, 4, 1)) - 0.5f,
                wy = rows::fractal<2>(4 * u, 4 * v, rows::finer(l, 4, 4, 2)) - 0.5f;
    const rows::CellPoint cell =
        rows::cellPointAt(8 * u + 0.8f * wx, 8 * v + 0.8f * wy, rows::finer(l, 8, 8, 3));
    const float cushion = rows::smooth(0.0f, 0.42f, cell.second - cell.nearest);
    const float broad = rows::fractal<3>(u, v, l),
                grain = rows::fractal<2>(32 * u, 32 * v, rows::finer(l, 32, 32, 5));
    return rows::clamp01(0.08f + 0.55f * cushion * (0.75f + 0.25f * cell.chance) + 0.35f * (broad - 0.35f) +
                         0.16f * (grain - 0.5f) + 0.1f);
}
GLYPTOS_SURFACE(leather, leatherAt)

/// A felt of fibres: ridges of noise that is drawn out, two ways.
GLYPTOS_IN_ROWS float paperAt(float u, float v, const rows::Lattice& l) {
    const float felt = rows::fractal<4>(4 * u, 4 * v, rows::finer(l, 4, 4, 1)) - 0.5f;
    const float one = 1 -
                      rows::absolute(2 * rows::noise(16 * u + 3 * felt, 4 * v, rows::finer(l, 16, 4, 2)) - 1),
                two = 1 -
                      rows::absolute(2 * rows::noise(4 * u, 16 * v + 3 * felt, rows::finer(l, 4, 16, 3)) - 1);
    const float fibres = (one * one * one + two * two * two) * rows::shownOf(rows::finer(l, 64, 64, 0));
    return rows::clamp01(0.5f + 0.9f * felt + 0.16f * (fibres - 0.5f));
}
GLYPTOS_SURFACE(paper, paperAt)

/// Square leaves a little out of line, each as it took the light, with wrinkles and worn seams.
GLYPTOS_IN_ROWS float goldAt(float u, float v, const rows::Lattice& l) {
    const float wx = rows::fractal<3>(2 * u, 2 * v, rows::finer(l, 2, 2, 1)) - 0.5f,
                wy = rows::fractal<3>(2 * u, 2 * v, rows::finer(l, 2, 2, 2)) - 0.5f;
    const float x = u + 0.12f * wx, y = v + 0.12f * wy;
    const int32_t ix = rows::floorOf(x), iy = rows::floorOf(y);
    const float fx = x - float(ix), fy = y - float(iy);
    const float ex = fx < 0.5f ? fx : 1 - fx, ey = fy < 0.5f ? fy : 1 - fy;
    const float seam = 1 - rows::smooth(0.0f, 0.03f, ex < ey ? ex : ey);
    const float own = rows::knot(ix, iy, rows::finer(l, 1, 1, 3));
    const float wrinkle = rows::ridges<5>(2 * u, 2 * v, rows::finer(l, 2, 2, 4));
    const float worn = rows::smooth(0.6f, 0.75f, rows::fractal<4>(4 * u, 4 * v, rows::finer(l, 4, 4, 6)));
    return rows::clamp01(0.28f + 0.14f * (own - 0.5f) + 0.5f * wrinkle * wrinkle -
                         0.3f * seam * (0.4f + worn) - 0.25f * worn * worn);
}
GLYPTOS_SURFACE(goldLeaf, goldAt)

/// Grooves about the middle of the panel, with the quiet between pieces of music, and a gleam that runs
/// outwards on two sides. Where it repeats the grooves run straight.
GLYPTOS_IN_ROWS float vinylAt(float u, float v, const rows::Lattice& l) {
    const float round = __builtin_sqrtf(u * u + v * v), r = l.maskX < 0 ? round : v;
    const float turn = rows::turnOf(v, u);
    const rows::Lattice fine = rows::finer(l, 32, 32, 1);
    const float groove = rows::cosineOf(32 * r) * rows::shownOf(fine);
    const float music = rows::noise(16 * r, 0, rows::finer(l, 16, 1, 2));
    const float along = r * 0.5f - float(rows::floorOf(r * 0.5f));
    const float quiet = 1 - rows::smooth(0.0f, 0.02f, along < 0.5f ? along : 1 - along);
    const float lobe = rows::cosineOf(2 * turn - 0.25f), bright = lobe > 0 ? lobe * lobe * lobe * lobe : 0.0f;
    const float gleam = l.maskX < 0 ? bright : 0.15f;
    return rows::clamp01(0.2f + 0.1f * groove * (0.5f + music) + 0.08f * (music - 0.5f) +
                         0.55f * gleam * (0.7f + 0.5f * music) + 0.12f * quiet);
}
GLYPTOS_SURFACE(vinyl, vinylAt)

/// Threads over and under by turns, each a little thicker or thinner along its way.
GLYPTOS_IN_ROWS float clothAt(float u, float v, const rows::Lattice& l) {
    const rows::Lattice fine = rows::finer(l, 8, 8, 1);
    const float x = 8 * u, y = 8 * v;
    const int32_t ix = rows::floorOf(x), iy = rows::floorOf(y);
    const float warp = rows::noise(x * 0.25f, float(iy), rows::finer(l, 2, 8, 2)),
                weft = rows::noise(float(ix), y * 0.25f, rows::finer(l, 8, 2, 3));
    const float across = rows::sineOf(0.5f * (y - float(iy))), down = rows::sineOf(0.5f * (x - float(ix)));
    const float one = across * rows::clamp01(2 * down) * (0.75f + 0.5f * warp),
                other = down * rows::clamp01(2 * across) * (0.75f + 0.5f * weft);
    const auto turn = float((ix + iy) & 1);
    const float over = other + (one - other) * turn;
    const float twist = rows::noise(4 * x, 4 * y, rows::finer(l, 32, 32, 4)) - 0.5f;
    constexpr float kMean = 0.5f;
    return rows::clamp01(kMean + (over - kMean + 0.25f * twist) * rows::shownOf(rows::finer(fine, 2, 2, 0)));
}
GLYPTOS_SURFACE(cloth, clothAt)

constexpr auto kLeatherFigures =
    surfaceFigures({20, {0.12f, 0.07f, 0.05f, 1}, {0.35f, 0.2f, 0.13f, 1}, {0.56f, 0.36f, 0.24f, 1}, 0.8});
constexpr auto kPaperFigures =
    surfaceFigures({14, {0.82f, 0.79f, 0.72f, 1}, {0.92f, 0.9f, 0.85f, 1}, {0.98f, 0.97f, 0.94f, 1}, 0.12});
constexpr auto kGoldFigures =
    surfaceFigures({30, {0.36f, 0.22f, 0.07f, 1}, {0.76f, 0.56f, 0.2f, 1}, {1, 0.93f, 0.66f, 1}, 0.25});
constexpr auto kVinylFigures =
    surfaceFigures({16, {0.02f, 0.02f, 0.025f, 1}, {0.16f, 0.16f, 0.17f, 1}, {0.62f, 0.63f, 0.66f, 1}, 0.1});
constexpr auto kClothFigures =
    surfaceFigures({8, {0.3f, 0.25f, 0.2f, 1}, {0.6f, 0.54f, 0.45f, 1}, {0.84f, 0.79f, 0.69f, 1}, 0.5});

} // namespace

extern const TreatmentKind kLeather{
    "leather", "Leather",    TreatmentFamily::Surface, kLeatherFigures, false, true,
    nullptr,   surfaceNeeds, drawSurfaceOf<leather>,   "scale"};
extern const TreatmentKind kPaper{"paper", "Paper",      TreatmentFamily::Surface, kPaperFigures, false, true,
                                  nullptr, surfaceNeeds, drawSurfaceOf<paper>,     "scale"};
extern const TreatmentKind kGoldLeaf{
    "gold-leaf", "Gold leaf",  TreatmentFamily::Surface, kGoldFigures, false, true,
    nullptr,     surfaceNeeds, drawSurfaceOf<goldLeaf>,  "scale"};
extern const TreatmentKind kVinyl{"vinyl", "Vinyl",      TreatmentFamily::Surface, kVinylFigures, false, true,
                                  nullptr, surfaceNeeds, drawSurfaceOf<vinyl>,     "scale"};
extern const TreatmentKind kCloth{"cloth", "Cloth",      TreatmentFamily::Surface, kClothFigures, false, true,
                                  nullptr, surfaceNeeds, drawSurfaceOf<cloth>,     "scale"};

} // namespace glyptos
