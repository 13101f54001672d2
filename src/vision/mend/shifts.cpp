#include "vision/mend/shifts.h"

#include "base/error.h"
#include "vision/mend/chance.h"
#include "vision/mend/patch_match.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <opencv2/imgproc.hpp>
#include <tbb/parallel_for.h>
#include <unordered_map>

// Stands apart, since it needs what the header above declares.
#include <opencv2/imgproc/detail/gcgraph.hpp>

namespace glyptos::mending {
namespace {

/// A patch of the known and the one that it resembles.
struct Likeness {
    int32_t from = -1, to = -1, cost = std::numeric_limits<int32_t>::max();
};

/// Patches on a coarse lattice, each with its nearest likeness that is not its own surroundings.
class LikenessSearch {
  public:
    LikenessSearch(const WorkPicture& picture, const std::vector<uint8_t>& whole, int least)
        : picture_(picture)
        , whole_(whole)
        , patches_(picture)
        , least_(least) {
        constexpr double kMostPatches = 9000;
        step_ = std::max(2, int(std::sqrt(double(picture.width) * picture.height / kMostPatches)));
        columns_ = picture.width / step_, rows_ = picture.height / step_;
        now_.resize(size_t(columns_) * size_t(rows_));
    }

    std::vector<Likeness> found(int rounds) {
        for (int round = 0; round < rounds; ++round) {
            std::vector<Likeness> next = now_;
            tbb::parallel_for(0, rows_, [&](int row) {
                Chance chance(uint32_t(round), uint32_t(row), 77);
                for (int column = 0; column < columns_; ++column)
                    look(next[place(column, row)], column, row, chance);
            });
            now_ = std::move(next);
        }
        return now_;
    }

  private:
    size_t place(int column, int row) const { return size_t(row) * size_t(columns_) + size_t(column); }

    void look(Likeness& l, int column, int row, Chance& chance) const {
        const int x = column * step_ + step_ / 2, y = row * step_ + step_ / 2;
        const size_t at = picture_.place(x, y);
        if (!whole_[at]) return;
        l.from = int32_t(at);
        for (int jump = 1; jump <= 8; jump *= 2)
            for (const auto& [dx, dy] : {std::pair{-1, 0}, {1, 0}, {0, -1}, {0, 1}}) {
                const int c = column + dx * jump, r = row + dy * jump;
                if (c < 0 || r < 0 || c >= columns_ || r >= rows_) continue;
                const Likeness& other = now_[place(c, r)];
                if (other.to >= 0)
                    offer(l, x, y,
                          Shift{other.to % picture_.width - other.from % picture_.width,
                                other.to / picture_.width - other.from / picture_.width});
            }
        for (int i = 0; i < 4; ++i)
            offer(l, x, y,
                  {int(chance.below(size_t(picture_.width))) - x,
                   int(chance.below(size_t(picture_.height))) - y});
        if (l.to < 0) return;
        const Shift now{l.to % picture_.width - x, l.to / picture_.width - y};
        for (int radius = std::max(picture_.width, picture_.height) / 4; radius >= 1; radius /= 2)
            offer(l, x, y, {now.x + chance.within(radius), now.y + chance.within(radius)});
    }

    void offer(Likeness& l, int x, int y, Shift shift) const {
        if (std::max(std::abs(shift.x), std::abs(shift.y)) < least_) return;
        const int sx = x + shift.x, sy = y + shift.y;
        if (sx < 0 || sy < 0 || sx >= picture_.width || sy >= picture_.height) return;
        const size_t to = picture_.place(sx, sy);
        if (!whole_[to]) return;
        const int32_t cost = patches_.cost(size_t(l.from), to, l.cost);
        if (cost < l.cost) l.cost = cost, l.to = int32_t(to);
    }

