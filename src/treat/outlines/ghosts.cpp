// Copies off to a side behind what shows, each fainter and softer than the one before.

#include "treat/outlines/shifted.h"

namespace glyptos {
namespace {

enum { Count, Direction, Step, Fade, Softness, Behind };
constexpr Figure kFigures[]{
    whole("count", "Copies", 1, 24, 4),
    degrees("direction", "Off towards", 0),
    length("step", "Step", 3),
    share("fade", "Each fades to", 0.6),
    length("softness", "Each softer by", 0.4),
    flag("behind", "Behind it", true),
};

Shifted ghost(const Figures& f, const Place& place, int i) {
    return shifted(place, f.number(Direction), f.number(Step) * i, f.number(Softness) * i);
}

std::vector<Need> needs(const Figures& f, const Place& place) {
    if (f.number(Step) == 0 && f.number(Softness) == 0) return {};
    std::vector<Need> out{{0, 0}};
    for (int i = 1; i <= int(f.number(Count)); ++i) out.push_back(ghost(f, place, i).need());
    return out;
}

/// `over` at an opacity over `under`, which gets it.
void lay(const Planes& over, float opacity, Planes& under) {
    for (int y = under.area.y; y < under.area.bottom(); ++y) {
        const float* alpha = over.row(3, y);
        for (int c = 0; c < 4; ++c) {
            float* to = under.row(c, y);
            const float* from = over.row(c, y);
            for (int x = 0; x < under.area.w; ++x)
                if (c < 3) to[x] = from[x] * opacity + to[x] * (1 - alpha[x] * opacity);
        }
        for (int x = 0; x < under.area.w; ++x) {
            float& to = under.row(3, y)[x];
            to = alpha[x] * opacity + to * (1 - alpha[x] * opacity);
        }
    }
}

void draw(const AroundJob& job, Planes& out) {
    const Figures& f = job.figures;
    const int count = int(f.number(Count));
    Planes all(out.area);
    all.clear();
    if (!f.flag(Behind)) lay(job.inputs[0], 1, all);
    for (int k = 0; k < count; ++k) {
        // Behind: the farthest first; else the nearest, which the farther ones cover.
        const int i = f.flag(Behind) ? count - k : k + 1;
        lay(ghost(f, job.place, i).of(job.inputs[size_t(i)], out.area), float(std::pow(f.number(Fade), i)),
            all);
    }
    if (f.flag(Behind)) lay(job.inputs[0], 1, all);
    out = std::move(all);
}

} // namespace

extern const TreatmentKind kGhosts{
    "ghosts", "Ghosts", TreatmentFamily::Outline, kFigures, true, false, nullptr, needs, draw, "step"};

} // namespace glyptos
