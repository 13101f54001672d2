#include "app/gather/wall_bench.h"

#include "app/hands/all_hands.h"
#include "app/widgets/theme.h"
#include "release/wall.h"
#include "render/wall_layout.h"

namespace glyptos {

WallBench::WallBench(Engine& engine, RenderService& service, QWidget* parent)
    : ComposeBench(engine, service, parent) {
    setHands(allHands(*this));
    setAcceptDrops(true);
    setAccessibleName(tr("Wall"));
    SnapOptions snap;
    snap.panel = false;
    setSnap(snap);
}

std::vector<Rect> WallBench::pinned() const {
    return document_ ? pinnedAreas(*document_->shown(), paragraphs()) : std::vector<Rect>{};
}

Rect WallBench::extent() const {
    Rect all;
    for (const Rect& r : pinned()) all = all.united(r);
    return all.empty() ? Rect{kWallSide / 2 - 600, kWallSide / 2 - 400, 1200, 800} : all;
}

void WallBench::paintHandles(QPainter& painter) {
    if (document_ && stackOf(*document_->shown(), wallPanel()).empty()) {
        painter.setPen(Qt::white);
        painter.setFont(uiFont(14, 500));
        painter.drawText(rect().adjusted(40, 40, -40, -40), Qt::AlignCenter | Qt::TextWordWrap,
                         tr("Nothing is pinned yet. Drag pictures here from the crate, or drop files, or use "
                            "the words above."));
        return;
    }
    ComposeBench::paintHandles(painter);
}

void WallBench::mouseMoveEvent(QMouseEvent* event) {
    ComposeBench::mouseMoveEvent(event);
    if (event->buttons() & Qt::LeftButton) Q_EMIT draggedOver(event->globalPosition().toPoint());
}

void WallBench::mouseReleaseEvent(QMouseEvent* event) {
    const QPoint global = event->globalPosition().toPoint();
    const bool away = elsewhere_ && event->button() == Qt::LeftButton &&
                      !rect().contains(event->position().toPoint()) && elsewhere_(global);
    if (away) inUse().cancel();
    ComposeBench::mouseReleaseEvent(event);
    if (away) Q_EMIT droppedElsewhere(global);
}

} // namespace glyptos