    const WorkPicture& picture_;
    const std::vector<uint8_t>& whole_;
    Patches patches_;
    int least_, step_ = 2, columns_ = 0, rows_ = 0;
    std::vector<Likeness> now_;
};

struct Counted {
    Shift shift;
    double count;
};

/// How much there is to see in the patch about a place: the mean absolute step from its middle.
double structure(const WorkPicture& picture, size_t place) {
    int sum = 0;
    const int16_t* middle = picture.pixel(place);
    for (int dy = -kReach; dy <= kReach; ++dy)
        for (int dx = -kReach; dx <= kReach; ++dx) {
            const int16_t* p = picture.pixel(size_t(ptrdiff_t(place) + ptrdiff_t(dy) * picture.width + dx));
            for (int c = 0; c < 4; ++c) sum += std::abs(p[c] - middle[c]);
        }
    return double(sum) / kPatchPixels;
}

/// Each shift with how often it, or one a pixel off, was found; patches with much to see count more: one of
/// plain sky resembles any other.
std::vector<Counted> counted(const std::vector<Likeness>& found, const WorkPicture& picture) {
    const int width = picture.width;
    std::unordered_map<int64_t, double> counts;
    const auto key = [](int x, int y) { return (int64_t(y) << 32) ^ int64_t(uint32_t(x)); };
    for (const Likeness& l : found)
        if (l.to >= 0) {
            const int x = l.to % width - l.from % width, y = l.to / width - l.from / width;
            const double weight = 1 + structure(picture, size_t(l.from));
            // What resembles a patch is resembled by it.
            counts[key(x, y)] += weight, counts[key(-x, -y)] += weight;
        }
    std::vector<Counted> out;
    for (const auto& [k, own] : counts) {
        const auto x = int32_t(uint32_t(uint64_t(k))), y = int32_t((k - int64_t(uint32_t(x))) >> 32);
        double sum = 0;
        for (int dy = -1; dy <= 1; ++dy)
            for (int dx = -1; dx <= 1; ++dx) {
                const auto it = counts.find(key(x + dx, y + dy));
                if (it != counts.end()) sum += it->second * (dx == 0 && dy == 0 ? 2 : 1);
            }
        out.push_back({{x, y}, sum});
    }
    std::sort(out.begin(), out.end(), [](const Counted& a, const Counted& b) {
        return a.count != b.count       ? a.count > b.count
               : a.shift.y != b.shift.y ? a.shift.y < b.shift.y
                                        : a.shift.x < b.shift.x;
    });
    return out;
}

/// Squares of the hole that are moved as one.
class Blocks {
  public:
    Blocks(const WorkPicture& picture, const std::vector<Shift>& shifts)
        : picture_(picture)
        , shifts_(shifts)
        , area_(holeArea(picture)) {
        constexpr double kMostBlocks = 2500;
        const auto pixels = double(std::count(picture.hole.begin(), picture.hole.end(), 1));
        side_ = std::max(2, int(std::ceil(std::sqrt(pixels / kMostBlocks))));
        columns_ = (area_.w + side_ - 1) / side_, rows_ = (area_.h + side_ - 1) / side_;
        number_.assign(size_t(columns_) * size_t(rows_), -1);
        for (int row = 0; row < rows_; ++row)
            for (int column = 0; column < columns_; ++column)
                if (holdsHole(square(column, row))) {
                    number_[size_t(row) * size_t(columns_) + size_t(column)] = int(squares_.size());
                    squares_.push_back(square(column, row));
                }
        own_.resize(squares_.size() * shifts.size());
        tbb::parallel_for(size_t(0), squares_.size(), [&](size_t i) {
            for (size_t s = 0; s < shifts_.size(); ++s)
                own_[i * shifts_.size() + s] = ownCost(squares_[i], shifts_[s]);
        });
        for (int row = 0; row < rows_; ++row)
            for (int column = 0; column < columns_; ++column) {
                const int a = numberAt(column, row);
                if (a < 0) continue;
                if (const int b = numberAt(column + 1, row); b >= 0)
                    pairs_.push_back({a, b, seam(column, row, true)});
                if (const int b = numberAt(column, row + 1); b >= 0)
                    pairs_.push_back({a, b, seam(column, row, false)});
            }
    }

    /// The best shift of each block by itself, of those from `first` on wherever one of them can be; empty
    /// when one has none.
    std::vector<size_t> alone(size_t first = 0) const {
        std::vector<size_t> out(squares_.size());
        for (size_t i = 0; i < squares_.size(); ++i) {
            const float *own = own_.data() + i * shifts_.size(), *end = own + shifts_.size();
            out[i] = size_t(std::min_element(own + first, end) - own);
            if (own[out[i]] >= kNever) out[i] = size_t(std::min_element(own, end) - own);
            if (own[out[i]] >= kNever) return {};
        }
        return out;
    }

