#include "app/bench/side_bench.h"

#include "app/widgets/theme.h"

#include <QMouseEvent>

namespace glyptos {

void paintBenchCaption(QPainter& painter, const QString& words, bool inHand) {
    painter.setFont(uiFont(12, 600));
    const QRectF place(30, 28, painter.fontMetrics().horizontalAdvance(words) + 20, 24);
    painter.setPen(Qt::NoPen);
    painter.setBrush(inHand ? theme().accent : theme().sheet);
    painter.drawRoundedRect(place, 7, 7);
    painter.setPen(inHand ? theme().paper : theme().ink);
    painter.drawText(place, Qt::AlignCenter, words);
}

void SideBench::setTake(const std::string& take) {
    take_ = take;
    requestPicture();
}

const Panel* SideBench::panel() const {
    return document_ ? document_->shownPanel() : nullptr;
}

Scene SideBench::sceneAt(double pxPerUnit) const {
    if (take_.empty()) return referenceScene(document_->shown(), document_->panel(), pxPerUnit);
    return panelScene(document_->shown(), document_->panel(), {pxPerUnit, true, {}, take_});
}

Rect SideBench::extent() const {
    const Panel* p = panel();
    return p ? p->withBleed() : Rect{};
}

QPainterPath SideBench::paper() const {
    const Panel* p = panel();
    return p ? paperOf(*p, toView()) : QPainterPath();
}

void SideBench::paintLines(QPainter& painter) {
    if (!take_.empty() && panel()) paintPanelLines(painter, *panel(), toView(), key());
    paintBenchCaption(
        painter, take_.empty() ? tr("Reference") : tr("Take %1").arg(QString::fromStdString(take_)), false);
}

void SideBench::mousePressEvent(QMouseEvent* event) {
    BenchView::mousePressEvent(event);
    if (!isPanning() && event->button() == Qt::LeftButton) Q_EMIT taken(event->position());
}

} // namespace glyptos
