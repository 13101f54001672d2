// Smooth where there is little to see and sharp where there are edges: the guided filter (guided.h) of each
// channel by itself. Colours are straight; alpha stays.

#include "treat/guided.h"
#include "treat/vector_math.h"

namespace glyptos {
namespace {

enum { Radius, Edge };
constexpr Figure kFigures[]{length("radius", "Radius", 2), share("edge", "Edges from", 0.1, 0.005, 1)};

std::vector<Need> needs(const Figures& f, const Place& place) {
    const double radius = place.px(f.number(Radius));
    if (radius < 0.3) return {};
    return {Surroundings::need(wideGaussian(radius)), {0, 0}};
}

void draw(const AroundJob& job, Planes& out) {
    const Planes& in = job.inputs[0];
    const auto border = float(job.figures.number(Edge));
    const Surroundings around(in, wideGaussian(job.place.px(job.figures.number(Radius))));
    out = copyOf(job.inputs[1]);
    for (int c = 0; c < 3; ++c) {
        const Guided::Line line = Guided(around, in.c[c], border * border).of(in.c[c], out.area);
        for (int y = out.area.y; y < out.area.bottom(); ++y) {
            const float *alpha = out.row(3, y), *slope = line.slope.row(y), *offset = line.offset.row(y);
            float* v = out.row(c, y);
            for (int x = 0; x < out.area.w; ++x)
                v[x] = rows::upTo(alpha[x], v[x] * slope[x] + alpha[x] * offset[x]);
        }
    }
}

} // namespace

extern const TreatmentKind kEdgeKeepingBlur{"edge-keeping-blur",
                                            "Edge-keeping blur",
                                            TreatmentFamily::Blur,
                                            kFigures,
                                            false,
                                            false,
                                            nullptr,
                                            needs,
                                            draw};

} // namespace glyptos
