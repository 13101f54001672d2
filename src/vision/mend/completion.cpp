#include "vision/mend/completion.h"

#include "base/error.h"
#include "vision/mend/seam_light.h"
#include "vision/mend/shifts.h"

#include <algorithm>
#include <limits>
#include <map>
#include <tbb/parallel_for.h>

namespace glyptos::mending {
namespace {

/// A level whose hole is less deep than this, or that is smaller, is the coarsest.
constexpr double kShallow = 6;
constexpr int kSmallest = 48;

std::vector<int32_t> placesOf(const std::vector<uint8_t>& whole) {
    std::vector<int32_t> out;
    for (size_t i = 0; i < whole.size(); ++i)
        if (whole[i]) out.push_back(static_cast<int32_t>(i));
    return out;
}

/// Pixels of the hole that have a known neighbour.
std::vector<size_t> rimOf(const WorkPicture& p, const IntRect& area) {
    std::vector<size_t> out;
    for (int y = area.y; y < area.bottom(); ++y)
        for (int x = area.x; x < area.right(); ++x) {
            if (!p.hole[p.place(x, y)]) continue;
            bool known = false;
            for (int dy = -1; dy <= 1; ++dy)
                for (int dx = -1; dx <= 1; ++dx) {
                    const int nx = x + dx, ny = y + dy;
                    const bool inside = nx >= 0 && ny >= 0 && nx < p.width && ny < p.height;
                    known = known || (inside && !p.hole[p.place(nx, ny)]);
                }
            if (known) out.push_back(p.place(x, y));
        }
    return out;
}

/// The squared difference over what is known about `target`, or `bound` and more.
int64_t knownCost(const WorkPicture& p, size_t target, size_t source, int64_t bound) {
    const int tx = int(target) % p.width, ty = int(target) / p.width;
    int64_t sum = 0;
    for (int dy = -kReach; dy <= kReach; ++dy) {
        if (ty + dy < 0 || ty + dy >= p.height) continue;
        for (int dx = -kReach; dx <= kReach; ++dx) {
            if (tx + dx < 0 || tx + dx >= p.width) continue;
            const ptrdiff_t by = ptrdiff_t(dy) * p.width + dx;
            const size_t a = size_t(ptrdiff_t(target) + by), b = size_t(ptrdiff_t(source) + by);
            if (p.hole[a]) continue;
            for (size_t c = 0; c < 4; ++c) {
                const int d = p.pixel(a)[c] - p.pixel(b)[c];
                sum += int64_t(d) * d;
            }
        }
        if (sum >= bound) return bound;
    }
    return sum;
}

/// Ring by ring from the outside: each pixel takes the middle of the patch most like what is known round it
/// (A. Efros, T. Leung, "Texture synthesis by non-parametric sampling", 1999).
void peel(WorkPicture& picture, const std::vector<int32_t>& sources) {
    WorkPicture left = picture;
    const IntRect area = holeArea(picture);
    for (std::vector<size_t> rim = rimOf(left, area); !rim.empty(); rim = rimOf(left, area)) {
        for (const size_t target : rim) {
            int64_t best = std::numeric_limits<int64_t>::max();
            size_t from = size_t(sources.front());
            for (const int32_t s : sources) {
                const int64_t cost = knownCost(left, target, size_t(s), best);
                if (cost < best) best = cost, from = size_t(s);
            }
            std::copy_n(left.pixel(from), 4, left.pixel(target));
        }
        for (const size_t target : rim) left.hole[target] = 0;
    }
    picture.samples = std::move(left.samples);
}

/// A first look of the hole: by peeling where that is quickly done.
void begin(WorkPicture& picture, const std::vector<int32_t>& sources) {
    constexpr ptrdiff_t kMostPeeled = 4000;
    constexpr size_t kMostSources = 1500;
    if (std::count(picture.hole.begin(), picture.hole.end(), 1) > kMostPeeled) return fillSmoothly(picture);
    std::vector<int32_t> some;
    const size_t step = sources.size() / kMostSources + 1;
    for (size_t i = 0; i < sources.size(); i += step) some.push_back(sources[i]);
    peel(picture, some);
}

/// The hole of a level as the one above shows it.
void enlarge(const WorkPicture& coarse, WorkPicture& picture) {
    tbb::parallel_for(0, picture.height, [&](int y) {
        for (int x = 0; x < picture.width; ++x) {
            if (!picture.hole[picture.place(x, y)]) continue;
            const int x0 = std::clamp((x - 1) / 2, 0, coarse.width - 1),
                      x1 = std::min((x + 1) / 2, coarse.width - 1);
            const int y0 = std::clamp((y - 1) / 2, 0, coarse.height - 1),
                      y1 = std::min((y + 1) / 2, coarse.height - 1);
            // The nearer of two counts thrice.
            const int wx = x % 2 == 0 ? 3 : 1, wy = y % 2 == 0 ? 3 : 1;
            for (int c = 0; c < 4; ++c) {
                const int top = (4 - wx) * coarse.pixel(coarse.place(x0, y0))[c] +
                                wx * coarse.pixel(coarse.place(x1, y0))[c];
                const int low = (4 - wx) * coarse.pixel(coarse.place(x0, y1))[c] +
                                wx * coarse.pixel(coarse.place(x1, y1))[c];
                picture.pixel(picture.place(x, y))[c] =
                    static_cast<int16_t>(((4 - wy) * top + wy * low + 8) / 16);
            }
        }
    });
}

struct Rounds {
    int blends, copies; ///< how often pixels are made from means of their matches, and copied from the best
    int searches;       ///< each time
};

Rounds roundsAt(size_t level, size_t levels) {
    if (level == 0) return {2, 2, 2};
    if (level + 1 == levels) return {10, 0, 3};
    return {level == 1 ? 5 : 8, 0, 2};
}

/// A picture that is being filled, and what is known of it.
struct Filling {
    WorkPicture& picture;
    std::vector<uint8_t> whole = wholePatches(picture);
    std::vector<int32_t> sources = placesOf(whole);
    IntRect hole = holeArea(picture);
};

void copyBest(WorkPicture& picture, const MatchField& field, const Patches& patches, const IntRect& hole) {
    const std::vector<PixelSource> from = pixelSources(picture, field, patches, hole);
    for (int y = hole.y; y < hole.bottom(); ++y)
        for (int x = hole.x; x < hole.right(); ++x) {
            const PixelSource& s = from[size_t(y - hole.y) * size_t(hole.w) + size_t(x - hole.x)];
            if (s.place < 0) continue;
            const int16_t* there = picture.pixel(size_t(s.place));
            int16_t* out = picture.pixel(picture.place(x, y));
            for (size_t c = 0; c < 4; ++c)
                out[c] =
                    static_cast<int16_t>(std::clamp(float(there[c]) + s.light[c] + 0.5f, 0.0f, float(kFull)));
        }
}

/// The field bettered and the picture filled by it, in turns.
void settle(Filling& filling, MatchField& field, Patches& patches, uint32_t seed, const Rounds& rounds,
            const std::atomic<bool>* cancel) {
    const SearchGround ground{filling.picture, patches, filling.whole, filling.sources, seed};
    for (int i = 0; i < rounds.blends + rounds.copies && !isCancelled(cancel); ++i) {
        improve(field, ground, rounds.searches);
        if (i < rounds.blends)
            takeMean(filling.picture, field, patches);
        else
            copyBest(filling.picture, field, patches, filling.hole);
        patches.update(filling.hole);
    }
}

/// The picture and its halves, the last one so small that its hole is shallow.
std::vector<WorkPicture> levelsOf(WorkPicture picture) {
    std::vector<WorkPicture> out;
    out.push_back(std::move(picture));
    while (depthOf(out.back()) > kShallow && std::min(out.back().width, out.back().height) / 2 >= kSmallest) {
        WorkPicture next = halved(out.back());
        constexpr size_t kFewest = 64;
        if (placesOf(wholePatches(next)).size() < kFewest) break;
        out.push_back(std::move(next));
    }
    return out;
}

/// Level by level, the coarsest first, down to `last`, whose matches are given.
MatchField fromCoarse(std::vector<WorkPicture>& levels, size_t last, const std::atomic<bool>* cancel) {
    MatchField field;
    for (size_t k = levels.size(); k-- > last && !isCancelled(cancel);) {
        Filling level{levels[k]};
        const bool coarsest = k + 1 == levels.size();
        if (coarsest)
            begin(level.picture, level.sources);
        else
            enlarge(levels[k + 1], level.picture);
        Patches patches(level.picture);
        const SearchGround ground{level.picture, patches, level.whole, level.sources, uint32_t(k) + 1};
        field = coarsest ? chanceField(ground) : enlargedField(field, levels[k + 1].width, ground);
        settle(level, field, patches, uint32_t(k) + 1, roundsAt(k, levels.size()), cancel);
    }
    return field;
}

/// The shifts of most matches, at most `most`.
std::vector<Shift> shiftsOf(const MatchField& field, int width, size_t most) {
    std::map<std::pair<int, int>, int> counts;
    for (int y = field.area.y; y < field.area.bottom(); ++y)
        for (int x = field.area.x; x < field.area.right(); ++x)
            if (const int32_t from = field.at(x, y).source; from >= 0)
                ++counts[{from % width - x, from / width - y}];
    std::vector<std::pair<int, Shift>> ranked;
    ranked.reserve(counts.size());
    for (const auto& [shift, count] : counts) ranked.push_back({count, {shift.first, shift.second}});
    std::stable_sort(ranked.begin(), ranked.end(),
                     [](const auto& a, const auto& b) { return a.first > b.first; });
    std::vector<Shift> out;
    for (size_t i = 0; i < std::min(most, ranked.size()); ++i) out.push_back(ranked[i].second);
    return out;
}

/// What a first, coarse completion moves by: it knows of edges that run on at an angle.
std::vector<Shift> coarseShifts(const WorkPicture& picture, const std::atomic<bool>* cancel) {
    constexpr ptrdiff_t kMostFilled = 3000;
    constexpr size_t kShifts = 40;
    std::vector<WorkPicture> levels = levelsOf(picture);
    size_t last = 0;
    while (last + 1 < levels.size() &&
           std::count(levels[last].hole.begin(), levels[last].hole.end(), 1) > kMostFilled)
        ++last;
    std::vector<Shift> out = shiftsOf(fromCoarse(levels, last, cancel), levels[last].width, kShifts);
    for (Shift& s : out) s.x <<= last, s.y <<= last;
    return out;
}

/// By few pieces, each moved as a whole; their seams settled patch by patch.
std::optional<MatchField> byPieces(Filling& filling, const std::vector<Shift>& beyond,
                                   const std::atomic<bool>* cancel) {
    constexpr size_t kShifts = 60;
    WorkPicture& picture = filling.picture;
    const std::optional<WorkPicture> rows = beyond.empty() ? std::nullopt : std::optional(ownRows(picture));
    const WorkPicture& own = rows ? *rows : picture;
    std::vector<Shift> shifts = commonShifts(own, rows ? wholePatches(own) : filling.whole, kShifts);
    for (const Shift& s : coarseShifts(own, cancel))
        if (std::find(shifts.begin(), shifts.end(), s) == shifts.end()) shifts.push_back(s);
    const std::vector<int32_t> placed = placedPieces(picture, {std::move(shifts), beyond}, cancel);
    if (placed.empty()) return std::nullopt;
    for (size_t i = 0; i < placed.size(); ++i)
        if (placed[i] >= 0) std::copy_n(picture.pixel(size_t(placed[i])), 4, picture.pixel(i));
    Patches patches(picture);
    MatchField field = chanceField({picture, patches, filling.whole, filling.sources});
    for (int y = field.area.y; y < field.area.bottom(); ++y)
        for (int x = field.area.x; x < field.area.right(); ++x) {
            const int32_t from = placed[picture.place(x, y)];
            if (from >= 0 && filling.whole[size_t(from)]) field.at(x, y).source = from;
        }
    settle(filling, field, patches, 1, {0, 3, 2}, cancel);
    return field;
}

} // namespace

std::optional<MatchField> complete(WorkPicture& picture, const std::vector<Shift>& beyond,
                                   const std::atomic<bool>* cancel) {
    Filling filling{picture};
    if (filling.sources.empty()) return std::nullopt;
    std::optional<MatchField> field = byPieces(filling, beyond, cancel);
    if (!field && !isCancelled(cancel)) {
        std::vector<WorkPicture> levels = levelsOf(ownRows(picture));
        field = fromCoarse(levels, 0, cancel);
        std::copy(levels.front().samples.begin(), levels.front().samples.end(), picture.samples.begin());
    }
    return isCancelled(cancel) ? std::nullopt : field;
}

void fillSmoothly(WorkPicture& picture) {
    const IntRect area = holeArea(picture);
    WorkPicture left = picture;
    for (std::vector<size_t> rim = rimOf(left, area); !rim.empty(); rim = rimOf(left, area)) {
        for (const size_t target : rim) {
            const int x = int(target) % left.width, y = int(target) / left.width;
            int sum[4] = {}, count = 0;
            for (int dy = -1; dy <= 1; ++dy)
                for (int dx = -1; dx <= 1; ++dx) {
                    const int nx = x + dx, ny = y + dy;
                    if (nx < 0 || ny < 0 || nx >= left.width || ny >= left.height) continue;
                    const size_t from = left.place(nx, ny);
                    if (left.hole[from]) continue;
                    ++count;
                    for (int c = 0; c < 4; ++c) sum[c] += left.pixel(from)[c];
                }
            for (int c = 0; c < 4; ++c) left.pixel(target)[c] = static_cast<int16_t>(sum[c] / count);
        }
        for (const size_t target : rim) left.hole[target] = 0;
    }
    picture.samples = std::move(left.samples);
}

} // namespace glyptos::mending