    double energy(const std::vector<size_t>& labels) const {
        double sum = 0;
        for (size_t i = 0; i < labels.size(); ++i) sum += double(own_[i * shifts_.size() + labels[i]]);
        for (const Pair& pair : pairs_)
            sum += double(seamCost(pair.seam, labels[size_t(pair.a)], labels[size_t(pair.b)]));
        return sum;
    }

    /// One expansion move: whoever gains by it changes to `shift`. True when anyone did.
    bool expand(std::vector<size_t>& labels, size_t shift) const {
        cv::detail::GCGraph<float> graph(unsigned(squares_.size()), unsigned(pairs_.size() * 2));
        for (size_t i = 0; i < squares_.size(); ++i) graph.addVtx();
        // Of the source: keeps its shift. A vertex that goes over to the sink pays what leads to it.
        for (size_t i = 0; i < squares_.size(); ++i)
            graph.addTermWeights(int(i), own_[i * shifts_.size() + shift],
                                 own_[i * shifts_.size() + labels[i]]);
        bool any = false;
        for (const Pair& pair : pairs_) {
            const size_t a = labels[size_t(pair.a)], b = labels[size_t(pair.b)];
            if (a == shift && b == shift) continue;
            any = true;
            const float stay = seamCost(pair.seam, a, b), first = seamCost(pair.seam, shift, b),
                        second = seamCost(pair.seam, a, shift);
            // V(a, b), V(new, b), V(a, new), 0: as terms of one and an edge.
            // E = stay·[a keeps, b keeps] + first·[a new, b keeps] + second·[a keeps, b new]
            const float edge = std::max(first + second - stay, 0.0f);
            // x = 1 where it changes: E = stay + (first - stay)·xa + (second - stay)·xb + (stay - first -
            // second)·xa·xb, and xa·xb = xa - xa·(1 - xb).
            addUnary(graph, pair.a, first - stay + (stay - first - second));
            addUnary(graph, pair.b, second - stay);
            graph.addEdges(pair.b, pair.a, edge, 0);
        }
        if (!any) return false;
        graph.maxFlow();
        bool changed = false;
        for (size_t i = 0; i < squares_.size(); ++i)
            if (!graph.inSourceSegment(int(i)) && labels[i] != shift &&
                own_[i * shifts_.size() + shift] < kNever)
                labels[i] = shift, changed = true;
        return changed;
    }

    std::vector<int32_t> placed(const std::vector<size_t>& labels) const {
        std::vector<int32_t> out(picture_.hole.size(), -1);
        for (size_t i = 0; i < squares_.size(); ++i) {
            const IntRect& q = squares_[i];
            const Shift s = shifts_[labels[i]];
            for (int y = q.y; y < q.bottom(); ++y)
                for (int x = q.x; x < q.right(); ++x)
                    if (picture_.hole[picture_.place(x, y)])
                        out[picture_.place(x, y)] = int32_t(picture_.place(x + s.x, y + s.y));
        }
        return out;
    }

  private:
    static constexpr float kNever = 1e7f, kOutside = 300;
    struct Pair {
        int a, b;
        IntRect seam; ///< the pixels to both sides of their border
    };

