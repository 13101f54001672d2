#include "vision/mend/patch_match.h"

#include "vision/mend/chance.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <tbb/parallel_for.h>

namespace glyptos::mending {
namespace {

/// Most that a patch may be lighter or darker, in samples, and what doing so costs.
constexpr int kMostLight = kFull / 12;
constexpr float kLightCost = 0.25f;

/// A match that costs no more is not searched on.
constexpr int32_t kAlike = kPatchPixels * 4;

/// Rows that are gone through in order; bands are gone through at the same time.
constexpr int kBandRows = 24;

} // namespace

Patches::Patches(const WorkPicture& picture)
    : picture_(picture)
    , means_(picture.samples.size()) {
    update({0, 0, picture.width, picture.height});
}

void Patches::update(const IntRect& area) {
    const IntRect inner{kReach, kReach, picture_.width - 2 * kReach, picture_.height - 2 * kReach};
    const IntRect a =
        IntRect{area.x - kReach, area.y - kReach, area.w + 2 * kReach, area.h + 2 * kReach}.intersected(
            inner);
    if (a.empty()) return;
    constexpr int kRowsAtOnce = 32;
    tbb::parallel_for(0, (a.h + kRowsAtOnce - 1) / kRowsAtOnce, [&](int band) {
        std::vector<int32_t> columns(size_t(a.w + 2 * kReach) * 4);
        const int from = a.y + band * kRowsAtOnce, to = std::min(from + kRowsAtOnce, a.bottom());
        const auto add = [&](int y, int sign) {
            const int16_t* row = picture_.pixel(picture_.place(a.x - kReach, y));
            for (size_t i = 0; i < columns.size(); ++i) columns[i] += sign * row[i];
        };
        for (int y = from - kReach; y < from + kReach; ++y) add(y, 1);
        for (int y = from; y < to; ++y) {
            add(y + kReach, 1);
            int32_t sum[4] = {};
            for (size_t i = 0; i < size_t(4) * (kSide - 1); ++i) sum[i % 4] += columns[i];
            int16_t* out = means_.data() + 4 * picture_.place(a.x, y);
            for (int x = 0; x < a.w; ++x)
                for (int c = 0; c < 4; ++c) {
                    sum[c] += columns[size_t(4) * size_t(x + kSide - 1) + size_t(c)];
                    out[4 * x + c] = static_cast<int16_t>((sum[c] + kPatchPixels / 2) / kPatchPixels);
                    sum[c] -= columns[size_t(4) * size_t(x) + size_t(c)];
                }
            add(y - kReach, -1);
        }
    });
}

std::array<float, 4> Patches::light(size_t target, size_t source) const {
    std::array<float, 4> out{};
    for (size_t c = 0; c < 4; ++c) {
        const float apart = float(means_[4 * target + c] - means_[4 * source + c]) / (1 + kLightCost);
        out[c] = std::clamp(apart, float(-kMostLight), float(kMostLight));
    }
    return out;
}

int32_t Patches::cost(size_t target, size_t source, int32_t bound) const {
    // Σ(a - b - l)² + k·n·l² = Σ(a - b)² - n(2·l·m - (1 + k)·l²), m the difference of the means.
    const std::array<float, 4> l = light(target, source);
    float lit = 0;
    for (size_t c = 0; c < 4; ++c) {
        const auto m = float(means_[4 * target + c] - means_[4 * source + c]);
        lit += l[c] * (2 * m - (1 + kLightCost) * l[c]);
    }
    const auto gained = static_cast<int32_t>(lit * kPatchPixels);
    const int32_t most = bound > std::numeric_limits<int32_t>::max() - gained ? bound : bound + gained;
    const size_t stride = size_t(picture_.width) * 4, corner = size_t(kReach) * (stride + 4);
    const int16_t* a = picture_.samples.data() + 4 * target - corner;
    const int16_t* b = picture_.samples.data() + 4 * source - corner;
    int32_t sum = 0;
    for (int y = 0; y < kSide; ++y, a += stride, b += stride) {
        int32_t row = 0;
        for (int i = 0; i < 4 * kSide; ++i) {
            const int d = a[i] - b[i];
            row += d * d;
        }
        sum += row;
        if (sum >= most) return bound;
    }
    return std::max(sum - gained, 0);
}

MatchField chanceField(const SearchGround& ground) {
    const WorkPicture& p = ground.picture;
    const IntRect hole = holeArea(p);
    const IntRect inner{kReach, kReach, p.width - 2 * kReach, p.height - 2 * kReach};
    MatchField out;
    out.area =
        IntRect{hole.x - kReach, hole.y - kReach, hole.w + 2 * kReach, hole.h + 2 * kReach}.intersected(
            inner);
    if (out.area.empty()) return out;
    out.matches.resize(size_t(out.area.w) * size_t(out.area.h));
    tbb::parallel_for(out.area.y, out.area.bottom(), [&](int y) {
        Chance chance(ground.seed, uint32_t(y), 0);
        for (int x = out.area.x; x < out.area.right(); ++x)
            if (!ground.whole[p.place(x, y)])
                out.at(x, y).source = ground.sources[chance.below(ground.sources.size())];
    });
    return out;
}

MatchField enlargedField(const MatchField& coarse, int coarseWidth, const SearchGround& ground) {
    const WorkPicture& p = ground.picture;
    MatchField out = chanceField(ground);
    tbb::parallel_for(out.area.y, out.area.bottom(), [&](int y) {
        for (int x = out.area.x; x < out.area.right(); ++x) {
            Match& m = out.at(x, y);
            if (m.source < 0) continue;
            const int cx = std::clamp(x / 2, coarse.area.x, coarse.area.right() - 1);
            const int cy = std::clamp(y / 2, coarse.area.y, coarse.area.bottom() - 1);
            const Match& from = coarse.at(cx, cy);
            if (from.source < 0) continue;
            const int sx = x + 2 * (from.source % coarseWidth - cx),
                      sy = y + 2 * (from.source / coarseWidth - cy);
            if (sx < 0 || sy < 0 || sx >= p.width || sy >= p.height || !ground.whole[p.place(sx, sy)])
                continue;
            m.source = static_cast<int32_t>(p.place(sx, sy));
        }
    });
    return out;
}

namespace {

/// One pass over a band of rows. `beside` is the row next to the band as it was before the pass.
class Pass {
  public:
    Pass(MatchField& field, const SearchGround& ground, int round)
        : field_(field)
        , ground_(ground)
        , round_(round)
        , step_(round % 2 == 0 ? 1 : -1) {}

