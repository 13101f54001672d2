#include "app/hands/slice_hand.h"

#include "app/bench/compose_bench.h"
#include "app/widgets/theme.h"
#include "release/edits/cutout_edits.h"

#include <cmath>

namespace glyptos {

QString SliceHand::whyNot() const {
    const LayerPtr one = document().selectedLayer();
    if (!one || document().layers().size() != 1)
        return ComposeBench::tr("Take the one layer in hand that is to be cut into slices.");
    const QString name = QString::fromStdString(one->name);
    if (one->locked) return ComposeBench::tr("%1 is locked, so it cannot be cut.").arg(name);
    if (isFrameless(*one))
        return ComposeBench::tr("%1 covers the whole panel; group it or mask it first to cut it.").arg(name);
    return {};
}

QString SliceHand::sentence() const {
    if (QString why = whyNot(); !why.isEmpty()) return why;
    const QString name = QString::fromStdString(document().selectedLayer()->name);
    if (lines_.empty())
        return bench_.settings().slice.drawn ? ComposeBench::tr("Draw a line across %1.").arg(name)
                                             : ComposeBench::tr("Drag a line across %1.").arg(name);
    return ComposeBench::tr("Enter cuts along the lines; Backspace takes back the last one.");
}

void SliceHand::press(const QMouseEvent&, Vec2 at) {
    if (const QString why = whyNot(); !why.isEmpty()) return void(Q_EMIT document().refused(why));
    drawing_ = {at};
}

void SliceHand::drag(const QMouseEvent& event, Vec2 at) {
    if (drawing_.empty()) return;
    bench_.update();
    if (bench_.settings().slice.drawn) return drawing_.push_back(at);
    const Vec2 from = drawing_.front();
    if (event.modifiers() & Qt::ShiftModifier) {
        constexpr double kStep = 15; // degrees
        const Vec2 way = at - from;
        const double degree = std::acos(-1) / 180,
                     turn = std::round(std::atan2(way.y, way.x) / degree / kStep) * kStep * degree;
        at = from + Vec2{std::cos(turn), std::sin(turn)} * way.length();
    }
    drawing_ = {from, at};
}

void SliceHand::release() {
    CutLine line = std::exchange(drawing_, {});
    bench_.update();
    if (line.size() < 2 || (line.back() - line.front()).length() * bench_.zoom() < kDragStarts) return;
    lines_.push_back(std::move(line));
    Q_EMIT bench_.handChanged();
}

void SliceHand::slice() {
    if (const QString why = whyNot(); !why.isEmpty()) return void(Q_EMIT document().refused(why));
    if (lines_.empty())
        return void(Q_EMIT document().refused(
            ComposeBench::tr("There is no line yet; drag one across what is to be cut.")));
    const Stack& stack = stackOf(*document().release(), document().panel());
    const std::string meant = wholeFigureOf(stack, document().layer());
    const LayerPtr layer = findLayer(stack, meant);
    const auto made = withSlices(document().release(), document().panel(), meant, frame(*layer).bounds(),
                                 lines_, bench_.sliceStyle());
    if (made) lines_.clear();
    document().editMaking(ComposeBench::tr("Slice %1").arg(QString::fromStdString(layer->name)), made);
    Q_EMIT bench_.handChanged();
    bench_.update();
}

bool SliceHand::wants(const QKeyEvent& event) const {
    return !lines_.empty() && (event.key() == Qt::Key_Backspace || event.key() == Qt::Key_Delete);
}

bool SliceHand::key(const QKeyEvent& event) {
    if (lines_.empty() || !drawing_.empty()) return false;
    if (event.key() == Qt::Key_Return || event.key() == Qt::Key_Enter) {
        slice();
        return true;
    }
    if (!wants(event)) return false;
    lines_.pop_back();
    Q_EMIT bench_.handChanged();
    bench_.update();
    return true;
}

bool SliceHand::cancel() {
    const bool was = !lines_.empty() || !drawing_.empty();
    lines_.clear();
    drawing_.clear();
    bench_.update();
    return was;
}

void SliceHand::paint(QPainter& painter) {
    const LayerPtr one = document().selectedLayer();
    if (whyNot().isEmpty()) {
        auto corners = frame(*one).corners();
        for (Vec2& c : corners) c = inView(c);
        paintOutline(painter, corners);
    }
    const auto paintLine = [&](const CutLine& line) {
        QPolygonF points;
        for (const Vec2& p : line) points << toQt(inView(p));
        painter.setBrush(Qt::NoBrush);
        painter.setPen(QPen(QColor(255, 255, 255, 190), 4, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
        painter.drawPolyline(points);
        painter.setPen(QPen(theme().accent, 1.6, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
        painter.drawPolyline(points);
        paintRoundGrip(painter, inView(line.front()));
        paintRoundGrip(painter, inView(line.back()));
    };
    for (const CutLine& line : lines_) paintLine(line);
    if (drawing_.size() > 1) paintLine(drawing_);
}

} // namespace glyptos