    IntRect square(int column, int row) const {
        return IntRect{area_.x + column * side_, area_.y + row * side_, side_, side_}.intersected(area_);
    }
    int numberAt(int column, int row) const {
        return column < columns_ && row < rows_ ? number_[size_t(row) * size_t(columns_) + size_t(column)]
                                                : -1;
    }
    bool holdsHole(const IntRect& q) const {
        for (int y = q.y; y < q.bottom(); ++y)
            for (int x = q.x; x < q.right(); ++x)
                if (picture_.hole[picture_.place(x, y)]) return true;
        return false;
    }
    IntRect seam(int column, int row, bool across) const {
        const IntRect q = square(column, row);
        // Edges that meet at an angle differ little where they meet: along an arc seams are looked at wider.
        const int reach = picture_.own < picture_.height ? 6 : 1;
        return across ? IntRect{q.right() - reach, q.y, 2 * reach, q.h}
                      : IntRect{q.x, q.bottom() - reach, q.w, 2 * reach};
    }
    const int16_t* shifted(int x, int y, const Shift& s) const {
        const int sx = x + s.x, sy = y + s.y;
        if (sx < 0 || sy < 0 || sx >= picture_.width || sy >= picture_.height) return nullptr;
        const size_t at = picture_.place(sx, sy);
        return picture_.hole[at] ? nullptr : picture_.pixel(at);
    }
    static float apart(const int16_t* a, const int16_t* b) {
        if (!a || !b) return kOutside;
        float sum = 0;
        for (int c = 0; c < 4; ++c) sum += float((a[c] - b[c]) * (a[c] - b[c]));
        return std::sqrt(sum);
    }
    /// What its pieces differ by from the known pixels round a block.
    float ownCost(const IntRect& q, const Shift& s) const {
        constexpr int kRound = 2;
        float sum = 0;
        for (int y = q.y - kRound; y < q.bottom() + kRound; ++y)
            for (int x = q.x - kRound; x < q.right() + kRound; ++x) {
                if (x < 0 || y < 0 || x >= picture_.width || y >= picture_.height) continue;
                const bool hole = picture_.hole[picture_.place(x, y)];
                const bool inside = x >= q.x && y >= q.y && x < q.right() && y < q.bottom();
                if (hole && !inside) continue;
                const int16_t* there = shifted(x, y, s);
                if (hole && !there) return kNever;
                if (!hole) sum += apart(there, picture_.pixel(picture_.place(x, y)));
            }
        return sum;
    }
    float seamCost(const IntRect& seam, size_t a, size_t b) const {
        if (a == b) return 0;
        float sum = 0;
        for (int y = seam.y; y < seam.bottom(); ++y)
            for (int x = seam.x; x < seam.right(); ++x)
                sum += apart(shifted(x, y, shifts_[a]), shifted(x, y, shifts_[b]));
        return sum;
    }
    static void addUnary(cv::detail::GCGraph<float>& graph, int i, float changing) {
        // The edge from the source is cut by those that end at the sink: by those that change.
        if (changing > 0)
            graph.addTermWeights(i, changing, 0);
        else
            graph.addTermWeights(i, 0, -changing);
    }

    const WorkPicture& picture_;
    const std::vector<Shift>& shifts_;
    IntRect area_;
    int side_ = 2, columns_ = 0, rows_ = 0;
    std::vector<int> number_;
    std::vector<IntRect> squares_;
    std::vector<float> own_; ///< of each block, of each shift
    std::vector<Pair> pairs_;
};

} // namespace

std::vector<Shift> commonShifts(const WorkPicture& picture, const std::vector<uint8_t>& whole, size_t most) {
    const IntRect hole = holeArea(picture);
    constexpr int kLeast = 8, kParts = 8, kRounds = 4, kApart = 3;
    const int least = std::max(kLeast, std::max(hole.w, hole.h) / kParts);
    const std::vector<Counted> all = counted(LikenessSearch(picture, whole, least).found(kRounds), picture);
    std::vector<Shift> out;
    for (const Counted& c : all) {
        const auto near = [&](const Shift& s) {
            return std::max(std::abs(s.x - c.shift.x), std::abs(s.y - c.shift.y)) < kApart;
        };
        if (std::none_of(out.begin(), out.end(), near)) out.push_back(c.shift);
        if (out.size() == most) break;
    }
    return out;
}

namespace {

/// Made cheaper by expansion moves.
std::vector<size_t> settled(const Blocks& blocks, std::vector<size_t> labels, size_t shifts,
                            const std::atomic<bool>* cancel) {
    constexpr int kSweeps = 2;
    for (int sweep = 0; sweep < kSweeps; ++sweep) {
        bool changed = false;
        for (size_t s = 0; s < shifts && !isCancelled(cancel); ++s)
            changed = blocks.expand(labels, s) || changed;
        if (!changed) break;
    }
    return labels;
}

} // namespace

std::vector<int32_t> placedPieces(const WorkPicture& picture, const Shifts& from,
                                  const std::atomic<bool>* cancel) {
    std::vector<Shift> shifts = from.own;
    shifts.insert(shifts.end(), from.beyond.begin(), from.beyond.end());
    if (shifts.empty()) return {};
    const Blocks blocks(picture, shifts);
    std::vector<size_t> labels = blocks.alone();
    if (labels.empty()) return {};
    labels = settled(blocks, std::move(labels), shifts.size(), cancel);
    if (!from.beyond.empty()) {
        // One move at a time does not lead from pieces of the one kind to those of the other.
        std::vector<size_t> other = settled(blocks, blocks.alone(from.own.size()), shifts.size(), cancel);
        if (blocks.energy(other) < blocks.energy(labels)) labels = std::move(other);
    }
    return blocks.placed(labels);
}

} // namespace glyptos::mending
