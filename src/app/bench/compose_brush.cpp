// Brushes and pens on the Compose bench.
#include "app/bench/compose_bench.h"
#include "app/session/engine.h"
#include "app/widgets/theme.h"

#include <QTabletEvent>
#include <cmath>

namespace glyptos {
namespace {

PenSample sampleOf(const QTabletEvent& event, Vec2 at) {
    constexpr double kLying = 60; // degrees from upright, about what tablets can tell
    const double x = std::tan(event.xTilt() * std::numbers::pi / 180),
                 y = std::tan(event.yTilt() * std::numbers::pi / 180);
    const double away = std::atan(std::hypot(x, y)) * 180 / std::numbers::pi;
    return {at, event.pressure(), std::min(away / kLying, 1.0), std::atan2(y, x) * 180 / std::numbers::pi,
            event.rotation()};
}

} // namespace

Brush ComposeBench::tip(double pixel) const {
    constexpr double kStandard = 20; // of them across a panel
    const BrushSettings& brush = settings_.brush;
    const double across =
        brush.diameter > 0 ? brush.diameter : std::max(panel()->width, panel()->height) / kStandard;
    Brush out;
    out.diameter = std::max(across / pixel, 1.0), out.hardness = brush.hardness, out.flow = brush.flow;
    return out;
}

double ComposeBench::brushUnit() const {
    return std::max(panel()->width, panel()->height) / kBrushSide;
}

Brush ComposeBench::paintBrush(double pixel) const {
    Brush out = settings_.paint.brush.brush;
    out.diameter *= brushUnit() / pixel;
    return out;
}

Result<std::vector<StampLook>> ComposeBench::stampLooks(double px) const {
    const PaintSettings& paint = settings_.paint;
    std::vector<StampLook> out;
    if (paint.brush.brush.tip != TipKind::Stamp) return out;
    for (const Stamp& stamp : paint.brush.stamps) {
        if (stamp.source.empty()) {
            out.push_back(stampOf(outlineOf(stamp.outline)));
            continue;
        }
        SourcePtr source = document_->release()->source(stamp.source);
        for (const SourcePtr& own : paint.sources)
            if (!source && own->id == stamp.source) source = own;
        if (!source)
            return fail(Fault::NotFound,
                        tr("A picture of the brush %1 is neither in this release nor in the crate any "
                           "more. Choose its stamps anew.")
                            .arg(QString::fromStdString(paint.brush.name))
                            .toStdString());
        const PyramidPtr picture =
            engine_.pictures.picture(*source, px / std::max({source->width, source->height, 1}));
        if (!picture)
            return fail(Fault::NotFound, tr("%1 is still being read; in a moment it can be painted with.")
                                             .arg(QString::fromStdString(source->name))
                                             .toStdString());
        out.push_back({picture});
    }
    return out;
}

void ComposeBench::paintTip(QPainter& painter, Vec2 at) const {
    const Brush round = tip(1 / zoom());
    const QPointF middle = toQt(toView().map(at));
    painter.setBrush(Qt::NoBrush);
    for (const double share : {1.0, settings_.brush.hardness}) {
        const double radius = round.diameter / 2 * share;
        if (radius < 1) continue;
        painter.setPen(QPen(QColor(255, 255, 255, 170), 2.4));
        painter.drawEllipse(middle, radius, radius);
        painter.setPen(QPen(theme().accent, 1, share < 1 ? Qt::DotLine : Qt::SolidLine));
        painter.drawEllipse(middle, radius, radius);
    }
}

bool ComposeBench::wantsBrushKey(const QKeyEvent& event) {
    switch (event.key()) {
    case Qt::Key_Comma:
    case Qt::Key_Period:
    case Qt::Key_Semicolon:
    case Qt::Key_Colon:
    case Qt::Key_Less:
    case Qt::Key_Greater:
        return !(event.modifiers() & (Qt::ControlModifier | Qt::AltModifier));
    default:
        return false;
    }
}

bool ComposeBench::brushKey(const QKeyEvent& event) {
    if (!wantsBrushKey(event)) return false;
    constexpr double kLarger = 1.2, kHarder = 0.1;
    const int key = event.key();
    const bool more = key == Qt::Key_Period || key == Qt::Key_Colon || key == Qt::Key_Greater;
    HandSettings next = settings_;
    const bool paints = hand_ == Hand::Paint || (hand_ == Hand::Mask && settings_.maskAsPaint);
    double& hardness = paints ? next.paint.brush.brush.hardness : next.brush.hardness;
    double& diameter = paints ? next.paint.brush.brush.diameter : next.brush.diameter;
    if (event.modifiers() & Qt::ShiftModifier)
        hardness = std::clamp(hardness + (more ? kHarder : -kHarder), 0.0, 1.0);
    else
        diameter = (paints ? diameter : tip(1).diameter) * (more ? kLarger : 1 / kLarger);
    setSettings(next);
    return true;
}

/// A pen does what a mouse does, panning and the reference included, and says more of it.
void ComposeBench::tabletEvent(QTabletEvent* event) {
    event->accept();
    penAt_ = event->position();
    penErases_ = event->pointerType() == QPointingDevice::PointerType::Eraser;
    const bool isPress = event->type() == QEvent::TabletPress, isMove = event->type() == QEvent::TabletMove;
    if (isPress && penIsDown_) endPen(); // it had gone unseen
    if (isPress) setFocus(Qt::MouseFocusReason);
    pen_ = sampleOf(*event, fromView(penAt_));
    QMouseEvent asMouse(isPress  ? QEvent::MouseButtonPress
                        : isMove ? QEvent::MouseMove
                                 : QEvent::MouseButtonRelease,
                        penAt_, event->globalPosition(), event->button(), event->buttons(),
                        event->modifiers());
    isPress ? mousePressEvent(&asMouse) : isMove ? mouseMoveEvent(&asMouse) : mouseReleaseEvent(&asMouse);
    if (!isMove) penIsDown_ = isPress;
    pen_.reset();
}

/// As if it were lifted where it was last.
void ComposeBench::endPen() {
    if (!std::exchange(penIsDown_, false)) return;
    QMouseEvent up(QEvent::MouseButtonRelease, penAt_, mapToGlobal(penAt_), Qt::LeftButton, Qt::NoButton,
                   Qt::NoModifier);
    mouseReleaseEvent(&up);
}

/// A pen that is taken away in the middle of a stroke ends it.
bool ComposeBench::eventFilter(QObject* watched, QEvent* event) {
    if (event->type() == QEvent::TabletLeaveProximity) endPen();
    return BenchView::eventFilter(watched, event);
}

} // namespace glyptos
