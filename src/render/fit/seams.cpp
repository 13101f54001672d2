#include "render/fit/seams.h"

#include "base/text.h"
#include "color/difference.h"
#include "release/edits/edits.h"
#include "release/package/package.h"
#include "release/placing.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <numeric>

namespace glyptos {
namespace {

constexpr double kPxPerMm = 8, kPxPerScreenPx = 1;
constexpr int kDeep = 4; // px beside the fold
/// What each of those rows, the nearest first, counts of the colour right at the fold: the straight line
/// through them (least squares), so that what runs across at a slant is not taken for moved.
constexpr float kAtFold[kDeep] = {0.85F, 0.45F, 0.05F, -0.35F};
constexpr int kFarthest = 160;  // px along it
constexpr double kPlain = 1.0;  // of L*a*b*: less than this along the fold says nothing of where it stands
constexpr double kAlike = 0.6;  // least correlation of what is one picture
constexpr double kBetter = 0.6; // of what is unlike where nothing is moved: most that a shift may leave
constexpr float kWhole = 0.98F; // alpha of art

/// Colours along one side of a fold, and whether there is art.
struct Side {
    std::vector<Lab> colours;
    bool whole = true;
};

/// From the flat to pixels along the fold (x) and across it (y), the fold at y = kDeep.
Affine toStrip(const Seam& seam, double scale) {
    const Vec2 way = seam.to - seam.from;
    const double length = way.length(), c = way.x / length, s = way.y / length;
    return Affine::translation(0, kDeep) * Affine::scaling(scale, scale) * Affine{c, -s, s, c, 0, 0} *
           Affine::translation(-seam.from.x, -seam.from.y);
}

/// What of a fold two panels share: where both reach along it.
Seam between(const Fold& fold, const Panel& a, const Panel& b) {
    const Vec2 way = fold.to - fold.from;
    const double length = way.length();
    double from = 0, to = length;
    for (const Panel* panel : {&a, &b}) {
        const Rect& r = panel->onFlat;
        double low = 1e12, high = -1e12;
        for (const Vec2 p :
             {Vec2{r.x, r.y}, Vec2{r.right(), r.y}, Vec2{r.right(), r.bottom()}, Vec2{r.x, r.bottom()}}) {
            const double along = ((p.x - fold.from.x) * way.x + (p.y - fold.from.y) * way.y) / length;
            low = std::min(low, along), high = std::max(high, along);
        }
        from = std::max(from, low), to = std::min(to, high);
    }
    Seam out;
    out.fold = fold.id, out.one = a.id, out.other = b.id, out.otherName = b.name;
    out.from = fold.from + way * (from / length), out.to = fold.from + way * (to / length);
    return out;
}

/// Both sides, right at the fold.
std::array<Side, 2> sidesOf(Renderer& renderer, const Scene& scene, int length,
                            const std::atomic<bool>* cancel) {
    std::array<Side, 2> out;
    std::vector<std::vector<float>> rows(size_t(2 * kDeep), std::vector<float>(size_t(length) * 4));
    renderer.render(
        scene, {0, 0, length, 2 * kDeep},
        [&](int y, int x, const RowPlanes& row, size_t n) {
            for (size_t i = 0; i < n; ++i)
                for (size_t c = 0; c < 4; ++c) rows[size_t(y)][(size_t(x) + i) * 4 + c] = row.c[c][i];
        },
        cancel);
    for (size_t side = 0; side < 2; ++side)
        for (size_t x = 0; x < size_t(length); ++x) {
            std::array<float, 4> sum{};
            for (size_t d = 0; d < kDeep; ++d) {
                const size_t y = side == 0 ? kDeep - 1 - d : kDeep + d;
                for (size_t c = 0; c < 4; ++c) sum[c] += rows[y][x * 4 + c] * kAtFold[d];
            }
            out[side].whole = out[side].whole && sum[3] > kWhole;
            const float alpha = std::max(sum[3], 1e-3F);
            out[side].colours.push_back(toLab({sum[0] / alpha, sum[1] / alpha, sum[2] / alpha, 1}));
        }
    return out;
}

using Curve = std::vector<std::array<double, 3>>;

Curve curveOf(const std::vector<Lab>& colours) {
    Curve out;
    for (const Lab& c : colours) out.push_back({c.L, c.a, c.b});
    return out;
}

/// How far colours stray from their mean, over the part [from, to).
double spreadOf(const Curve& curve, size_t from, size_t to, std::array<double, 3>& mean) {
    mean = {};
    for (size_t i = from; i < to; ++i)
        for (size_t c = 0; c < 3; ++c) mean[c] += curve[i][c] / double(to - from);
    double sum = 0;
    for (size_t i = from; i < to; ++i)
        for (size_t c = 0; c < 3; ++c) sum += (curve[i][c] - mean[c]) * (curve[i][c] - mean[c]);
    return std::sqrt(sum / double(to - from));
}

/// Correlation of a[i] with b[i + shift] over where both are; 0 where either is plain.
double correlation(const Curve& a, const Curve& b, int shift) {
    const size_t from = size_t(std::max(0, -shift)), to = a.size() - size_t(std::max(0, shift));
    std::array<double, 3> meanA{}, meanB{};
    const double spreadA = spreadOf(a, from, to, meanA);
    const auto other = [&](size_t i) { return size_t(ptrdiff_t(i) + shift); };
    const double spreadB = spreadOf(b, other(from), other(to), meanB);
    if (spreadA < kPlain || spreadB < kPlain) return 0;
    double sum = 0;
    for (size_t i = from; i < to; ++i)
        for (size_t c = 0; c < 3; ++c) sum += (a[i][c] - meanA[c]) * (b[other(i)][c] - meanB[c]);
    return sum / double(to - from) / (spreadA * spreadB);
}

/// The place of the top of a parabola through three values a step apart, from the middle one.
double topBetween(double before, double at, double after) {
    const double bend = before - 2 * at + after;
    return bend < 0 ? std::clamp(0.5 * (before - after) / bend, -0.5, 0.5) : 0;
}

double stepAt(const std::vector<Lab>& a, const std::vector<Lab>& b, int shift) {
    double sum = 0;
    int count = 0;
    for (int i = std::max(0, -shift); i < int(a.size()) && i + shift < int(b.size()); ++i, ++count)
        sum += ciede2000(a[size_t(i)], b[size_t(ptrdiff_t(i) + shift)]);
    return count > 0 ? sum / count : 0;
}

void compare(const Side& one, const Side& other, double scale, Seam& seam) {
    seam.hasArt = one.whole && other.whole;
    if (!seam.hasArt) return;
    seam.step = seam.least = stepAt(one.colours, other.colours, 0);
    const int farthest = std::min(kFarthest, int(one.colours.size()) / 4);
    const Curve a = curveOf(one.colours), b = curveOf(other.colours);
    std::vector<double> all;
    for (int shift = -farthest; shift <= farthest; ++shift) all.push_back(correlation(a, b, shift));
    const auto at = [&](int shift) { return all[size_t(ptrdiff_t(shift) + farthest)]; };
    int best = int(std::max_element(all.begin(), all.end()) - all.begin()) - farthest;
    if (1 - at(best) > kBetter * (1 - at(0))) best = 0;
    seam.alike = std::max(0.0, at(best));
    if (at(best) < kAlike) return;
    const bool inside = best > -farthest && best < farthest;
    const double top = inside ? best + topBetween(at(best - 1), at(best), at(best + 1)) : best;
    seam.offset = top / scale;
    seam.least = stepAt(one.colours, other.colours, best);
}

/// Where the free edge of one of a strip's panels lies on the sleeve's panel of that name.
struct FreeEdge {
    Seam seam;          ///< along it the strip lies on the side of smaller y of toStrip()
    size_t own, sleeve; ///< panels of the flats
    Affine sleeveToOwn; ///< flats
};
std::optional<FreeEdge> freeEdge(const Piece& strip, const Piece& sleeve, const std::string& id) {
    const Panel *a = strip.flat->panel(id), *b = sleeve.flat->panel(id);
    if (!a || !b || b->width <= a->width) return std::nullopt;
    // Both meet at the sleeve's spine: the front's at the left, the back's at the right.
    const bool front = a == &strip.flat->frontPanel();
    const double edge = front ? a->width : 0;
    const Vec2 onSleeve{front ? 0 : b->width - a->width, (b->height - a->height) / 2};
    const Vec2 top = a->toFlat().map({edge, 0}), bottom = a->toFlat().map({edge, a->height});
    FreeEdge out;
    out.seam.fold = "edge of " + id, out.seam.one = out.seam.other = id;
    out.seam.otherPiece = sleeve.id, out.seam.otherName = sleeve.name + ", " + b->name;
    out.seam.from = front ? bottom : top, out.seam.to = front ? top : bottom;
    out.own = size_t(a - strip.flat->panels.data()), out.sleeve = size_t(b - sleeve.flat->panels.data());
    out.sleeveToOwn = a->toFlat() * Affine::translation(-onSleeve.x, -onSleeve.y) *
                      b->toFlat().inverse().value_or(Affine{});
    return out;
}

/// Of a strip that lies round a sleeve, where it ends on that.
void addEdges(Renderer& renderer, const ReleasePtr& release, const Piece& strip, double scale,
              const std::atomic<bool>* cancel, std::vector<Seam>& to) {
    const auto package = packageOf(*release, strip.id);
    if (!package || !package->sleeve || !package->strip || package->strip->id != strip.id) return;
    for (const char* id : {"front", "back"}) {
        auto edge = freeEdge(strip, *package->sleeve, id);
        if (!edge || isCancelled(cancel)) continue;
        const Affine own = toStrip(edge->seam, scale);
        const int length = int((edge->seam.to - edge->seam.from).length() * scale);
        const auto near = sidesOf(renderer, mappedScene(release, strip.id, {edge->own}, own), length, cancel);
        const auto far = sidesOf(
            renderer, mappedScene(release, package->sleeve->id, {edge->sleeve}, own * edge->sleeveToOwn),
            length, cancel);
        compare(near[0], far[1], scale, edge->seam);
        to.push_back(std::move(edge->seam));
    }
}

} // namespace

std::vector<Seam> seamsOf(Renderer& renderer, const ReleasePtr& release, const std::string& id,
                          const std::atomic<bool>* cancel) {
    std::vector<Seam> out;
    const PiecePtr piece = release->piece(id);
    if (!piece) return out;
    const Flat& flat = *piece->flat;
    const double scale = flat.unit == Unit::Mm ? kPxPerMm : kPxPerScreenPx;
    for (const Fold& fold : flat.folds)
        for (const auto& [a, b] : fold.joins) {
            if (std::max(a, b) >= flat.panels.size()) continue; // a flap has no art
            if (isCancelled(cancel)) return out;
            Seam seam = between(fold, flat.panels[a], flat.panels[b]);
            const int length = int((seam.to - seam.from).length() * scale);
            if (length < 8) continue;
            const Scene scene = mappedScene(release, id, {a, b}, toStrip(seam, scale));
            const auto sides = sidesOf(renderer, scene, length, cancel);
            compare(sides[0], sides[1], scale, seam);
            out.push_back(std::move(seam));
        }
    addEdges(renderer, release, *piece, scale, cancel, out);
    return out;
}

bool isOff(const Seam& seam, Unit unit) {
    constexpr double kMeetsMm = 0.15, kMeetsPx = 1;
    return std::abs(seam.offset.value_or(0)) > (unit == Unit::Mm ? kMeetsMm : kMeetsPx);
}

std::string sentenceOf(const Seam& seam, Unit unit) {
    constexpr double kSeen = 2.3; // of CIEDE2000: just seen side by side
    if (!seam.hasArt) return "no art on both sides yet";
    std::string out;
    if (isOff(seam, unit))
        out = "off by " + shortNumber(std::abs(*seam.offset), 1) + (unit == Unit::Mm ? " mm" : " px");
    if (seam.least > kSeen)
        out += (out.empty() ? "" : ", ") + std::string("colours ") + shortNumber(seam.least, 1) + " apart";
    return out.empty() ? "meets" : out;
}

ReleasePtr withSeamAligned(const ReleasePtr& release, const PanelRef& moving, const Seam& seam,
                           ParagraphCache& paragraphs) {
    const PiecePtr piece = release->piece(moving.piece);
    const Panel* panel = piece ? piece->flat->panel(moving.panel) : nullptr;
    if (!panel || (moving.panel != seam.one && (moving.panel != seam.other || !seam.otherPiece.empty())) ||
        !seam.offset || *seam.offset == 0)
        return release;
    const Affine toPanel = *panel->toFlat().inverse();
    const Vec2 way = seam.to - seam.from;
    const double offset = moving.panel == seam.one ? *seam.offset : -*seam.offset;
    const Vec2 by = toPanel.mapVector(way * (offset / way.length()));
    const Vec2 a = toPanel.map(seam.from), b = toPanel.map(seam.to);
    const Rect edge =
        Rect{std::min(a.x, b.x), std::min(a.y, b.y), std::abs(a.x - b.x), std::abs(a.y - b.y)}.grown(1e-3);
    ReleasePtr next = release;
    for (const LayerPtr& layer : stackOf(*release, moving)) {
        const Rect bounds = frameOf(*layer, *release, panel->withBleed(), paragraphs).bounds();
        if (layer->locked || !layer->on || bounds.intersected(edge).empty()) continue;
        next = withChangedLayer(next, moving, layer->id, [&](Layer& l) { l = moved(std::move(l), by); });
    }
    return next;
}

} // namespace glyptos
