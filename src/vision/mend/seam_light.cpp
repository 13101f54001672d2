#include "vision/mend/seam_light.h"

#include <algorithm>
#include <cmath>
#include <tbb/parallel_for.h>
#include <utility>

namespace glyptos::mending {
namespace {

using Samples = std::array<float, 4>;

/// Mismatches about as large as this are let be, in samples; how far what is added reaches, px.
constexpr float kEdge = kFull / 4.0f, kBorderEdge = kFull / 1.5f, kFar = 40;

class Solver {
  public:
    Solver(const WorkPicture& picture, const IntRect& area, std::vector<PixelSource>& sources)
        : picture_(picture)
        , area_(area)
        , sources_(sources)
        , added_(sources.size())
        , right_(sources.size())
        , below_(sources.size())
        , known_(sources.size()) {
        tbb::parallel_for(area.y, area.bottom(), [&](int y) {
            for (int x = area.x; x < area.right(); ++x)
                if (source(x, y)) setUp(x, y);
        });
    }

    void solve(int rounds) {
        for (int round = 0; round < 2 * rounds; ++round)
            tbb::parallel_for(area_.y, area_.bottom(), [&](int y) {
                for (int x = area_.x + ((y + round) & 1); x < area_.right(); x += 2)
                    if (source(x, y)) relax(x, y);
            });
    }

    void apply() {
        for (size_t i = 0; i < sources_.size(); ++i)
            for (size_t c = 0; c < 4; ++c) sources_[i].light[c] += added_[i][c];
    }

  private:
    /// What the neighbour should have more, and how sure that is.
    struct Link {
        Samples step{};
        float weight = 0;
    };
    struct Known {
        Samples sum{}; ///< weighted, of what the known neighbours ask for
        float weight = 0;
    };

    size_t at(int x, int y) const { return size_t(y - area_.y) * size_t(area_.w) + size_t(x - area_.x); }
    bool isIn(int x, int y) const {
        return x >= area_.x && y >= area_.y && x < area_.right() && y < area_.bottom();
    }
    const PixelSource* source(int x, int y) const {
        return isIn(x, y) && sources_[at(x, y)].place >= 0 ? &sources_[at(x, y)] : nullptr;
    }
    const int16_t* beside(int32_t place, int dx, int dy) const {
        const int x = place % picture_.width + dx, y = place / picture_.width + dy;
        if (x < 0 || y < 0 || x >= picture_.width || y >= picture_.height) return nullptr;
        const size_t there = picture_.place(x, y);
        return picture_.hole[there] ? nullptr : picture_.pixel(there);
    }
    static void weigh(Link& link, float edge) {
        float squares = 0;
        for (const float s : link.step) squares += s * s;
        const float ratio = 1 + squares / (edge * edge);
        link.weight = 1 / (ratio * ratio);
    }

    /// From one pixel of the hole to the next: the mean of the steps at both of their sources.
    Link between(const PixelSource& a, const PixelSource& b, int dx, int dy) const {
        Link out;
        const int16_t *pa = picture_.pixel(size_t(a.place)), *pb = picture_.pixel(size_t(b.place));
        const int16_t *after = beside(a.place, dx, dy), *before = beside(b.place, -dx, -dy);
        if (!after && !before) return out;
        for (size_t c = 0; c < 4; ++c) {
            float wanted = 0;
            if (after) wanted += float(after[c] - pa[c]);
            if (before) wanted += float(pb[c] - before[c]);
            if (after && before) wanted /= 2;
            out.step[c] = wanted - (float(pb[c]) + b.light[c] - float(pa[c]) - a.light[c]);
        }
        weigh(out, kEdge);
        return out;
    }

