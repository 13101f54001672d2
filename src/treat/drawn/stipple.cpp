// Dots of one size, the more of them the darker it is. They lie on several grids on top of each other, at a
// chance place in each cell. A dot of a grid is there where the tone at its middle asks for it: n grids whose
// dots cover a share a of their cells cover 1 - (1 - a p)^n in all when a dot is there with the chance p.

#include "treat/drawn/tone.h"

#include <numbers>

namespace glyptos {
namespace {

enum { Size, Uneven, InkColour, PaperColour, SeeThrough, Seed };
constexpr Figure kFigures[]{
    length("size", "Size of a dot", 0.4, 0.01),     share("uneven", "Uneven dots", 0.3),
    colour("ink", "Ink", {0.08f, 0.09f, 0.12f, 1}), colour("paper", "Paper", {0.95f, 0.93f, 0.87f, 1}),
    flag("seeThrough", "No paper", false),          chance(),
};

constexpr int kGrids = 6;
constexpr double kCell = 1.1; // of a dot's size

WideGaussian toneOf(const Figures& f, const Place& place) {
    return wideGaussian(std::max(0.5 * place.px(f.number(Size)), 0.06));
}
/// How far a dot's middle may lie from a pixel that it covers.
int farthestDot(const Figures& f, const Place& place) {
    return int(std::ceil(place.px(f.number(Size)))) + 2;
}

std::vector<Need> needs(const Figures& f, const Place& place) {
    return {grownBy(toneOf(f, place).need(), farthestDot(f, place)), {0, 0}};
}

/// Makes paper that is left, 1 being all of it, less under a dot.
void dot(float x, float y, float radius, Plane& left) {
    // A dot that is smaller than a pixel covers as much of the pixels about it as it has area.
    constexpr float kLeast = 0.6f;
    const float drawn = std::max(radius, kLeast),
                share = radius < kLeast ? radius * radius / (kLeast * kLeast) : 1;
    const IntRect all = pixelsAround({double(x - drawn) - 0.5, double(y - drawn) - 0.5, double(2 * drawn) + 1,
                                      double(2 * drawn) + 1})
                            .intersected(left.area);
    for (int py = all.y; py < all.bottom(); ++py)
        for (int px = all.x; px < all.right(); ++px) {
            const float dx = float(px) + 0.5f - x, dy = float(py) + 0.5f - y;
            const float cover = rows::clamp01(drawn - std::sqrt(dx * dx + dy * dy) + 0.5f) * share;
            left.row(py)[px - left.area.x] *= 1 - cover;
        }
}

Plane paperLeft(const AroundJob& job, const IntRect& area) {
    const Figures& f = job.figures;
    const int reach = farthestDot(f, job.place);
    const IntRect wide{area.x - reach, area.y - reach, area.w + 2 * reach, area.h + 2 * reach};
    const Plane tone = smoothLight(job.inputs[0], toneOf(f, job.place), wide);
    const double size = f.number(Size);
    const auto radius = float(job.place.px(size) / 2), uneven = float(f.number(Uneven));
    const auto covered = float(std::numbers::pi / 4 / (kCell * kCell));
    Plane left(area);
    std::fill_n(left.values.data(), left.values.size(), 1.0f);
    for (uint32_t grid = 0; grid < kGrids; ++grid) {
        const uint32_t seed = f.seed(Seed) * 97u + grid * 11u;
        const Affine shifted =
            job.place.toOutput * Affine::translation(grid * 0.37 * size, grid * 0.61 * size);
        eachGridPoint(shifted, kCell * size, seed, area, reach - 1, [&](const GridPoint& p) {
            const float light = tone.at(std::clamp(int(std::floor(p.x)), wide.x, wide.right() - 1),
                                        std::clamp(int(std::floor(p.y)), wide.y, wide.bottom() - 1));
            const float wanted = (1 - std::pow(std::max(light, 1e-4f), 1.0f / kGrids)) / covered;
            // It grows out of nothing, so that a little more or less light is a little more or less ink.
            constexpr float kGrowing = 0.15f;
            const float grown = (wanted - hashNoise(p.ix, p.iy, seed + 2)) / kGrowing + 0.667f;
            if (grown <= 0) return;
            const float k = std::min(grown, 1.0f) * (1 + uneven * (hashNoise(p.ix, p.iy, seed + 3) - 0.5f));
            dot(p.x, p.y, radius * k, left);
        });
    }
    return left;
}

void draw(const AroundJob& job, Planes& out) {
    const Figures& f = job.figures;
    const Plane left = paperLeft(job, out.area);
    const Inked how = inkedBy(f.colour(InkColour), f.colour(PaperColour), f.flag(SeeThrough));
    for (int y = out.area.y; y < out.area.bottom(); ++y)
        for (int x = out.area.x; x < out.area.right(); ++x)
            setInked(how, 1 - left.at(x, y), job.inputs[1].c[3].at(x, y), out, x, y);
}

} // namespace

extern const TreatmentKind kStipple{
    "stipple", "Stipple", TreatmentFamily::Drawn, kFigures, false, true, nullptr, needs, draw, "size"};

} // namespace glyptos