    void band(int from, int to, const std::vector<Match>& beside) {
        const int first = step_ > 0 ? from : to - 1, last = step_ > 0 ? to : from - 1;
        for (int y = first; y != last; y += step_) {
            Chance chance(ground_.seed, uint32_t(y), uint32_t(round_) + 1);
            const Match* previous = y == first ? (beside.empty() ? nullptr : beside.data())
                                               : &field_.at(field_.area.x, y - step_);
            row(y, previous, chance);
        }
    }

  private:
    void row(int y, const Match* previous, Chance& chance) {
        const IntRect& a = field_.area;
        const int first = step_ > 0 ? a.x : a.right() - 1, last = step_ > 0 ? a.right() : a.x - 1;
        for (int x = first; x != last; x += step_) {
            Match& m = field_.at(x, y);
            if (m.source < 0 || m.cost <= kAlike) continue;
            if (x != first) offer(m, x, y, field_.at(x - step_, y).source, step_, 0);
            if (previous) offer(m, x, y, previous[x - a.x].source, 0, step_);
            search(m, x, y, chance);
        }
    }

    /// A neighbour's match, moved along.
    void offer(Match& m, int x, int y, int32_t source, int dx, int dy) {
        if (source < 0) return;
        const int w = ground_.picture.width;
        take(m, x, y, source % w + dx, source / w + dy);
    }

    void search(Match& m, int x, int y, Chance& chance) {
        const int w = ground_.picture.width, sx = m.source % w, sy = m.source / w;
        for (int radius = std::max(w, ground_.picture.height) / 2; radius >= 1; radius /= 2)
            take(m, x, y, sx + chance.within(radius), sy + chance.within(radius));
    }

    void take(Match& m, int x, int y, int sx, int sy) {
        const WorkPicture& p = ground_.picture;
        if (sx < 0 || sy < 0 || sx >= p.width || sy >= p.height) return;
        const size_t source = p.place(sx, sy);
        if (!ground_.whole[source] || int32_t(source) == m.source) return;
        const int32_t cost = ground_.patches.cost(p.place(x, y), source, m.cost);
        if (cost < m.cost) m = {static_cast<int32_t>(source), cost};
    }

