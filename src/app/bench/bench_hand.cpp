#include "app/bench/bench_hand.h"

#include "app/bench/compose_bench.h"
#include "app/widgets/theme.h"
#include "release/edits/edits.h"

namespace glyptos {
Document& BenchHand::document() const {
    return *bench_.document();
}

LayerPtr BenchHand::layer() const {
    if (document().layers().size() != 1) return nullptr;
    const LayerPtr layer = document().selectedLayer();
    return layer && !layer->locked ? layer : nullptr;
}

Vec2 BenchHand::inView(Vec2 onPanel) const {
    return bench_.toView().map(onPanel);
}

Frame BenchHand::frame(const Layer& layer) const {
    return frameOf(layer, *document().shown(), bench_.panel()->withBleed(), bench_.paragraphs());
}

void BenchHand::change(const LayerPtr& layer, const Layer& next) {
    document().preview(
        withChangedLayer(document().release(), document().panel(), layer->id, [&](Layer& l) { l = next; }));
}

void BenchHand::settle(const QString& name) {
    document().edit(name, document().shown());
}

void BenchHand::paintStroke(QPainter& painter, const std::vector<Vec2>& points, QColor colour) const {
    QPolygonF line;
    for (const Vec2& p : points) line << toQt(inView(p));
    colour.setAlpha(120);
    painter.setBrush(Qt::NoBrush);
    painter.setPen(
        QPen(colour, bench_.tip(1).diameter * bench_.zoom(), Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
    if (line.size() == 1)
        painter.drawPoint(line.first());
    else
        painter.drawPolyline(line);
}

void paintOutline(QPainter& painter, const std::array<Vec2, 4>& c) {
    const QPolygonF outline{toQt(c[0]), toQt(c[1]), toQt(c[2]), toQt(c[3])};
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(QColor(255, 255, 255, 160), 3));
    painter.drawPolygon(outline);
    painter.setPen(QPen(theme().accent, 1.4));
    painter.drawPolygon(outline);
}

void paintSquareGrip(QPainter& painter, Vec2 at) {
    painter.setPen(QPen(theme().accent, 1.4));
    painter.setBrush(Qt::white);
    painter.drawRect(QRectF(at.x - 4, at.y - 4, 8, 8));
}

void paintRoundGrip(QPainter& painter, Vec2 at, const QColor& fill) {
    painter.setPen(QPen(QColor(255, 255, 255, 200), 4));
    painter.setBrush(Qt::NoBrush);
    painter.drawEllipse(toQt(at), 5.5, 5.5);
    painter.setPen(QPen(theme().accent, 1.6));
    painter.setBrush(fill);
    painter.drawEllipse(toQt(at), 5.5, 5.5);
}

void paintSmallGrip(QPainter& painter, Vec2 at) {
    painter.setPen(QPen(theme().accent, 1.2));
    painter.setBrush(Qt::white);
    painter.drawEllipse(toQt(at), 3, 3);
}

void paintSnapLine(QPainter& painter, const SnapLine& line, const BenchView& bench) {
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(theme().accent, 1, Qt::DashLine));
    const Vec2 at = bench.toView().map({line.at, line.at});
    if (line.upright)
        painter.drawLine(QPointF(at.x, 0), QPointF(at.x, bench.height()));
    else
        painter.drawLine(QPointF(0, at.y), QPointF(bench.width(), at.y));
    const QString why = QString::fromStdString(line.reason);
    painter.setFont(uiFont(11, 500));
    const QRectF label = QRectF(painter.fontMetrics().boundingRect(why)).adjusted(-6, -3, 6, 3);
    const QPointF corner = line.upright ? QPointF(at.x + 8, 40) : QPointF(30, at.y - 24);
    const QRectF place = label.translated(corner - label.topLeft());
    painter.setPen(Qt::NoPen);
    painter.setBrush(theme().accent);
    painter.drawRoundedRect(place, 5, 5);
    painter.setPen(Qt::white);
    painter.drawText(place, Qt::AlignCenter, why);
}

void paintWay(QPainter& painter, Vec2 from, Vec2 to) {
    painter.setPen(QPen(QColor(255, 255, 255, 170), 3));
    painter.drawLine(toQt(from), toQt(to));
    painter.setPen(QPen(theme().accent, 1.4));
    painter.drawLine(toQt(from), toQt(to));
}

} // namespace glyptos
