#include "app/bench/dieline_painter.h"

#include "app/widgets/theme.h"

#include <QPainterPath>

namespace glyptos {
namespace {

constexpr double kHatch = 7; // px from line to line

QPen pen(const QColor& colour, double width, Qt::PenStyle style = Qt::SolidLine) {
    QPen p(colour, width, style);
    p.setCosmetic(true);
    return p;
}

QPen dotted(const QColor& colour, double width) {
    QPen p = pen(colour, width);
    p.setDashPattern({1, 2.6});
    return p;
}

/// The ochre of the bleed is one for day and night, since the bench stays neutral.
const Theme& lines() {
    static const Theme day = Theme::day();
    return day;
}

void paintBleed(QPainter& painter, const QPainterPath& bleed, const QPainterPath& trim) {
    painter.save();
    painter.setClipPath(bleed.subtracted(trim), Qt::IntersectClip);
    // Slanted lines x + y = sum, 7 px apart, fixed to the bleed's corner and drawn no farther than can be
    // seen.
    const QRectF box = bleed.boundingRect(), seen = box.intersected(painter.viewport());
    const double start = box.left() + box.top();
    const int first = int((seen.left() + seen.top() - start) / kHatch);
    const int last = int((seen.right() + seen.bottom() - start) / kHatch);
    painter.setPen(pen(lines().caution, 1.2));
    for (int i = first; i <= last; ++i) {
        const double sum = start + i * kHatch;
        painter.drawLine(QPointF(sum - seen.bottom(), seen.bottom()), QPointF(sum - seen.top(), seen.top()));
    }
    painter.restore();
    painter.setPen(pen(lines().caution, 0.8));
    painter.drawPath(bleed);
}

void paintTrim(QPainter& painter, const QPainterPath& trim) {
    // A pale line beside the ink keeps the trim visible on dark art.
    painter.setPen(pen(QColor(255, 255, 255, 110), 2.6));
    painter.drawPath(trim);
    painter.setPen(pen(lines().ink, 1.1));
    painter.drawPath(trim);
}

void paintSafety(QPainter& painter, const QPainterPath& safe) {
    painter.setPen(pen(QColor(255, 255, 255, 70), 1.6));
    painter.drawPath(safe);
    painter.setPen(dotted(lines().accent, 1.6));
    painter.drawPath(safe);
}

QPainterPath pathOf(const Rect& r, const Affine& map) {
    QPainterPath path;
    path.addRect(toQt(r));
    return toQt(map).map(path);
}

} // namespace

QPointF toQt(Vec2 v) {
    return {v.x, v.y};
}
QTransform toQt(const Affine& m) {
    return {m.a, m.b, m.c, m.d, m.e, m.f};
}
QRectF toQt(const Rect& r) {
    return {r.x, r.y, r.w, r.h};
}

void paintPanelLines(QPainter& painter, const Panel& panel, const Affine& map, const LineKey& key) {
    painter.setBrush(Qt::NoBrush);
    const QPainterPath trim = pathOf(panel.trim(), map);
    if (key[LineKind::Bleed] && panel.withBleed() != panel.trim())
        paintBleed(painter, pathOf(panel.withBleed(), map), trim);
    if (key[LineKind::Trim]) paintTrim(painter, trim);
    if (const auto safe = panel.safeArea(); safe && key[LineKind::Safety])
        paintSafety(painter, pathOf(*safe, map));
}

void paintFlatLines(QPainter& painter, const Flat& flat, const Affine& map, const LineKey& key) {
    painter.setBrush(Qt::NoBrush);
    if (key[LineKind::Fold])
        for (const Flap& flap : flat.flaps) {
            painter.setPen(pen(QColor(lines().paper), 1, Qt::DashDotLine));
            painter.drawPath(pathOf(flap.area, map));
        }
    const QPainterPath trim = pathOf(flat.trim(), map);
    if (key[LineKind::Bleed] && flat.bleed > 0) paintBleed(painter, pathOf(flat.withBleed(), map), trim);
    if (key[LineKind::Trim]) paintTrim(painter, trim);
    for (const Panel& panel : flat.panels)
        if (const auto safe = panel.safeArea(); safe && key[LineKind::Safety])
            paintSafety(painter, pathOf(*safe, map * panel.toFlat()));
    if (!key[LineKind::Fold]) return;
    for (const Fold& fold : flat.folds) {
        const Vec2 a = map.map(fold.from), b = map.map(fold.to),
                   along = (b - a) * (1 / std::max((b - a).length(), 1e-9));
        painter.setPen(pen(lines().fold, 1.4, Qt::DashLine));
        painter.drawLine(QPointF(a.x, a.y), QPointF(b.x, b.y));
        // Notches beyond the sheet, so that the fold can be found when art hides the line.
        painter.setPen(pen(lines().fold, 2.4));
        const Vec2 p = a - along * 14, q = b + along * 14;
        painter.drawLine(QPointF(a.x - along.x * 5, a.y - along.y * 5), QPointF(p.x, p.y));
        painter.drawLine(QPointF(b.x + along.x * 5, b.y + along.y * 5), QPointF(q.x, q.y));
    }
}

void paintLineSample(QPainter& painter, const QRect& area, LineKind kind) {
    const double y = area.center().y() + 0.5;
    if (kind == LineKind::Bleed) {
        painter.setClipRect(area);
        painter.setPen(pen(theme().caution, 1.2));
        for (int x = area.left() - 10; x < area.right(); x += 6)
            painter.drawLine(x, area.bottom(), x + area.height(), area.top());
        painter.setClipping(false);
        return;
    }
    if (kind == LineKind::Trim) painter.setPen(pen(theme().ink, 1.6));
    if (kind == LineKind::Safety) painter.setPen(dotted(theme().accent, 1.8));
    if (kind == LineKind::Fold) painter.setPen(pen(theme().fold, 1.8, Qt::DashLine));
    painter.drawLine(QPointF(area.left(), y), QPointF(area.right(), y));
}

} // namespace glyptos