    MatchField& field_;
    const SearchGround& ground_;
    int round_, step_;
};

void measure(MatchField& field, const SearchGround& ground) {
    tbb::parallel_for(field.area.y, field.area.bottom(), [&](int y) {
        for (int x = field.area.x; x < field.area.right(); ++x) {
            Match& m = field.at(x, y);
            if (m.source >= 0)
                m.cost = ground.patches.cost(ground.picture.place(x, y), size_t(m.source),
                                             std::numeric_limits<int32_t>::max());
        }
    });
}

} // namespace

void improve(MatchField& field, const SearchGround& ground, int rounds) {
    measure(field, ground);
    const IntRect& a = field.area;
    const int bands = (a.h + kBandRows - 1) / kBandRows;
    for (int round = 0; round < rounds; ++round) {
        // The rows that other bands will look at, as they are now.
        std::vector<std::vector<Match>> beside(static_cast<size_t>(bands));
        for (int b = 0; b < bands; ++b) {
            const int y = round % 2 == 0 ? a.y + b * kBandRows - 1 : a.y + (b + 1) * kBandRows;
            if (y < a.y || y >= a.bottom()) continue;
            const Match* row = &field.at(a.x, y);
            beside[size_t(b)].assign(row, row + a.w);
        }
        tbb::parallel_for(0, bands, [&](int b) {
            Pass(field, ground, round)
                .band(a.y + b * kBandRows, std::min(a.y + (b + 1) * kBandRows, a.bottom()),
                      beside[size_t(b)]);
        });
    }
}

namespace {

/// How much each match counts in a mean.
std::vector<float> weightsOf(const MatchField& field) {
    std::vector<int32_t> costs;
    for (const Match& m : field.matches)
        if (m.source >= 0) costs.push_back(m.cost);
    std::vector<float> out(field.matches.size());
    if (costs.empty()) return out;
    const auto at = costs.begin() + ptrdiff_t(costs.size() * 3 / 4);
    std::nth_element(costs.begin(), at, costs.end());
    const float spread = std::max(float(*at), float(kPatchPixels));
    for (size_t i = 0; i < out.size(); ++i)
        if (field.matches[i].source >= 0) out[i] = std::exp(-float(field.matches[i].cost) / spread) + 1e-6f;
    return out;
}

} // namespace

void takeMean(WorkPicture& picture, const MatchField& field, const Patches& patches) {
    const std::vector<float> weights = weightsOf(field);
    std::vector<std::array<float, 4>> lights(field.matches.size());
    const IntRect& a = field.area;
    tbb::parallel_for(a.y, a.bottom(), [&](int y) {
        for (int x = a.x; x < a.right(); ++x) {
            const size_t i = size_t(y - a.y) * size_t(a.w) + size_t(x - a.x);
            if (field.matches[i].source >= 0)
                lights[i] = patches.light(picture.place(x, y), size_t(field.matches[i].source));
        }
    });
    tbb::parallel_for(0, picture.height, [&](int y) {
        for (int x = 0; x < picture.width; ++x) {
            if (!picture.hole[picture.place(x, y)]) continue;
            float sum[4] = {}, all = 0;
            for (int qy = std::max(y - kReach, a.y); qy <= std::min(y + kReach, a.bottom() - 1); ++qy)
                for (int qx = std::max(x - kReach, a.x); qx <= std::min(x + kReach, a.right() - 1); ++qx) {
                    const size_t i = size_t(qy - a.y) * size_t(a.w) + size_t(qx - a.x);
                    const Match& m = field.matches[i];
                    if (m.source < 0) continue;
                    const int16_t* s = picture.pixel(size_t(m.source + (y - qy) * picture.width + x - qx));
                    const float w = weights[i];
                    all += w;
                    for (size_t c = 0; c < 4; ++c) sum[c] += w * (float(s[c]) + lights[i][c]);
                }
            if (all <= 0) continue;
            int16_t* out = picture.pixel(picture.place(x, y));
            for (int c = 0; c < 4; ++c)
                out[c] = static_cast<int16_t>(std::clamp(sum[c] / all + 0.5f, 0.0f, float(kFull)));
        }
    });
}

} // namespace glyptos::mending