    void setUp(int x, int y) {
        const PixelSource& own = *source(x, y);
        if (const auto* next = source(x + 1, y)) right_[at(x, y)] = between(own, *next, 1, 0);
        if (const auto* next = source(x, y + 1)) below_[at(x, y)] = between(own, *next, 0, 1);
        for (const auto& [dx, dy] : {std::pair{-1, 0}, {1, 0}, {0, -1}, {0, 1}}) {
            const int nx = x + dx, ny = y + dy;
            if (nx < 0 || ny < 0 || nx >= picture_.width || ny >= picture_.height) continue;
            if (picture_.hole[picture_.place(nx, ny)]) continue;
            const int16_t *from = picture_.pixel(size_t(own.place)), *after = beside(own.place, dx, dy);
            if (!after) continue;
            const int16_t* seen = picture_.pixel(picture_.place(nx, ny));
            Link link;
            for (size_t c = 0; c < 4; ++c)
                link.step[c] = float(seen[c]) - float(after[c] - from[c]) - (float(from[c]) + own.light[c]);
            weigh(link, kBorderEdge);
            Known& known = known_[at(x, y)];
            for (size_t c = 0; c < 4; ++c) known.sum[c] += link.weight * link.step[c];
            known.weight += link.weight;
        }
    }

    void relax(int x, int y) {
        constexpr float kOver = 1.85f; // successive over-relaxation
        const Known& known = known_[at(x, y)];
        Samples sum = known.sum;
        float weight = known.weight + 1 / (kFar * kFar);
        const auto ask = [&](int nx, int ny, const Link& link, float sign) {
            const Samples& other = added_[at(nx, ny)];
            for (size_t c = 0; c < 4; ++c) sum[c] += link.weight * (other[c] + sign * link.step[c]);
            weight += link.weight;
        };
        if (isIn(x + 1, y)) ask(x + 1, y, right_[at(x, y)], -1);
        if (isIn(x, y + 1)) ask(x, y + 1, below_[at(x, y)], -1);
        if (isIn(x - 1, y)) ask(x - 1, y, right_[at(x - 1, y)], 1);
        if (isIn(x, y - 1)) ask(x, y - 1, below_[at(x, y - 1)], 1);
        Samples& now = added_[at(x, y)];
        for (size_t c = 0; c < 4; ++c) now[c] += kOver * (sum[c] / weight - now[c]);
    }

    const WorkPicture& picture_;
    IntRect area_;
    std::vector<PixelSource>& sources_;
    std::vector<Samples> added_;
    std::vector<Link> right_, below_;
    std::vector<Known> known_;
};

} // namespace

std::vector<PixelSource> pixelSources(const WorkPicture& picture, const MatchField& field,
                                      const Patches& patches, const IntRect& area) {
    std::vector<PixelSource> out(size_t(area.w) * size_t(area.h));
    const IntRect& a = field.area;
    tbb::parallel_for(area.y, area.bottom(), [&](int y) {
        for (int x = area.x; x < area.right(); ++x) {
            if (!picture.hole[picture.place(x, y)]) continue;
            const Match* best = nullptr;
            int bestX = 0, bestY = 0;
            for (int qy = std::max(y - kReach, a.y); qy <= std::min(y + kReach, a.bottom() - 1); ++qy)
                for (int qx = std::max(x - kReach, a.x); qx <= std::min(x + kReach, a.right() - 1); ++qx) {
                    const Match& m = field.at(qx, qy);
                    if (m.source >= 0 && (!best || m.cost < best->cost)) best = &m, bestX = qx, bestY = qy;
                }
            if (!best) continue;
            const int32_t by = int32_t((y - bestY) * picture.width + x - bestX);
            out[size_t(y - area.y) * size_t(area.w) + size_t(x - area.x)] = {
                best->source + by, patches.light(picture.place(bestX, bestY), size_t(best->source))};
        }
    });
    return out;
}

void fitLight(const WorkPicture& picture, const IntRect& area, std::vector<PixelSource>& sources) {
    constexpr int kRounds = 60;
    Solver solver(picture, area, sources);
    solver.solve(kRounds);
    solver.apply();
}

} // namespace glyptos::mending
