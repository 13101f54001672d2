#include "app/bench/dieline_painter.h"

#include "app/widgets/theme.h"

namespace glyptos {
namespace {

constexpr double kHatch = 7; // px from line to line
constexpr QColor kSlate(74, 92, 140);

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

QPainterPath pathOf(const Outline& outline, const Affine& map) {
    return toQt(map).map(toQt(outline.path()));
}

/// The outline with its bleed, which ends where an edge has none.
Outline bleedOf(const Panel& panel) {
    Outline out = panel.outline.grown(panel.bleed);
    if (panel.outline.isPlain()) out.box = panel.withBleed();
    return out;
}

/// Through a hole the bench is seen.
void paintCutout(QPainter& painter, const QPainterPath& hole) {
    painter.fillPath(hole, theme().bench);
}

/// Slate, which neither paper nor ink has; what is for the code is framed, where ink may fail is dotted.
void paintZone(QPainter& painter, const Zone& zone, const Affine& map) {
    const QPainterPath area = pathOf(zone.outline, map);
    QColor wash = kSlate;
    // What stands in a code's place must be seen as it is.
    wash.setAlpha(zone.kind == ZoneKind::Code ? 0 : zone.kind == ZoneKind::Clear ? 22 : 48);
    painter.fillPath(area, zone.kind == ZoneKind::Uneven ? QBrush(wash.darker(140), Qt::Dense5Pattern)
                                                         : QBrush(wash));
    painter.setPen(pen(QColor(255, 255, 255, 90), 2.4));
    painter.drawPath(area);
    painter.setPen(pen(kSlate, 1.2, zone.kind == ZoneKind::Code ? Qt::DashDotDotLine : Qt::DotLine));
    painter.drawPath(area);
    if (zone.kind != ZoneKind::Code) return;
    painter.setFont(uiFont(11, 600));
    const QString name = QString::fromStdString(zone.name);
    const QRectF box = area.boundingRect();
    if (box.width() < painter.fontMetrics().horizontalAdvance(name) + 6) return;
    constexpr int kAbove = 16; // px
    const QRectF label(box.left(), box.top() - kAbove, painter.fontMetrics().horizontalAdvance(name) + 8,
                       kAbove);
    painter.fillRect(label, QColor(255, 255, 255, 200));
    painter.setPen(kSlate);
    painter.drawText(label, Qt::AlignCenter, name);
}

void paintFold(QPainter& painter, const Fold& fold, const Affine& map) {
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
QPainterPath toQt(const Path& path) {
    QPainterPath out;
    out.setFillRule(Qt::WindingFill);
    const Vec2* p = path.points().data();
    const auto next = [&] { return toQt(*p++); };
    for (const Path::Verb verb : path.verbs()) {
        const QPointF a = next();
        if (verb == Path::Verb::Move) out.closeSubpath(), out.moveTo(a);
        if (verb == Path::Verb::Line) out.lineTo(a);
        if (verb == Path::Verb::Quad) out.quadTo(a, next());
        if (verb == Path::Verb::Cubic) {
            const QPointF b = next();
            out.cubicTo(a, b, next());
        }
    }
    out.closeSubpath();
    return out;
}

QPainterPath paperOf(const Panel& panel, const Affine& map) {
    return panel.outline.isPlain() ? QPainterPath() : pathOf(bleedOf(panel), map);
}

QPainterPath paperOf(const Flat& flat, const Affine& map) {
    QPainterPath all;
    all.setFillRule(Qt::WindingFill);
    for (const Panel& panel : flat.panels) all.addPath(pathOf(bleedOf(panel), map * panel.toFlat()));
    return all;
}

void paintPanelLines(QPainter& painter, const Panel& panel, const Affine& map, const LineKey& key) {
    painter.setBrush(Qt::NoBrush);
    const QPainterPath trim = pathOf(panel.outline, map);
    if (key[LineKind::Bleed] && panel.withBleed() != panel.trim())
        paintBleed(painter, pathOf(bleedOf(panel), map), trim);
    for (const Outline& hole : panel.cutouts) paintCutout(painter, pathOf(hole, map));
    if (key[LineKind::Zone])
        for (const Zone& zone : panel.zones) paintZone(painter, zone, map);
    if (key[LineKind::Trim]) {
        paintTrim(painter, trim);
        for (const Outline& hole : panel.cutouts) paintTrim(painter, pathOf(hole, map));
    }
    if (const auto safe = panel.safeOutline(); safe && key[LineKind::Safety])
        paintSafety(painter, pathOf(*safe, map));
}

void paintFlatLines(QPainter& painter, const Flat& flat, const Affine& map, const LineKey& key) {
    painter.setBrush(Qt::NoBrush);
    if (key[LineKind::Fold])
        for (const Flap& flap : flat.flaps) {
            painter.setPen(pen(QColor(lines().paper), 1, Qt::DashDotLine));
            painter.drawPath(pathOf(flap.outline, map));
        }
    std::vector<QPainterPath> trims(flat.sheets.size()), bleeds(flat.sheets.size());
    for (const Panel& panel : flat.panels) {
        const Affine there = map * panel.toFlat();
        trims[panel.sheet] = trims[panel.sheet].united(pathOf(panel.outline, there));
        bleeds[panel.sheet] = bleeds[panel.sheet].united(pathOf(bleedOf(panel), there));
    }
    for (size_t i = 0; i < trims.size(); ++i) {
        if (key[LineKind::Bleed] && flat.bleed > 0) paintBleed(painter, bleeds[i], trims[i]);
        if (key[LineKind::Trim]) paintTrim(painter, trims[i].simplified());
    }
    for (const Flap& hole : flat.cutouts) {
        paintCutout(painter, pathOf(hole.outline, map));
        if (key[LineKind::Trim]) paintTrim(painter, pathOf(hole.outline, map));
    }
    for (const Panel& panel : flat.panels) {
        const Affine there = map * panel.toFlat();
        if (key[LineKind::Zone])
            for (const Zone& zone : panel.zones) paintZone(painter, zone, there);
        if (const auto safe = panel.safeOutline(); safe && key[LineKind::Safety])
            paintSafety(painter, pathOf(*safe, there));
    }
    if (key[LineKind::Fold])
        for (size_t i = 0; i < flat.sheets.size(); ++i) paintFolds(painter, flat, i, map);
}

void paintFolds(QPainter& painter, const Flat& flat, size_t sheet, const Affine& map) {
    for (const Fold& fold : flat.folds)
        if (fold.sheet == sheet) paintFold(painter, fold, map);
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
    if (kind == LineKind::Zone) painter.setPen(pen(kSlate, 1.6, Qt::DashDotDotLine));
    painter.drawLine(QPointF(area.left(), y), QPointF(area.right(), y));
}

} // namespace glyptos
