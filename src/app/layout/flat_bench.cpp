#include "app/layout/flat_bench.h"

#include "app/widgets/theme.h"
#include "base/text.h"

#include <QMouseEvent>
#include <QPainter>
#include <algorithm>

namespace glyptos {
namespace {

/// What is drawn of one sheet, in units of the flat.
Rect boardOf(const Flat& flat, size_t sheet) {
    Rect all = flat.sheets[sheet].withBleed;
    for (const Flap& flap : flat.flaps)
        if (flap.sheet == sheet) all = all.united(flap.outline.box);
    return all;
}

Rect boardOf(const Flat& flat) {
    Rect all;
    for (size_t i = 0; i < flat.sheets.size(); ++i) all = all.united(boardOf(flat, i));
    return all;
}

/// Its name stands above its sheet, not below.
bool isInTopRow(const Flat& flat, const Panel& panel) {
    constexpr double kSame = 1e-6;
    return panel.onFlat.y < flat.sheets[panel.sheet].trim.y + kSame;
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
    const Rect all = boardOf(*flat()), first = boardOf(*flat(), 0);
    constexpr double kNames = 0.09; // of a sheet's height, for the names of the panels above it, or below
    const double names = kNames * std::max(first.h, first.w / 2);
    const bool below = std::any_of(flat()->panels.begin(), flat()->panels.end(),
                                   [&](const Panel& p) { return !isInTopRow(*flat(), p); });
    return all.grown(0, names, 0, below ? names : 0);
}

void FlatBench::paintLines(QPainter& painter) {
    paintFlatLines(painter, *flat(), toView(), key());
    painter.setFont(uiFont(11, 600));
    for (const Panel& panel : flat()->panels) paintName(painter, panel);
}

/// Name and size above a panel, or below one of a lower row; on a ground of its own for the panel in hand.
void FlatBench::paintName(QPainter& painter, const Panel& panel) const {
    const auto figure = [](double v) { return QString::fromStdString(shortNumber(v)); };
    const QFontMetrics metrics = painter.fontMetrics();
    constexpr int kRoom = 14; // px beside a name
    const Rect r = toView().mapBounds(panel.onFlat),
               whole = toView().mapBounds(boardOf(*flat(), panel.sheet));
    QString name = QStringLiteral("%1  %2 × %3 %4")
                       .arg(QString::fromStdString(panel.name), figure(panel.onFlat.w),
                            figure(panel.onFlat.h), flat()->unit == Unit::Mm ? tr("mm") : tr("px"));
    if (metrics.horizontalAdvance(name) + kRoom > r.w && flat()->sheets.size() > 1)
        name = metrics.elidedText(QString::fromStdString(panel.name), Qt::ElideRight,
                                  std::max(0, int(std::max(r.w, whole.w / 2)) - kRoom));
    const double width = metrics.horizontalAdvance(name) + kRoom;
    // A panel too narrow for its name has it farther out, clear of its neighbours.
    const bool narrow = r.w < width;
    const double y =
        isInTopRow(*flat(), panel) ? whole.y - (narrow ? 48 : 26) : whole.bottom() + (narrow ? 29 : 7);
    const QRectF place(narrow ? r.centre().x - width / 2 : r.x, y, width, 19);
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
