// Pixels moved by a picture or another layer: across and down by how light it is, or across by its red and
// down by its green; middle grey leaves them where they are, and so does what does not show.

#include "treat/kind.h"
#include "treat/sampled.h"

namespace glyptos {
namespace {

constexpr const char* kUses[]{"its light", "red and green"};
enum { By, Uses, Across, Down };
constexpr Figure kFigures[]{
    picture("by", "Moved by"),
    choice("uses", "Uses", kUses),
    length("across", "Across by", 4, -kLongestFigure),
    length("down", "Down by", 4, -kLongestFigure),
};

std::vector<Need> needs(const Figures& f, const Place& place) {
    const double far = std::hypot(f.number(Across), f.number(Down));
    if (f.picture(By).empty() || far == 0) return {};
    return {{0, int(std::ceil(place.px(far))) + 2}};
}

void draw(const AroundJob& job, Planes& out) {
    const Figures& f = job.figures;
    const Planes* by = job.picture(0);
    if (!by) {
        out = cutOut(job.inputs[0], out.area);
        return;
    }
    const bool channels = f.number(Uses) == 1;
    const Vec2 across = job.place.way(0, f.number(Across)), down = job.place.way(90, f.number(Down));
    for (int y = out.area.y; y < out.area.bottom(); ++y)
        for (int i = 0; i < out.area.w; ++i) {
            const float alpha = by->row(3, y)[i], r = by->row(0, y)[i], g = by->row(1, y)[i],
                        b = by->row(2, y)[i];
            const float luma = 0.2126f * r + 0.7152f * g + 0.0722f * b;
            const double u = 2 * (channels ? r : luma) - alpha, v = 2 * (channels ? g : luma) - alpha;
            const Vec2 way = across * u + down * v;
            const Sample s =
                sampledAt(job.inputs[0], float(out.area.x + i + 0.5 - way.x), float(y + 0.5 - way.y));
            for (int c = 0; c < 4; ++c) out.row(c, y)[i] = s.c[c];
        }
}

} // namespace

extern const TreatmentKind kDisplacement{
    "displacement", "Displacement", TreatmentFamily::Drawn, kFigures, true, false, nullptr, needs,
    draw,           "across"};

} // namespace glyptos
