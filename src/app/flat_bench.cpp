#include "app/layout_view.h"

#include "app/theme.h"
#include "base/text.h"

#include <QMouseEvent>
#include <QPainter>

namespace glyptos {

const Flat* FlatBench::flat() const {
    const PiecePtr piece = document_ ? document_->piece() : nullptr;
    return piece ? piece->flat.get() : nullptr;
}

Scene FlatBench::sceneAt(double pxPerUnit, Vec2 offset) const {
    return flatScene(document_->shown(), document_->panel().piece, pxPerUnit, true, offset);
}

Rect FlatBench::extent() const {
    if (!flat()) return {};
    Rect all = flat()->withBleed();
    for (const Flap& flap : flat()->flaps) all = all.united(flap.area);
    return all;
}

void FlatBench::paintLines(QPainter& painter) {
    paintFlatLines(painter, *flat(), toView(), key());
    const Rect whole = toView().mapBounds(extent());
    painter.setFont(uiFont(11, 500));
    for (const Panel& panel : flat()->panels) {
        const Rect r = toView().mapBounds(panel.onFlat);
        const bool here = panel.id == document_->panel().panel;
        if (here) {
            painter.setBrush(Qt::NoBrush);
            painter.setPen(QPen(theme().accent, 2.5));
            painter.drawRect(QRectF(r.x - 1, r.y - 1, r.w + 2, r.h + 2));
        }
        const QString name =
            QStringLiteral("%1  %2 × %3")
                .arg(QString::fromStdString(panel.name), QString::fromStdString(shortNumber(panel.onFlat.w)),
                     QString::fromStdString(shortNumber(panel.onFlat.h)));
        // A panel too narrow for its name has it higher up, clear of its neighbours.
        const bool narrow = r.w < painter.fontMetrics().horizontalAdvance(name);
        painter.setPen(Qt::white);
        painter.drawText(
            QRectF(narrow ? r.centre().x - 110 : r.x, whole.y - (narrow ? 38 : 22), narrow ? 220 : r.w, 16),
            (narrow ? Qt::AlignHCenter : Qt::AlignLeft) | Qt::AlignVCenter, name);
    }
}

void FlatBench::mousePressEvent(QMouseEvent* event) {
    BenchView::mousePressEvent(event);
    if (isPanning() || event->button() != Qt::LeftButton || !flat()) return;
    const Vec2 at = fromView(event->position());
    for (const Panel& panel : flat()->panels)
        if (panel.onFlat.contains(at)) document_->selectPanel({document_->panel().piece, panel.id});
}

} // namespace glyptos
