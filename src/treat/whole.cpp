#include "treat/whole.h"

#include "treat/filters.h"

#include <map>
#include <tbb/parallel_for.h>

namespace glyptos {
namespace {

/// `in` at the levels that are needed, each made of the one before.
std::map<int, Planes> levelsOf(const Planes& in, const std::vector<Need>& needs) {
    int most = 0;
    for (const Need& need : needs) most = std::max(most, need.level);
    std::map<int, Planes> out;
    const Planes* last = &in;
    for (int level = 1; level <= most; ++level) {
        Planes half;
        tbb::parallel_for(0, 4, [&](int c) {
            const IntRect& a = last->area;
            half.c[c] = halved(extended(last->c[c], {a.x, a.y, a.w & ~1, a.h & ~1}));
        });
        half.area = half.c[0].area;
        last = &out.emplace(level, std::move(half)).first->second;
    }
    return out;
}

/// A part of `from` where it lies: to be read as long as `from` is there.
Plane lying(const Plane& from, const IntRect& area) {
    const size_t first = size_t(area.y - from.area.y) * from.stride + size_t(area.x - from.area.x);
    auto* values = const_cast<float*>(from.values.data()) + first; // NOLINT(*-const-cast): read only
    Plane out;
    out.area = area, out.stride = from.stride;
    out.values = Buffer<float>({std::shared_ptr<void>(), values}, from.values.size() - first);
    return out;
}

/// A part of `from`, its nearest pixels beyond it.
Planes around(const Planes& from, const IntRect& area) {
    Planes out;
    out.area = area;
    const bool within = area.intersected(from.area) == area;
    for (int c = 0; c < 4; ++c) out.c[c] = within ? lying(from.c[c], area) : extended(from.c[c], area);
    return out;
}

} // namespace

Planes treatedWhole(const TreatmentKind& kind, const Figures& figures, const Place& place, const Planes& in,
                    int cell) {
    const std::vector<Need> needs = kind.needs(figures, place);
    if (needs.empty()) return copyOf(in);
    const auto levels = levelsOf(in, needs);
    Planes out(in.area);
    const int across = (in.area.w + cell - 1) / cell, down = (in.area.h + cell - 1) / cell;
    tbb::parallel_for(0, across * down, [&](int i) {
        const IntRect area =
            IntRect{in.area.x + i % across * cell, in.area.y + i / across * cell, cell, cell}.intersected(
                in.area);
        std::vector<Planes> inputs;
        for (const Need& need : needs) {
            const IntRect there = atLevel(area, need.level);
            inputs.push_back(around(need.level == 0 ? in : levels.at(need.level),
                                    {there.x - need.reach, there.y - need.reach, there.w + 2 * need.reach,
                                     there.h + 2 * need.reach}));
        }
        Planes part(area);
        kind.draw({figures, place, inputs}, part);
        for (int c = 0; c < 4; ++c)
            for (int y = area.y; y < area.bottom(); ++y)
                std::copy_n(part.row(c, y), area.w, out.row(c, y) + (area.x - in.area.x));
    });
    return out;
}

void gradeWhole(std::span<const ColourOp> ops, Planes& planes) {
    constexpr size_t kRows = 8;
    constexpr int kPiece = 1024;
    tbb::parallel_for(tbb::blocked_range<int>(planes.area.y, planes.area.bottom(), kRows),
                      [&](const tbb::blocked_range<int>& part) {
                          for (int y = part.begin(); y < part.end(); ++y)
                              for (int x = 0; x < planes.area.w; x += kPiece) {
                                  const auto n = size_t(std::min(kPiece, planes.area.w - x));
                                  float* c[4];
                                  for (int k = 0; k < 4; ++k) c[k] = planes.row(k, y) + x;
                                  // Counted to the end, which is quicker than looking where to stop.
                                  const bool isOpaque = std::count(c[3], c[3] + n, 1.0f) == ptrdiff_t(n);
                                  if (!isOpaque) toStraightRow(c, n);
                                  RowInSpace row({c[0], c[1], c[2], c[3], planes.area.x + x, y, n});
                                  for (const ColourOp& op : ops) row.apply(op);
                                  row.toEncoded();
                                  if (!isOpaque) toPremultipliedRow(c, n);
                              }
                      });
}

} // namespace glyptos
