// A Gaussian that grows with the distance from a point or a line, sharp within some of it: between four
// Gaussians, each twice as wide as the one before, by the variance that is asked for.

#include "treat/filters.h"
#include "treat/vector_math.h"

namespace glyptos {
namespace {

constexpr const char* kFroms[]{"a point", "a line"};
enum { From, Middle, Angle, Sharp, Grows, Sigma };
constexpr Figure kFigures[]{
    choice("from", "Away from", kFroms),     point("middle", "Sharp at"),
    degrees("angle", "Line runs along", 0),  length("sharp", "Sharp within", 15),
    length("grows", "Full after", 40, 0.01), length("sigma", "Softness", 3),
};
constexpr int kSteps = 4;

double sigmaOf(const Figures& f, const Place& place, int k) {
    return std::ldexp(place.px(f.number(Sigma)), k + 1 - kSteps);
}

std::vector<Need> needs(const Figures& f, const Place& place) {
    if (place.px(f.number(Sigma)) < 0.05) return {};
    std::vector<Need> out{{0, 0}};
    for (int k = 0; k < kSteps; ++k) out.push_back(wideGaussian(std::max(sigmaOf(f, place, k), 0.06)).need());
    return out;
}

/// How soft a pixel is to be, 0…1, by its place on the piece.
struct Growth {
    Affine map; ///< from output px to units along and across the line, about the point
    bool line;
    float sharp, grows;
    float at(int x, int y) const {
        const Vec2 p = map.map({x + 0.5, y + 0.5});
        const auto away = float(line ? std::abs(p.y) : p.length());
        return rows::smooth(0, 1, (away - sharp) / grows);
    }
};

void draw(const AroundJob& job, Planes& out) {
    const Figures& f = job.figures;
    const Vec2 middle = job.place.at(kFigures[Middle], f.point(Middle));
    const Growth growth{Affine::rotation(-f.number(Angle)) * Affine::translation(-middle.x, -middle.y) *
                            job.place.toOutput.inverse().value_or(Affine{}),
                        f.number(From) == 1, float(f.number(Sharp)), float(f.number(Grows))};
    out = copyOf(job.inputs[0]);
    Plane wanted(out.area);
    float most = 0;
    for (int y = out.area.y; y < out.area.bottom(); ++y)
        for (int i = 0; i < out.area.w; ++i)
            most = std::max(most, wanted.row(y)[i] = growth.at(out.area.x + i, y));
    float below = 0; // of the variance of the widest
    for (int k = 0; k < kSteps; ++k) {
        const float here = std::ldexp(1.0f, 2 * (k + 1 - kSteps));
        if (most * most <= below) break;
        const Planes soft = smoothed(job.inputs[size_t(k) + 1],
                                     wideGaussian(std::max(sigmaOf(f, job.place, k), 0.06)), out.area);
        for (int c = 0; c < 4; ++c)
            for (int y = out.area.y; y < out.area.bottom(); ++y)
                for (int i = 0; i < out.area.w; ++i) {
                    const float w = wanted.row(y)[i], t = rows::clamp01((w * w - below) / (here - below));
                    float& v = out.row(c, y)[i];
                    v += (soft.row(c, y)[i] - v) * t;
                }
        below = here;
    }
}

} // namespace

extern const TreatmentKind kDistanceBlur{
    "distance-blur", "Blur by distance", TreatmentFamily::Blur, kFigures, false, true, nullptr, needs, draw,
    "sigma"};

} // namespace glyptos
