#include "app/hands/shape_hand.h"

#include "app/bench/compose_bench.h"
#include "app/bench/shape_painting.h"
#include "app/widgets/theme.h"
#include "release/edits/edits.h"
#include "release/paths/contour_nodes.h"
#include "release/placing.h"

#include <cmath>
#include <numbers>

namespace glyptos {
namespace {

bool isPath(const Layer& layer) {
    const auto* shape = layer.as<ShapeContent>();
    return shape && shape->kind == ShapeKind::Free;
}

} // namespace

const ShapeContent* ShapeHand::path() const {
    const LayerPtr one = layer();
    if (!one || !isPath(*one)) return nullptr;
    const ShapeContent& next = bench_.shapeToDraw();
    const bool drawsPaths = next.kind == ShapeKind::Free && next.contours.empty();
    return drawsPaths || nodesOf_ == one->id ? one->as<ShapeContent>() : nullptr;
}

QString ShapeHand::sentence() const {
    if (doing_ == Doing::Pathing)
        return ComposeBench::tr(
            "Click adds a node, dragging bends it. Enter ends the path; the first node closes it.");
    if (bench_.shapeToDraw().kind == ShapeKind::Free && bench_.shapeToDraw().contours.empty())
        return ComposeBench::tr("Click node by node. Nodes of the path in hand can be dragged.");
    if (layer() && isPath(*layer()) && !path())
        return ComposeBench::tr("Drag out a shape; a double click on the path in hand shows its nodes.");
    if (bench_.shapeToDraw().kind == ShapeKind::Free)
        return ComposeBench::tr(
            "Drag out the ornament; Shift frees its proportions, Alt draws from the middle.");
    return ComposeBench::tr("Drag out the shape; Shift keeps it even, Alt draws from the middle.");
}

std::optional<ShapeHand::NodeRef> ShapeHand::nodeAt(QPointF p) const {
    const ShapeContent* shape = path();
    if (!shape) return std::nullopt;
    const Affine map = bench_.toView() * placementMap(layer()->placement);
    const Vec2 at{p.x(), p.y()};
    for (const Part part : {Part::At, Part::After, Part::Before})
        for (size_t c = 0; c < shape->contours.size(); ++c)
            for (size_t n = 0; n < shape->contours[c].nodes.size(); ++n) {
                const PathNode& node = shape->contours[c].nodes[n];
                const Vec2 way = part == Part::After    ? node.after
                                 : part == Part::Before ? node.before
                                                        : Vec2{};
                if (part != Part::At && way.length() < 1e-9) continue;
                if ((at - map.map(node.at + way)).length() < kGripReach) return NodeRef{c, n, part};
            }
    return std::nullopt;
}

void ShapeHand::press(const QMouseEvent& event, Vec2 at) {
    from_ = pointer_ = at;
    moving_ = false;
    if (doing_ == Doing::Pathing) {
        const bool closes =
            sketch_.nodes.size() > 2 && (inView(sketch_.nodes[0].at) - inView(at)).length() < kGripReach;
        if (closes) return finishPath(true);
        sketch_.nodes.push_back({at, {}, {}});
        handling_ = true;
        return bench_.update();
    }
    if (const auto node = nodeAt(event.position())) {
        doing_ = Doing::Node;
        held_ = *node;
        inHand_ = node;
        start_ = layer();
        return bench_.update();
    }
    inHand_.reset();
    const ShapeContent& shape = bench_.shapeToDraw();
    if (shape.kind == ShapeKind::Free && shape.contours.empty()) {
        doing_ = Doing::Pathing;
        sketch_ = {{{at, {}, {}}}, false};
        handling_ = true;
        Q_EMIT bench_.handChanged();
        return bench_.update();
    }
    doing_ = Doing::Drawing;
}

Layer ShapeHand::drawn(Vec2 to, Qt::KeyboardModifiers keys) const {
    Layer out;
    ShapeContent shape = bench_.shapeToDraw();
    out.name = bench_.shapeName().toStdString();
    Vec2 from = from_, way = to - from;
    if (shape.kind == ShapeKind::Line) {
        double turn = std::atan2(way.y, way.x) * 180 / std::numbers::pi;
        if (keys & Qt::ShiftModifier) turn = std::round(turn / 15) * 15;
        const Vec2 along = Affine::rotation(turn).mapVector({way.length(), 0});
        shape.width = std::max(along.length(), 1e-3);
        out.placement.turn = turn;
        out.placement.position = from + along * (keys & Qt::AltModifier ? 0 : 0.5);
        if (keys & Qt::AltModifier) shape.width *= 2;
    } else {
        // An ornament keeps its shape unless it is freed; others are even when asked to be.
        const bool ornament = shape.kind == ShapeKind::Free;
        if (bool(keys & Qt::ShiftModifier) != ornament) {
            const double even = ornament ? shape.height / std::max(shape.width, 1e-9) : 1;
            const double side = std::max(std::abs(way.x), std::abs(way.y) / even);
            way = {std::copysign(side, way.x), std::copysign(side * even, way.y)};
        }
        out.placement.position = keys & Qt::AltModifier ? from : from + way * 0.5;
        if (keys & Qt::AltModifier) way = way * 2;
        shape = stretched(shape, std::max(std::abs(way.x), 1e-3) / shape.width,
                          std::max(std::abs(way.y), 1e-3) / shape.height);
    }
    out.content = shape;
    return out;
}

void ShapeHand::showDrawn(const Layer& layer) {
    const Made shown = withLayer(document().release(), document().panel(), layer, document().layer());
    drawing_ = shown.id;
    document().preview(shown);
}

void ShapeHand::drag(const QMouseEvent& event, Vec2 at) {
    pointer_ = at;
    if (!moving_ && (at - from_).length() * bench_.zoom() < kDragStarts) return;
    moving_ = true;
    if (doing_ == Doing::Drawing) return showDrawn(drawn(at, event.modifiers()));
    if (doing_ == Doing::Pathing && handling_) {
        PathNode& node = sketch_.nodes.back();
        node.after = at - node.at;
        node.before = node.after * -1;
        return bench_.update();
    }
    if (doing_ != Doing::Node) return;
    const auto back = placementMap(start_->placement).inverse();
    if (!back) return;
    const Vec2 by = back->mapVector(at - from_);
    changePath(
        start_, {},
        [&](ShapeContent& s) {
            PathNode& node = s.contours[held_.contour].nodes[held_.node];
            if (held_.part == Part::At) return void(node.at = node.at + by);
            Vec2& here = held_.part == Part::After ? node.after : node.before;
            Vec2& there = held_.part == Part::After ? node.before : node.after;
            const bool smooth = there.length() > 1e-9 && !(event.modifiers() & Qt::AltModifier) &&
                                (here * (1 / here.length()) + there * (1 / there.length())).length() < 1e-3;
            here = here + by;
            if (smooth && here.length() > 1e-9) there = here * (-there.length() / here.length());
        },
        false);
}

void ShapeHand::hover(Vec2 at) {
    pointer_ = at;
    if (doing_ == Doing::Pathing) bench_.update();
}

void ShapeHand::changePath(const LayerPtr& start, const QString& name,
                           const std::function<void(ShapeContent&)>& edit, bool settled) {
    Layer next = *start;
    auto* shape = std::get_if<ShapeContent>(&next.content);
    if (!shape) return;
    edit(*shape);
    Vec2 moved;
    *shape = reframed(std::move(*shape), moved);
    next.placement.position = next.placement.position + placementMap(next.placement).mapVector(moved);
    change(start, next);
    if (settled) settle(name);
}

void ShapeHand::release() {
    handling_ = false;
    if (doing_ == Doing::Pathing || doing_ == Doing::Nothing) return;
    const Doing done = std::exchange(doing_, Doing::Nothing);
    if (!std::exchange(moving_, false)) {
        // A click that drew nothing takes what is there in hand.
        if (done == Doing::Drawing) {
            const auto under = bench_.layersAt(from_);
            document().selectLayer(under.empty() ? std::string() : under.front());
        }
        return;
    }
    if (done == Doing::Node)
        return settle(ComposeBench::tr("Bend %1").arg(QString::fromStdString(start_->name)));
    settle(ComposeBench::tr("Draw a shape: %1").arg(bench_.shapeName()));
    document().selectLayer(drawing_);
}

void ShapeHand::finishPath(bool closed) {
    doing_ = Doing::Nothing;
    handling_ = false;
    Contour done = std::exchange(sketch_, {});
    Q_EMIT bench_.handChanged();
    bench_.update();
    if (done.nodes.size() < 2) return;
    done.closed = closed;
    ShapeContent shape = bench_.shapeToDraw();
    shape.contours = {std::move(done)};
    if (!closed) {
        // An open path has no inside; what would fill it becomes its stroke.
        if (!shape.stroke) {
            shape.stroke = StrokeStyle{};
            shape.stroke->paint = shape.fill.value_or(Rgba{});
            shape.stroke->width = 3 / bench_.zoom();
        }
        shape.fill.reset();
    }
    Layer layer;
    layer.name = bench_.shapeName().toStdString();
    layer.content = reframed(std::move(shape), layer.placement.position);
    showDrawn(layer);
    settle(ComposeBench::tr("Draw a shape: %1").arg(bench_.shapeName()));
    document().selectLayer(drawing_);
}

/// A node where the path in hand was double-clicked; on a node: a corner becomes smooth and back.
void ShapeHand::doubleClick(Vec2 at) {
    // The first of the two clicks has put the last node there.
    if (doing_ == Doing::Pathing) return finishPath(false);
    if (path()) return addNode(at);
    if (const LayerPtr one = layer(); one && isPath(*one)) {
        nodesOf_ = one->id;
        Q_EMIT bench_.handChanged();
        bench_.update();
    }
}

void ShapeHand::addNode(Vec2 at) {
    const LayerPtr start = layer();
    const Affine map = bench_.toView() * placementMap(start->placement);
    const Vec2 here = inView(at);
    const QString name = QString::fromStdString(start->name);
    if (const auto node = nodeAt(toQt(here)); node && node->part == Part::At)
        return changePath(
            start, ComposeBench::tr("Smooth %1").arg(name),
            [&](ShapeContent& s) {
                Contour& contour = s.contours[node->contour];
                contour = withSmoothed(std::move(contour), node->node);
            },
            true);
    double best = kGripReach;
    std::optional<std::pair<size_t, ContourPlace>> where;
    for (size_t c = 0; c < path()->contours.size(); ++c)
        if (const auto place = nearestPlace(path()->contours[c], map, here); place && place->second < best)
            best = place->second, where = {c, place->first};
    if (!where) return;
    changePath(
        start, ComposeBench::tr("Add a node to %1").arg(name),
        [&](ShapeContent& s) {
            Contour& contour = s.contours[where->first];
            contour = withNodeAt(std::move(contour), where->second);
        },
        true);
}

bool ShapeHand::hasNodeInHand() const {
    const ShapeContent* shape = path();
    return shape && inHand_ && inHand_->contour < shape->contours.size() &&
           inHand_->node < shape->contours[inHand_->contour].nodes.size();
}

bool ShapeHand::wants(const QKeyEvent& event) const {
    const bool removes = event.key() == Qt::Key_Delete || event.key() == Qt::Key_Backspace;
    return removes && (doing_ == Doing::Pathing || hasNodeInHand());
}

bool ShapeHand::key(const QKeyEvent& event) {
    const bool enter = event.key() == Qt::Key_Return || event.key() == Qt::Key_Enter;
    if (enter && doing_ == Doing::Pathing) return finishPath(false), true;
    if (!wants(event)) return false;
    if (doing_ == Doing::Pathing) {
        sketch_.nodes.pop_back();
        if (sketch_.nodes.empty()) cancel();
        bench_.update();
        return true;
    }
    // Two nodes are the least that make a path.
    if (!hasNodeInHand() || path()->contours[inHand_->contour].nodes.size() < 3) return false;
    const NodeRef gone = *std::exchange(inHand_, std::nullopt);
    changePath(
        layer(), ComposeBench::tr("Remove a node"),
        [&](ShapeContent& s) {
            auto& nodes = s.contours[gone.contour].nodes;
            nodes.erase(nodes.begin() + ptrdiff_t(gone.node));
        },
        true);
    return true;
}

bool ShapeHand::cancel() {
    if (doing_ == Doing::Nothing) return false;
    doing_ = Doing::Nothing;
    sketch_ = {};
    moving_ = handling_ = false;
    document().preview(nullptr);
    Q_EMIT bench_.handChanged();
    bench_.update();
    return true;
}

void ShapeHand::paintPath(QPainter& painter) const {
    Contour shown = sketch_;
    if (!handling_) shown.nodes.push_back({pointer_, {}, {}});
    painter.setBrush(Qt::NoBrush);
    const QPainterPath way = painterPath(shown, bench_.toView());
    painter.setPen(QPen(QColor(255, 255, 255, 170), 3));
    painter.drawPath(way);
    painter.setPen(QPen(theme().accent, 1.4));
    painter.drawPath(way);
    for (const PathNode& node : sketch_.nodes) paintSquareGrip(painter, inView(node.at));
    const PathNode& last = sketch_.nodes.back();
    if (last.after.length() > 1e-9) {
        paintWay(painter, inView(last.at + last.before), inView(last.at + last.after));
        paintRoundGrip(painter, inView(last.at + last.after));
    }
}

void ShapeHand::paintNodes(QPainter& painter) const {
    const ShapeContent* shape = path();
    const Affine map = bench_.toView() * placementMap(layer()->placement);
    painter.setBrush(Qt::NoBrush);
    for (const Contour& contour : shape->contours) {
        painter.setPen(QPen(theme().accent, 1.4));
        painter.setBrush(Qt::NoBrush);
        painter.drawPath(painterPath(contour, map));
        for (const PathNode& node : contour.nodes)
            for (const Vec2 way : {node.before, node.after})
                if (way.length() > 1e-9) {
                    paintWay(painter, map.map(node.at), map.map(node.at + way));
                    paintSmallGrip(painter, map.map(node.at + way));
                }
        for (const PathNode& node : contour.nodes) paintSquareGrip(painter, map.map(node.at));
    }
    if (!hasNodeInHand()) return;
    const Vec2 at = map.map(shape->contours[inHand_->contour].nodes[inHand_->node].at);
    painter.fillRect(QRectF(at.x - 4, at.y - 4, 8, 8), theme().accent);
}

void ShapeHand::paint(QPainter& painter) {
    if (doing_ == Doing::Pathing) return paintPath(painter);
    if (path()) return paintNodes(painter);
    const LayerPtr one = layer();
    if (!one || !one->as<ShapeContent>()) return;
    auto c = frame(*one).corners();
    for (Vec2& corner : c) corner = inView(corner);
    paintOutline(painter, c);
}

} // namespace glyptos
