// Paint thrown off what shows: drops in its own colours, from chance places of it, in a direction. Most fall
// near and are small; each is drawn out along its way.

#include "treat/drawn/tone.h"

#include <numbers>

namespace glyptos {
namespace {

enum { Direction, Distance, Spread, Amount, Size, Seed };
constexpr Figure kFigures[]{
    degrees("direction", "Towards", 20),       length("distance", "As far as", 14),
    degrees("spread", "Spread", 40, 0, 360),   share("amount", "How much", 0.5),
    length("size", "Largest drop", 1.6, 0.01), chance(),
};

constexpr double kCell = 0.9;    // of the largest drop
constexpr float kLongest = 2.5f; // of a drop, against its width

int reachFor(const Figures& f, const Place& place) {
    return int(std::ceil(place.px(f.number(Distance) + kLongest * f.number(Size)))) + 2;
}

std::vector<Need> needs(const Figures& f, const Place& place) {
    if (f.number(Amount) == 0) return {};
    return {{0, reachFor(f, place)}};
}

struct Drop {
    float x, y;        ///< px
    float dx, dy;      ///< its way, of length 1
    float wide, long_; ///< half of its width and length, px
    float c[3];
};

/// An ellipse over what is there.
void lay(const Drop& d, Planes& out) {
    constexpr float kLeast = 0.6f;
    const float wide = std::max(d.wide, kLeast), far = std::max(d.long_, wide);
    const float share = std::min(d.wide * d.long_ / (wide * far), 1.0f);
    const IntRect all =
        pixelsAround({double(d.x - far) - 1, double(d.y - far) - 1, double(2 * far) + 2, double(2 * far) + 2})
            .intersected(out.area);
    for (int y = all.y; y < all.bottom(); ++y)
        for (int x = all.x; x < all.right(); ++x) {
            const float px = float(x) + 0.5f - d.x, py = float(y) + 0.5f - d.y;
            const float along = (px * d.dx + py * d.dy) / far, across = (py * d.dx - px * d.dy) / wide;
            const float away = std::sqrt(along * along + across * across);
            const float cover = rows::clamp01((1 - away) * wide + 0.5f) * share;
            if (cover <= 0) continue;
            const int i = x - out.area.x;
            for (int c = 0; c < 3; ++c) out.row(c, y)[i] += (d.c[c] - out.row(c, y)[i]) * cover;
            out.row(3, y)[i] += (1 - out.row(3, y)[i]) * cover;
        }
}

void draw(const AroundJob& job, Planes& out) {
    const Figures& f = job.figures;
    const Planes& in = job.inputs[0];
    out = cutOut(in, out.area);
    const uint32_t seed = f.seed(Seed) * 53u;
    const double cell = kCell * f.number(Size), px = job.place.pxPerUnit();
    const int reach = reachFor(f, job.place);
    eachGridPoint(job.place.toOutput, cell, seed, out.area, reach - 1, [&](const GridPoint& p) {
        const auto chanceOf = [&](uint32_t k) { return hashNoise(p.ix, p.iy, seed + 5 + k); };
        if (double(chanceOf(0)) >= f.number(Amount)) return;
        const int x = std::clamp(int(std::floor(p.x)), in.area.x, in.area.right() - 1),
                  y = std::clamp(int(std::floor(p.y)), in.area.y, in.area.bottom() - 1);
        const float alpha = in.c[3].at(x, y);
        if (alpha < 0.5f) return;
        const float far = chanceOf(1), large = chanceOf(2);
        const Vec2 way = job.place.way(f.number(Direction) + f.number(Spread) * (double(chanceOf(3)) - 0.5),
                                       f.number(Distance) * double(far * far));
        const double length = std::max(way.length(), 1e-6);
        const auto wide =
            float(f.number(Size) * px / 2) * (0.2f + 0.8f * large * large * large) * (1 - 0.5f * far);
        lay({p.x + float(way.x),
             p.y + float(way.y),
             float(way.x / length),
             float(way.y / length),
             wide,
             wide * (1 + (kLongest - 1) * far * chanceOf(4)),
             {in.c[0].at(x, y) / alpha, in.c[1].at(x, y) / alpha, in.c[2].at(x, y) / alpha}},
            out);
    });
}

} // namespace

extern const TreatmentKind kThrownPaint{
    "thrown-paint", "Thrown paint", TreatmentFamily::Drawn, kFigures, true, true, nullptr, needs,
    draw,           "distance"};

} // namespace glyptos
