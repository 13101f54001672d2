#include "app/hands/bend_hand.h"

#include "app/bench/compose_bench.h"
#include "app/widgets/theme.h"
#include "release/edits/edits.h"
#include "release/placing.h"

#include <cmath>

namespace glyptos {
namespace {

constexpr std::array<Vec2, 4> kUnit{Vec2{0, 0}, {1, 0}, {1, 1}, {0, 1}};

Rect between(Vec2 a, Vec2 b) {
    return {std::min(a.x, b.x), std::min(a.y, b.y), std::abs(a.x - b.x), std::abs(a.y - b.y)};
}

std::array<Vec2, 4> cornersOf(const Rect& r) {
    return {Vec2{r.x, r.y}, {r.right(), r.y}, {r.right(), r.bottom()}, {r.x, r.bottom()}};
}

/// A box turned about its upright and its level axis, seen by an eye at so many of its widths; in shares.
std::array<Vec2, 4> turnedInSpace(double around, double over, double eye, double aspect) {
    const double a = around * std::numbers::pi / 180, o = over * std::numbers::pi / 180;
    std::array<Vec2, 4> out;
    for (size_t i = 0; i < 4; ++i) {
        const double x = kUnit[i].x - 0.5, y = (kUnit[i].y - 0.5) * aspect;
        const double x1 = x * std::cos(a), z1 = x * std::sin(a);
        const double y2 = y * std::cos(o) - z1 * std::sin(o), z2 = y * std::sin(o) + z1 * std::cos(o);
        const double k = eye / std::max(eye + z2, 1e-3);
        out[i] = {0.5 + x1 * k, 0.5 + y2 * k / aspect};
    }
    return out;
}

} // namespace

QString BendHand::sentence() const {
    const bool several = document().layers().size() > 1;
    if (QString why = whyNotWarped(bench_); !why.isEmpty() && !several) return why;
    if (bench_.settings().bend.by == BendBy::Corners)
        return several ? ComposeBench::tr("Drag a corner: all layers in hand are tilted together.")
                       : ComposeBench::tr("Drag a corner to lay it down in perspective.");
    if (several)
        return ComposeBench::tr("Take one layer in hand to bend it; group them to bend them together.");
    return chosen_.empty()
               ? ComposeBench::tr("Drag the points. Shift takes several, or a box round them.")
               : ComposeBench::tr("Drag the points in hand, or the ends of a slope to steer the curve.");
}

std::vector<WarpedLayer> BendHand::inHand() const {
    if (const auto one = warpedLayer(bench_)) return {*one};
    std::vector<WarpedLayer> out;
    const Release& release = *document().shown();
    for (const std::string& id : document().layers()) {
        const LayerPtr layer = findLayer(stackOf(release, document().panel()), id);
        if (!layer || layer->locked || isFrameless(*layer)) continue;
        if (const auto meant = warpedLayer(bench_, layer)) out.push_back(*meant);
    }
    return out;
}

const BendGrid& BendHand::gridOf(const WarpedLayer& meant) const {
    return meant.warp.bend ? meant.warp.bend->grid() : even_;
}

int BendHand::columns() const {
    const auto meant = bench_.panel() ? warpedLayer(bench_) : std::nullopt;
    return meant && meant->warp.bend ? meant->warp.bend->grid().columns : bench_.settings().bend.columns;
}

int BendHand::rows() const {
    const auto meant = bench_.panel() ? warpedLayer(bench_) : std::nullopt;
    return meant && meant->warp.bend ? meant->warp.bend->grid().rows : bench_.settings().bend.rows;
}

Vec2 BendHand::slopeEnd(const BendNode& slopes, Part part) {
    constexpr double kThird = 1.0 / 3; // as of a cubic curve's control point
    switch (part) {
    case Part::Right:
        return slopes.at + *slopes.across * kThird;
    case Part::Left:
        return slopes.at - *slopes.across * kThird;
    case Part::Below:
        return slopes.at + *slopes.down * kThird;
    case Part::Above:
        return slopes.at - *slopes.down * kThird;
    case Part::Point:
        break;
    }
    return slopes.at;
}

std::optional<BendHand::Grip> BendHand::gripAt(const WarpedLayer& meant, Vec2 at) const {
    const Mapping seen = meant.fromShares();
    const Vec2 p = inView(at);
    const auto isNear = [&](Vec2 share) {
        const auto there = seen.map(share);
        return there && (inView(*there) - p).length() < kGripReach;
    };
    if (bench_.settings().bend.by == BendBy::Corners) {
        for (int i = 0; i < 4; ++i)
            if (isNear(kUnit[size_t(i)])) return Grip{i, Part::Point};
        return std::nullopt;
    }
    const BendGrid& grid = gridOf(meant);
    const BendSurface surface(grid);
    for (const int node : chosen_) {
        const BendNode slopes = surface.slopesAt(node % (grid.columns + 1), node / (grid.columns + 1));
        for (const Part part : {Part::Right, Part::Left, Part::Below, Part::Above})
            if (isNear(slopeEnd(slopes, part))) return Grip{node, part};
    }
    for (size_t i = 0; i < grid.nodes.size(); ++i)
        if (isNear(grid.nodes[i].at)) return Grip{int(i), Part::Point};
    return std::nullopt;
}

void BendHand::press(const QMouseEvent& event, Vec2 at) {
    const bool byGrid = bench_.settings().bend.by == BendBy::Grid;
    const auto layers = inHand();
    const QString why = whyNotWarped(bench_);
    if (layers.empty() || (!why.isEmpty() && (byGrid || layers.size() < 2)))
        return void(Q_EMIT document().refused(why));
    const WarpedLayer& first = layers.front();
    const BendSettings& settings = bench_.settings().bend;
    even_ = evenGrid(settings.columns, settings.rows);
    if (std::exchange(chosenOf_, first.layer->id) != first.layer->id) chosen_.clear();
    from_ = to_ = at;
    did_ = false;
    const auto grip = gripAt(first, at);
    const bool more = event.modifiers() & Qt::ShiftModifier;
    begun_.clear();
    if (byGrid) {
        boxing_ = !grip;
        if (!grip) {
            if (!more) chosen_.clear();
            return bench_.update();
        }
        if (grip->part == Part::Point) {
            if (more && chosen_.contains(grip->node)) {
                chosen_.erase(grip->node);
                return bench_.update();
            }
            if (!more && !chosen_.contains(grip->node)) chosen_.clear();
            chosen_.insert(grip->node);
        }
        begun_.push_back({first, {}});
        grip_ = *grip;
        return bench_.update();
    }
    if (!grip) return;
    grip_ = *grip;
    const Mapping seen = first.fromShares();
    for (size_t i = 0; i < 4; ++i) quad_[i] = seen.map(kUnit[i]).value_or(Vec2{});
    for (const WarpedLayer& meant : layers) {
        Begun one{meant, {}};
        const Mapping own = meant.fromShares();
        for (size_t i = 0; i < 4; ++i) one.corners[i] = own.map(kUnit[i]).value_or(Vec2{});
        begun_.push_back(std::move(one));
    }
}

void BendHand::drag(const QMouseEvent&, Vec2 at) {
    to_ = at;
    bench_.update();
    if (boxing_ || begun_.empty()) return;
    if (!did_ && (to_ - from_).length() * bench_.zoom() < kDragStarts) return;
    did_ = true;
    bench_.settings().bend.by == BendBy::Corners ? dragCorner(at) : dragNode(at);
}

/// All layers in hand go through the plane that takes the first one's corners from where they were to where
/// they are.
void BendHand::dragCorner(Vec2 at) {
    std::array<Vec2, 4> next = quad_;
    const Vec2 by = at - from_;
    next[size_t(grip_.node)] = next[size_t(grip_.node)] + by;
    const auto before = Homography::toCorners(quad_), after = Homography::toCorners(next);
    if (!before || !after) return; // it stays as it was until the corners make a plane again
    const Homography plane = *after * *before->inverse();
    ReleasePtr shown = document().release();
    for (const Begun& one : begun_) {
        Warp warp = one.meant.warp;
        warp.corners.emplace();
        const auto back = one.meant.placed.inverse();
        const Rect& box = one.meant.box;
        bool isSeen = true;
        for (size_t i = 0; i < 4; ++i) {
            const auto there = plane.map(one.corners[i]);
            isSeen = isSeen && there;
            if (!there) break;
            const Vec2 own = back->map(*there);
            (*warp.corners)[i] = {(own.x - box.x) / box.w, (own.y - box.y) / box.h};
        }
        if (!isSeen || !Homography::toCorners(*warp.corners)) return;
        shown = withChangedLayer(shown, document().panel(), one.meant.layer->id,
                                 [&](Layer& l) { l = one.meant.with(warp); });
    }
    document().preview(shown);
}

void BendHand::dragNode(Vec2 at) {
    const WarpedLayer& meant = begun_.front().meant;
    const auto from = meant.toShares(from_), to = meant.toShares(at);
    if (!from || !to) return;
    const Vec2 by = *to - *from;
    BendGrid grid = gridOf(meant);
    if (grip_.part == Part::Point) {
        for (const int node : chosen_) grid.nodes[size_t(node)].at = grid.nodes[size_t(node)].at + by;
    } else {
        const BendSurface surface(grid);
        const BendNode slopes =
            surface.slopesAt(grip_.node % (grid.columns + 1), grip_.node / (grid.columns + 1));
        BendNode& node = grid.nodes[size_t(grip_.node)];
        const bool isAcross = grip_.part == Part::Right || grip_.part == Part::Left;
        const double way = grip_.part == Part::Right || grip_.part == Part::Below ? 3 : -3;
        (isAcross ? node.across : node.down) = (isAcross ? *slopes.across : *slopes.down) + by * way;
    }
    Warp warp = meant.warp;
    warp.bend = std::make_shared<const BendSurface>(std::move(grid));
    change(meant.layer, meant.with(std::move(warp)));
}

void BendHand::release() {
    if (std::exchange(boxing_, false)) {
        const auto meant = warpedLayer(bench_);
        if (!meant) return;
        const Mapping seen = meant->fromShares();
        const BendGrid& grid = gridOf(*meant);
        const Rect box = between(inView(from_), inView(to_));
        for (size_t i = 0; i < grid.nodes.size(); ++i)
            if (const auto there = seen.map(grid.nodes[i].at); there && box.contains(inView(*there)))
                chosen_.insert(int(i));
        Q_EMIT bench_.handChanged();
        return bench_.update();
    }
    if (std::exchange(begun_, {}).empty() || !did_) return void(Q_EMIT bench_.handChanged());
    const LayerPtr one = document().selectedLayer();
    const QString name = one && document().layers().size() == 1 ? QString::fromStdString(one->name)
                                                                : ComposeBench::tr("the layers in hand");
    settle((bench_.settings().bend.by == BendBy::Corners ? ComposeBench::tr("Tilt %1")
                                                         : ComposeBench::tr("Bend %1"))
               .arg(name));
}

bool BendHand::cancel() {
    const bool was = !begun_.empty() || boxing_ || !chosen_.empty();
    if (!begun_.empty()) document().preview(nullptr);
    begun_.clear();
    boxing_ = false;
    chosen_.clear();
    bench_.update();
    return was;
}

void BendHand::apply(const QString& name, const QString& merge, const WarpedLayer& meant, Warp next,
                     bool settled) {
    document().edit(name.arg(QString::fromStdString(meant.layer->name)),
                    withChangedLayer(document().release(), document().panel(), meant.layer->id,
                                     [&](Layer& l) { l = meant.with(std::move(next)); }),
                    merge);
    if (settled) document().settle();
    chosen_.clear();
    Q_EMIT bench_.handChanged();
    bench_.update();
}

void BendHand::setCells(int columns, int rows) {
    HandSettings settings = bench_.settings();
    settings.bend.columns = columns, settings.bend.rows = rows;
    bench_.setSettings(settings);
    const auto meant = warpedLayer(bench_);
    if (!meant || !meant->warp.bend || meant->layer->locked) return;
    Warp next = meant->warp;
    next.bend = std::make_shared<const BendSurface>(withCells(meant->warp.bend->grid(), columns, rows));
    apply(ComposeBench::tr("Columns and rows of %1"), {}, *meant, std::move(next), true);
}

void BendHand::bendReady(ReadyBend kind, double amount, bool settled) {
    if (const QString why = whyNotWarped(bench_); !why.isEmpty()) return void(Q_EMIT document().refused(why));
    const auto meant = warpedLayer(bench_);
    Warp next = meant->warp;
    constexpr int kLeastCells = 4; // as many as a ready bend needs to be seen
    next.bend = std::make_shared<const BendSurface>(readyBend(kind, amount, meant->box.h / meant->box.w,
                                                              std::max(columns(), kLeastCells),
                                                              std::max(rows(), kLeastCells)));
    apply(ComposeBench::tr("Bend %1"), QStringLiteral("ready bend"), *meant, std::move(next), settled);
}

void BendHand::tiltByAngles(bool settled) {
    if (const QString why = whyNotWarped(bench_); !why.isEmpty()) return void(Q_EMIT document().refused(why));
    const auto meant = warpedLayer(bench_);
    const BendSettings& s = bench_.settings().bend;
    Warp next = meant->warp;
    const auto corners = turnedInSpace(s.around, s.over, s.eye, meant->box.h / meant->box.w);
    if (!Homography::toCorners(corners))
        return void(Q_EMIT document().refused(
            ComposeBench::tr("Turned so far it is seen from its edge; turn it less, or move the eye away.")));
    const bool isUpright = s.around == 0 && s.over == 0;
    next.corners = isUpright ? std::nullopt : std::optional(corners);
    apply(ComposeBench::tr("Tilt %1"), QStringLiteral("tilt"), *meant, std::move(next), settled);
}

void BendHand::straighten() {
    const auto meant = warpedLayer(bench_);
    if (!meant || meant->layer->locked || (!meant->warp.bend && !meant->warp.corners))
        return void(
            Q_EMIT document().refused(ComposeBench::tr("The layer in hand is neither bent nor tilted.")));
    Warp next = meant->warp;
    next.bend = nullptr, next.corners = std::nullopt;
    apply(ComposeBench::tr("Straighten %1"), {}, *meant, std::move(next), true);
}

void BendHand::paint(QPainter& painter) {
    const auto layers = inHand();
    if (layers.empty()) return;
    const WarpedLayer& meant = layers.front();
    const Mapping seen = meant.fromShares();
    const auto view = [&](Vec2 share) { return inView(seen.map(share).value_or(Vec2{-1e6, -1e6})); };
    if (bench_.settings().bend.by == BendBy::Corners) {
        std::array<Vec2, 4> corners;
        for (size_t i = 0; i < 4; ++i) corners[i] = view(kUnit[i]);
        paintOutline(painter, corners);
        for (const Vec2& c : corners) paintRoundGrip(painter, c);
        return;
    }
    if (document().layers().size() > 1) return;
    if (begun_.empty()) even_ = evenGrid(bench_.settings().bend.columns, bench_.settings().bend.rows);
    const BendSurface surface(gridOf(meant));
    const BendGrid& grid = surface.grid();
    QPainterPath lines;
    const auto line = [&](const std::function<Vec2(double)>& at, int cells) {
        const int steps = 12 * cells;
        QPolygonF points;
        for (int i = 0; i <= steps; ++i) points << toQt(view(surface.at(at(double(i) / steps)).at));
        lines.addPolygon(points);
    };
    for (int r = 0; r <= grid.rows; ++r)
        line([&](double t) { return Vec2{t, double(r) / grid.rows}; }, grid.columns);
    for (int c = 0; c <= grid.columns; ++c)
        line([&](double t) { return Vec2{double(c) / grid.columns, t}; }, grid.rows);
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(QColor(255, 255, 255, 150), 2.6));
    painter.drawPath(lines);
    painter.setPen(QPen(theme().accent, 1));
    painter.drawPath(lines);
    for (const int node : chosen_) {
        if (size_t(node) >= grid.nodes.size()) continue;
        const BendNode slopes = surface.slopesAt(node % (grid.columns + 1), node / (grid.columns + 1));
        for (const auto& [a, b] : {std::pair{Part::Left, Part::Right}, {Part::Above, Part::Below}}) {
            paintWay(painter, view(slopeEnd(slopes, a)), view(slopeEnd(slopes, b)));
            paintSmallGrip(painter, view(slopeEnd(slopes, a)));
            paintSmallGrip(painter, view(slopeEnd(slopes, b)));
        }
    }
    for (size_t i = 0; i < grid.nodes.size(); ++i)
        chosen_.contains(int(i)) ? paintRoundGrip(painter, view(grid.nodes[i].at), theme().accent)
                                 : paintSquareGrip(painter, view(grid.nodes[i].at));
    if (boxing_) {
        auto corners = cornersOf(between(from_, to_));
        for (Vec2& c : corners) c = inView(c);
        paintOutline(painter, corners);
    }
}

} // namespace glyptos
