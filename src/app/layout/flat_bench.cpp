#include "app/layout/flat_bench.h"

#include "app/widgets/theme.h"
#include "base/text.h"

#include <QMouseEvent>
#include <QPainter>
#include <algorithm>

namespace glyptos {
namespace {

/// What is drawn of a flat, in its units.
Rect sheetOf(const Flat& flat) {
    Rect all = flat.withBleed();
    for (const Flap& flap : flat.flaps) all = all.united(flap.area);
    return all;
}

} // namespace

const Flat* FlatBench::flat() const {
    const PiecePtr piece = document_ ? document_->piece() : nullptr;
    return piece ? piece->flat.get() : nullptr;
}

Scene FlatBench::sceneAt(double pxPerUnit) const {
    return flatScene(document_->shown(), document_->panel().piece, {pxPerUnit, true});
}

Rect FlatBench::extent() const {
    if (!flat()) return {};
    const Rect sheet = sheetOf(*flat());
    constexpr double kNames = 0.09; // of its height, for the names of the panels above it
    return sheet.grown(0, kNames * std::max(sheet.h, sheet.w / 2), 0, 0);
}

void FlatBench::paintLines(QPainter& painter) {
    paintFlatLines(painter, *flat(), toView(), key());
    painter.setFont(uiFont(11, 600));
    for (const Panel& panel : flat()->panels) paintName(painter, panel);
}

/// Name and size above a panel; on a ground of its own for the panel in hand.
void FlatBench::paintName(QPainter& painter, const Panel& panel) const {
    const auto figure = [](double v) { return QString::fromStdString(shortNumber(v)); };
    const QString name = QStringLiteral("%1  %2 × %3 %4")
                             .arg(QString::fromStdString(panel.name), figure(panel.onFlat.w),
                                  figure(panel.onFlat.h), flat()->unit == Unit::Mm ? tr("mm") : tr("px"));
    const Rect r = toView().mapBounds(panel.onFlat), whole = toView().mapBounds(sheetOf(*flat()));
    const double width = painter.fontMetrics().horizontalAdvance(name) + 14;
    // A panel too narrow for its name has it higher up, clear of its neighbours.
    const bool narrow = r.w < width;
    const QRectF place(narrow ? r.centre().x - width / 2 : r.x, whole.y - (narrow ? 48 : 26), width, 19);
    if (panel.id == document_->panel().panel) {
        painter.setPen(Qt::NoPen);
        painter.setBrush(theme().accent);
        painter.drawRoundedRect(place, 6, 6);
    }
    painter.setPen(Qt::white);
    painter.drawText(place, Qt::AlignCenter, name);
}

void FlatBench::mousePressEvent(QMouseEvent* event) {
    BenchView::mousePressEvent(event);
    if (isPanning() || event->button() != Qt::LeftButton || !flat()) return;
    const Vec2 at = fromView(event->position());
    for (const Panel& panel : flat()->panels)
        if (panel.onFlat.contains(at)) document_->selectPanel({document_->panel().piece, panel.id});
}

} // namespace glyptos
