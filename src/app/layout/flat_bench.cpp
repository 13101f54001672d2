#include "app/layout/flat_bench.h"

#include "app/widgets/theme.h"
#include "base/text.h"

#include <QMouseEvent>
#include <QPainter>
#include <algorithm>

namespace glyptos {
namespace {

constexpr int kNameRoom = 14; // px beside a name

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
    for (const Seam& seam : seams_)
        if (isOff(seam, flat()->unit)) paintSeam(painter, seam);
    painter.setFont(uiFont(11, 600));
    for (const Panel& panel : flat()->panels) paintName(painter, panel);
}

QPainterPath FlatBench::paper() const {
    return flat() ? paperOf(*flat(), toView()) : QPainterPath();
}

void FlatBench::setSeams(std::vector<Seam> seams) {
    seams_ = std::move(seams);
    update();
}

/// A band on the fold, and in its middle how far the art of one side has to go: a step of two strokes, as
/// large as it is.
void FlatBench::paintSeam(QPainter& painter, const Seam& seam) const {
    const Vec2 a = toView().map(seam.from), b = toView().map(seam.to), way = b - a;
    const double length = way.length();
    if (length < 1) return;
    QColor band = theme().fault;
    band.setAlpha(90);
    painter.setPen(QPen(band, 6, Qt::SolidLine, Qt::FlatCap));
    painter.drawLine(QPointF(a.x, a.y), QPointF(b.x, b.y));
    constexpr double kStroke = 16; // px to each side
    const Vec2 along = way * (1 / length), side{-along.y * kStroke, along.x * kStroke};
    const Vec2 here = (a + b) * 0.5, there = here + along * (*seam.offset * toView().scaleX());
    painter.setPen(QPen(theme().fault, 2.5));
    painter.drawLine(QPointF(here.x - side.x, here.y - side.y), QPointF(here.x, here.y));
    painter.drawLine(QPointF(here.x, here.y), QPointF(there.x, there.y));
    painter.drawLine(QPointF(there.x, there.y), QPointF(there.x + side.x, there.y + side.y));
}

QString FlatBench::nameWithSize(const Panel& panel) const {
    const auto figure = [](double v) { return QString::fromStdString(shortNumber(v)); };
    return QStringLiteral("%1  %2 × %3 %4")
        .arg(QString::fromStdString(panel.name), figure(panel.onFlat.w), figure(panel.onFlat.h),
             flat()->unit == Unit::Mm ? tr("mm") : tr("px"));
}

bool FlatBench::isCrowded(const Panel& panel, double width, const QFontMetrics& metrics) const {
    const auto middle = [&](const Panel& p) { return toView().mapBounds(p.onFlat).centre().x; };
    return std::any_of(flat()->panels.begin(), flat()->panels.end(), [&](const Panel& p) {
        const double own = metrics.horizontalAdvance(nameWithSize(p)) + kNameRoom;
        return &p != &panel && p.sheet == panel.sheet && p.onFlat.y == panel.onFlat.y &&
               toView().mapBounds(p.onFlat).w < own &&
               std::abs(middle(p) - middle(panel)) < (own + width) / 2;
    });
}

/// Name and size above a panel, or below one of a lower row; on a ground of its own for the panel in hand.
void FlatBench::paintName(QPainter& painter, const Panel& panel) const {
    const QFontMetrics metrics = painter.fontMetrics();
    const Rect r = toView().mapBounds(panel.onFlat),
               whole = toView().mapBounds(boardOf(*flat(), panel.sheet));
    QString name = nameWithSize(panel);
    const bool inHand = panel.id == document_->panel().panel, several = flat()->sheets.size() > 1;
    double width = metrics.horizontalAdvance(name) + kNameRoom;
    if (width > r.w && (several || isCrowded(panel, width, metrics))) {
        name = QString::fromStdString(panel.name);
        width = metrics.horizontalAdvance(name) + kNameRoom;
    }
    // A panel too narrow for its name has it farther out, clear of its neighbours; between sheets there is no
    // room for that.
    const bool narrow = r.w < width;
    if (narrow && several && !inHand) return;
    const int out = narrow && !several ? 48 : 26;
    constexpr int kHigh = 19;
    const double y = isInTopRow(*flat(), panel) ? whole.y - out : whole.bottom() + out - kHigh;
    const QRectF place(narrow ? r.centre().x - width / 2 : r.x, y, width, kHigh);
    if (inHand) {
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
