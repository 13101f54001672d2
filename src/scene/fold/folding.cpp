#include "scene/fold/folding.h"
#include "scene/fold/printed_sides.h"

#include <deque>
#include <numeric>
#include <set>

namespace glyptos {
namespace {

constexpr double kFlatFold = 170; // degrees: from here on board lies on board
constexpr double kTucked = 1.25;  // thicknesses by which a glue flap goes in behind what it is glued to

/// The panel that prints on the other side of one.
std::optional<size_t> behind(const Flat& flat, size_t panel) {
    for (size_t i = 0; i < flat.panels.size(); ++i) {
        const auto& sheet = flat.sheets[flat.panels[i].sheet];
        if (sheet.behind == flat.panels[panel].sheet &&
            flat.panels[i].id == kInsidePrefix + flat.panels[panel].id)
            return i;
    }
    return std::nullopt;
}

bool isFlatFold(const Fold& fold) {
    return fold.angle >= kFlatFold;
}

/// How many layers lie on a part, on the inner side of its board, before the folds of `order`.
int layersOn(const Flat& flat, BoardPart part, std::optional<BoardPart> without, int order) {
    int most = 0;
    for (const Fold& fold : flat.folds) {
        if (!isFlatFold(fold) || fold.order >= order) continue;
        for (const auto& [a, b] : fold.joins) {
            if (a != part && b != part) continue;
            const BoardPart other = a == part ? b : a;
            if (other != without) most = std::max(most, 1 + layersOn(flat, other, part, fold.order));
        }
    }
    return most;
}

/// Layers that lie between what a fold brings together.
int layersBetween(const Flat& flat, const Fold& fold) {
    if (!isFlatFold(fold)) return 0;
    int most = 0;
    for (const auto& [a, b] : fold.joins)
        most = std::max(most, layersOn(flat, a, b, fold.order) + layersOn(flat, b, a, fold.order));
    return most;
}

/// Whether it is among the last of the flat folds between panels.
bool isPocket(const Flat& flat, const Fold& fold) {
    const auto brings = [&](const Fold& f) {
        return isFlatFold(f) && std::any_of(f.joins.begin(), f.joins.end(), [&](const auto& join) {
                   return std::max(join.first, join.second) < flat.panels.size();
               });
    };
    return brings(fold) && std::none_of(flat.folds.begin(), flat.folds.end(),
                                        [&](const Fold& f) { return f.order > fold.order && brings(f); });
}

/// Of folds that close a ring those that come first hold it: what was folded together stays so.
std::vector<Folding::Join> joinsThatHold(const Flat& flat, size_t boards) {
    std::vector<Folding::Join> all, out;
    for (size_t f = 0; f < flat.folds.size(); ++f)
        for (const auto& [a, b] : flat.folds[f].joins) all.push_back({f, a, b});
    std::stable_sort(all.begin(), all.end(), [&](const Folding::Join& a, const Folding::Join& b) {
        return flat.folds[a.fold].order < flat.folds[b.fold].order;
    });
    std::vector<size_t> group(boards);
    std::iota(group.begin(), group.end(), size_t(0));
    for (const Folding::Join& join : all) {
        const size_t from = group[join.a], to = group[join.b];
        if (from == to) continue;
        out.push_back(join);
        std::replace(group.begin(), group.end(), from, to);
    }
    return out;
}

double areaOf(const Board& board) {
    return board.outline.box.w * board.outline.box.h;
}

} // namespace

Folding::Folding(const Flat& flat, double filling)
    : thickness_(flat.thickness)
    , filling_(filling) {
    if (flat.bound) {
        addLeaves(flat);
        findRims();
        return;
    }
    addBoards(flat);
    findRims();
    std::set<int> orders;
    for (const Fold& fold : flat.folds) orders.insert(fold.order);
    for (const Fold& fold : flat.folds)
        orders_.push_back(int(std::distance(orders.begin(), orders.find(fold.order))));
    steps_ = int(orders.size());
    // The front stays where it is; of other sheets the largest part does.
    std::vector<bool> there(boards_.size());
    for (size_t i = 0; i < boards_.size(); ++i) there[i] = areaOf(boards_[i]) <= 0;
    rests_.resize(boards_.size());
    const std::vector<Join> tree = joinsThatHold(flat, boards_.size());
    hang(flat, tree, flat.front, there);
    while (std::find(there.begin(), there.end(), false) != there.end()) {
        size_t root = boards_.size();
        for (size_t i = 0; i < boards_.size(); ++i)
            if (!there[i] && (root == boards_.size() || areaOf(boards_[i]) > areaOf(boards_[root]))) root = i;
        hang(flat, tree, root, there);
    }
}

/// One for each panel and flap of the flat, at the same places; those of other sides have no area.
void Folding::addBoards(const Flat& flat) {
    for (size_t i = 0; i < flat.panels.size(); ++i) {
        const Panel& panel = flat.panels[i];
        Board board;
        if (!flat.sheets[panel.sheet].behind) {
            board.outline = panel.outline.mapped(panel.toFlat());
            for (const Outline& hole : panel.cutouts) board.holes.push_back(hole.mapped(panel.toFlat()));
            board.face = PrintedSide{i, ontoPanel(panel)};
            if (const auto other = behind(flat, i)) board.back = backOf(flat, *other, panel.onFlat);
        }
        boards_.push_back(std::move(board));
    }
    for (const Flap& flap : flat.flaps) boards_.push_back({flap.outline, {}, {}, {}});
}

void Folding::findRims() {
    constexpr double kTolerance = 0.05; // units
    for (Board& board : boards_)
        if (!board.outline.box.empty())
            board.rim = flattened(without(board.outline, board.holes), kTolerance);
}

void Folding::hang(const Flat& flat, const std::vector<Join>& tree, size_t root, std::vector<bool>& there) {
    std::deque<size_t> open{root};
    there[root] = true;
    while (!open.empty()) {
        const size_t parent = open.front();
        open.pop_front();
        for (const Join& join : tree) {
            if (join.a != parent && join.b != parent) continue;
            const size_t child = join.a == parent ? join.b : join.a;
            if (there[child]) continue;
            hinges_.push_back(hinge(flat, join.fold, parent, child));
            there[child] = true;
            open.push_back(child);
        }
    }
}

Hinge Folding::hinge(const Flat& flat, size_t place, size_t parent, size_t child) const {
    const Fold& fold = flat.folds[place];
    const bool mountain = fold.kind == FoldKind::Mountain;
    const double gap = (layersBetween(flat, fold) * thickness_ + (isPocket(flat, fold) ? filling_ : 0)) / 2;
    Hinge out;
    out.parent = parent, out.child = child, out.fold = place, out.angle = fold.angle;
    out.at = {fold.from.x, fold.from.y, mountain ? -thickness_ - gap : gap};
    const Vec2 line = fold.to - fold.from, away = boards_[child].outline.box.centre() - fold.from;
    out.axis = Vec3{line.x, line.y, 0}.unit();
    const bool right = out.axis.x * away.y - out.axis.y * away.x > 0; // of the line
    const Vec3 outwards = Vec3{-out.axis.y, out.axis.x, 0} * (right ? 1 : -1);
    const bool tucked = child >= flat.panels.size() && !isFlatFold(fold);
    if (tucked) out.at = out.at - outwards * (kTucked * thickness_);
    // The child turns away from the viewer at a mountain fold.
    if (right == mountain) out.axis = out.axis * -1;
    return out;
}

FoldShares Folding::sharesAt(double at) const {
    FoldShares out;
    for (const int order : orders_) out.push_back(gentle(std::clamp(at, 0.0, 1.0) * steps_ - order));
    return out;
}

std::vector<Pose> Folding::poses(const FoldShares& shares) const {
    std::vector<Pose> out = rests_;
    for (const Hinge& hinge : hinges_) {
        const Pose turn = turnedAbout(hinge.at, hinge.axis, hinge.angle * shares[hinge.fold]);
        out[hinge.child] = (hinge.parent ? out[*hinge.parent] * turn : turn) * rests_[hinge.child];
    }
    return out;
}

} // namespace glyptos
