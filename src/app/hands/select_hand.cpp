#include "app/hands/select_hand.h"

#include "app/bench/compose_bench.h"
#include "app/widgets/theme.h"
#include "raster/brush/painted_stroke.h"
#include "release/edits/selection_edits.h"

namespace glyptos {
namespace {

Path ellipseIn(const Rect& box) {
    ShapeContent shape;
    shape.kind = ShapeKind::Ellipse;
    shape.width = box.w, shape.height = box.h;
    Path out;
    out.append(outlineOf(shape), Affine::translation(box.centre().x, box.centre().y));
    return out;
}

} // namespace

QString SelectHand::nameOf(SelectBy by) {
    switch (by) {
    case SelectBy::Box:
        return ComposeBench::tr("Select a box");
    case SelectBy::Ellipse:
        return ComposeBench::tr("Select an ellipse");
    case SelectBy::Colour:
        return ComposeBench::tr("Select a colour");
    case SelectBy::Figure:
        return ComposeBench::tr("Select the figure");
    case SelectBy::Edge:
        return ComposeBench::tr("Select along edges");
    case SelectBy::Brush:
        return ComposeBench::tr("Select by brush");
    default:
        return ComposeBench::tr("Select by hand");
    }
}

Rect SelectHand::drawnBox() const {
    return {std::min(from_.x, to_.x), std::min(from_.y, to_.y), std::abs(from_.x - to_.x),
            std::abs(from_.y - to_.y)};
}

QString SelectHand::sentence() const {
    if (!bench_.work().words().isEmpty()) return bench_.work().words();
    switch (bench_.settings().selectBy) {
    case SelectBy::Figure:
        if (!bench_.selection().selection() && hintsInHand())
            return ComposeBench::tr(
                "Shift: stroke over what was missed of the cut-out. Alt: over what is not of it.");
        return figureOf_.empty()
                   ? ComposeBench::tr("Click the figure, or drag a box round it.")
                   : ComposeBench::tr("Shift: stroke over what was missed. Alt: over what is not "
                                      "of it. A click or a box begins anew.");
    case SelectBy::Corners:
        return ComposeBench::tr("Click corner by corner; Enter or the first corner closes.");
    case SelectBy::Edge:
        return points_.empty()
                   ? ComposeBench::tr("Click on an edge; the line follows it to the pointer.")
                   : ComposeBench::tr("Each click pins the line; Enter or the first point closes.");
    case SelectBy::Colour:
        return ComposeBench::tr("Click a colour. Shift adds, Alt takes away, both keep what is common.");
    case SelectBy::Itself:
        return bench_.selection().selection()
                   ? ComposeBench::tr("Drag the selection; corners scale it, the round grip turns it.")
                   : ComposeBench::tr("Nothing is selected yet that could be moved.");
    case SelectBy::Brush:
        return ComposeBench::tr("Paint over what is meant. Alt takes away.");
    default:
        return ComposeBench::tr("Drag. Shift adds, Alt takes away, both keep what is common.");
    }
}

Path SelectHand::pathOf(const std::vector<Vec2>& points) const {
    Path out;
    for (size_t i = 0; i < points.size(); ++i) i ? out.lineTo(points[i]) : out.moveTo(points[i]);
    return out;
}

void SelectHand::press(const QMouseEvent& event, Vec2 at) {
    keys_ = event.modifiers();
    const bool add = keys_ & Qt::ShiftModifier, away = keys_ & Qt::AltModifier;
    how_ = add && away ? Combine::Intersect
           : add       ? Combine::Add
           : away      ? Combine::TakeAway
                       : bench_.settings().combine;
    from_ = to_ = at;
    moved_ = false;
    const SelectBy by = bench_.settings().selectBy;
    if (by == SelectBy::Itself) return void(dragging_ = mover_.press(at));
    if (by == SelectBy::Colour) return findColour(at);
    if (by == SelectBy::Corners || by == SelectBy::Edge) {
        const bool closes =
            points_.size() > 2 && (inView(points_.front()) - inView(at)).length() < kGripReach;
        if (closes) return closeCorners();
        if (by == SelectBy::Edge && !points_.empty() && !tracing_.empty())
            points_.insert(points_.end(), tracing_.begin(), tracing_.end());
        else
            points_.push_back(at);
        tracing_.clear();
        Q_EMIT bench_.handChanged();
        return bench_.update();
    }
    const std::optional<Selection> now = bench_.selection().selection();
    const bool adds = by == SelectBy::Figure && add != away;
    stroking_ =
        by == SelectBy::Brush || (adds && now && !figureOf_.empty()) || (adds && !now && hintsInHand());
    points_ = {at};
    dragging_ = true;
}

void SelectHand::drag(const QMouseEvent& event, Vec2 at) {
    if (!dragging_) return;
    if (bench_.settings().selectBy == SelectBy::Itself) return mover_.drag(at, event.modifiers());
    moved_ = moved_ || (at - from_).length() * bench_.zoom() >= kDragStarts;
    to_ = at;
    const SelectBy by = bench_.settings().selectBy;
    if (by == SelectBy::Freehand || stroking_) points_.push_back(at);
    if ((event.modifiers() & Qt::ControlModifier) && (by == SelectBy::Box || by == SelectBy::Ellipse)) {
        const Vec2 way = to_ - from_;
        const double side = std::max(std::abs(way.x), std::abs(way.y));
        to_ = from_ + Vec2{std::copysign(side, way.x), std::copysign(side, way.y)};
    }
    bench_.update();
}

void SelectHand::hover(Vec2 at) {
    to_ = at;
    if (points_.empty()) return;
    if (bench_.settings().selectBy == SelectBy::Edge) trace(at);
    bench_.update();
}

void SelectHand::release() {
    if (!std::exchange(dragging_, false)) return;
    bench_.update();
    const SelectBy by = bench_.settings().selectBy;
    if (by == SelectBy::Itself) {
        if (const auto map = mover_.release()) move(*map);
        return;
    }
    const std::vector<Vec2> points = std::exchange(points_, {});
    if (by == SelectBy::Brush) {
        const double pixel = bench_.paintPixel();
        const Brush tip = bench_.tip(pixel);
        const Rect area = bench_.panel()->withBleed();
        if (how_ == Combine::Replace) how_ = Combine::Add;
        return find(nameOf(by), nameOf(by), [=](WorkControl&) -> Result<std::optional<Selection>> {
            PixelTiles tiles = strokeCover(points, tip, Affine::scaling(1 / pixel, 1 / pixel), area);
            if (tiles.empty()) return std::nullopt;
            return Selection{std::make_shared<const PixelTiles>(std::move(tiles)), pixel};
        });
    }
    if (by == SelectBy::Figure) {
        if (stroking_) points_ = points;
        findFigure();
        points_.clear();
        return;
    }
    if (!moved_) {
        // A click on nothing lets go of what is selected.
        if (how_ == Combine::Replace && bench_.selection().selection())
            document().edit(ComposeBench::tr("Select nothing"),
                            withSelection(document().release(), document().panel(), std::nullopt));
        return;
    }
    Path path;
    if (by == SelectBy::Box)
        path.addRect(drawnBox());
    else if (by == SelectBy::Ellipse)
        path = ellipseIn(drawnBox());
    else
        path = pathOf(points);
    finish(path, nameOf(by));
}

void SelectHand::finish(const Path& path, const QString& name) {
    find(name, name, [path, pixel = bench_.paintPixel(), area = bench_.panel()->withBleed()](WorkControl&) {
        return Result<std::optional<Selection>>(selectionOf(path, pixel, area));
    });
}

void SelectHand::closeCorners() {
    std::vector<Vec2> points = std::exchange(points_, {});
    tracing_.clear();
    if (points.size() > 2) finish(pathOf(points), nameOf(bench_.settings().selectBy));
    Q_EMIT bench_.handChanged();
    bench_.update();
}

void SelectHand::doubleClick(Vec2) {
    if (!points_.empty()) closeCorners();
}

bool SelectHand::wants(const QKeyEvent& event) const {
    return !points_.empty() && (event.key() == Qt::Key_Backspace || event.key() == Qt::Key_Delete);
}

/// By a pixel of the panel, with Shift by ten.
bool SelectHand::nudge(const QKeyEvent& event) {
    const double step = bench_.paintPixel() * (event.modifiers() & Qt::ShiftModifier ? 10 : 1);
    const int key = event.key();
    const double x = key == Qt::Key_Left    ? -step
                     : key == Qt::Key_Right ? step
                                            : 0,
                 y = key == Qt::Key_Up     ? -step
                     : key == Qt::Key_Down ? step
                                           : 0;
    if (x == 0 && y == 0) return false;
    move(Affine::translation(x, y));
    return true;
}

bool SelectHand::key(const QKeyEvent& event) {
    if (bench_.settings().selectBy == SelectBy::Itself && nudge(event)) return true;
    if (points_.empty() || dragging_) return false;
    if (event.key() == Qt::Key_Return || event.key() == Qt::Key_Enter) {
        closeCorners();
        return true;
    }
    if (!wants(event)) return false;
    points_.pop_back();
    tracing_.clear();
    bench_.update();
    return true;
}

bool SelectHand::cancel() {
    const bool drawing = !points_.empty();
    points_.clear();
    tracing_.clear();
    tracer_.cancel();
    moving_.cancel();
    dragging_ = false;
    figureOf_.clear();
    const bool moving = mover_.cancel();
    bench_.update();
    return bench_.work().cancel() || drawing || moving;
}

void SelectHand::paint(QPainter& painter) {
    const SelectBy by = bench_.settings().selectBy;
    if (by == SelectBy::Itself) return mover_.paint(painter);
    const auto stroke = [&](const QPainterPath& path, double width) {
        painter.setBrush(Qt::NoBrush);
        painter.setPen(
            QPen(QColor(255, 255, 255, 170), width + 2, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
        painter.drawPath(path);
        painter.setPen(QPen(theme().accent, width, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
        painter.drawPath(path);
    };
    QPainterPath path;
    if (dragging_ && stroking_)
        return paintStroke(painter, points_, keys_ & Qt::AltModifier ? theme().fault : theme().accent);
    if (dragging_ && moved_) {
        const QRectF box = toQt(bench_.toView().mapBounds(drawnBox()));
        if (by == SelectBy::Ellipse)
            path.addEllipse(box);
        else if (by == SelectBy::Freehand) {
            QPolygonF line;
            for (const Vec2& p : points_) line << toQt(inView(p));
            path.addPolygon(line);
        } else
            path.addRect(box);
        return stroke(path, 1.4);
    }
    if (points_.empty() || dragging_) return;
    QPolygonF line;
    for (const Vec2& p : points_) line << toQt(inView(p));
    for (const Vec2& p : tracing_) line << toQt(inView(p));
    if (tracing_.empty()) line << toQt(inView(to_));
    path.addPolygon(line);
    stroke(path, 1.4);
    paintRoundGrip(painter, inView(points_.front()));
}

} // namespace glyptos
