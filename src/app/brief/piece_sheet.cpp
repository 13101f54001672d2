#include "app/brief/piece_sheet.h"

#include "app/session/document.h"
#include "app/session/engine.h"
#include "app/widgets/theme.h"

#include <QMouseEvent>
#include <QPainter>
#include <cmath>

namespace glyptos {
namespace {

constexpr double kMmPerScreenPx = 315.0 / 3000; // as in the set strip
constexpr int kGap = 34, kCaption = 24;
constexpr double kWidestCaption = 200; // px; what is longer is cut short

double mmPerUnit(const Piece& piece) {
    return piece.flat->unit == Unit::Px ? kMmPerScreenPx : 1;
}

QFont captionFont() {
    return uiFont(11, 500);
}

double captionWidth(const Piece& piece) {
    const double wide = QFontMetricsF(captionFont()).horizontalAdvance(QString::fromStdString(piece.name));
    return std::min(std::ceil(wide), kWidestCaption);
}

/// Rows of pieces with their names below them, filled from the left, at one scale. `place` is told where the
/// picture of each goes and how wide it is with its name. Returns the height they take.
double rowsHeight(const std::vector<PiecePtr>& pieces, double pxPerMm, double width,
                  const std::function<void(const PiecePtr&, QRectF, double)>& place) {
    double x = 0, y = 0, row = 0;
    for (const PiecePtr& piece : pieces) {
        const double k = pxPerMm * mmPerUnit(*piece), w = piece->flat->trim().w * k,
                     h = piece->flat->trim().h * k, whole = std::max(w, captionWidth(*piece));
        if (x > 0 && x + whole > width) x = 0, y += row + kGap + kCaption, row = 0;
        place(piece, {x, y, w, h}, whole);
        x += whole + kGap;
        row = std::max(row, h);
    }
    return y + row + kCaption;
}

} // namespace

PieceSheet::PieceSheet(Engine& engine, RenderService& service, QWidget* parent)
    : QWidget(parent)
    , engine_(engine)
    , service_(service) {
    setAccessibleName(tr("All pieces, live"));
    setToolTip(tr("Double-click a piece to compose it"));
    setMinimumWidth(300);
    connect(&engine_, &Engine::pictureReady, this, &PieceSheet::arrange);
}

void PieceSheet::setDocument(Document* document) {
    if (document_) document_->disconnect(this);
    document_ = document;
    connect(document_, &Document::changed, this, &PieceSheet::arrange);
    arrange();
}

/// The largest scale at which all pieces fit, found by halving.
void PieceSheet::arrange() {
    if (!document_ || width() < 80 || !isVisible()) return;
    const auto& pieces = document_->shown()->pieces;
    const double roomX = width() - 2.0 * kGap, roomY = height() - 2.0 * kGap;
    const auto sizeAt = [&](double pxPerMm) {
        double widest = 0;
        const double tall = rowsHeight(pieces, pxPerMm, roomX, [&](const PiecePtr&, QRectF r, double whole) {
            widest = std::max(widest, r.left() + whole);
        });
        return QSizeF(widest, tall);
    };
    double least = 0.01, most = 2;
    for (int i = 0; i < 30; ++i) {
        const double k = (least + most) / 2;
        const QSizeF size = sizeAt(k);
        (size.height() <= roomY && size.width() <= roomX ? least : most) = k;
    }
    std::vector<Place> next;
    const QSizeF size = sizeAt(least);
    const QPointF corner(std::round((width() - size.width()) / 2),
                         std::round((height() - size.height()) / 2));
    rowsHeight(pieces, least, roomX, [&](const PiecePtr& piece, QRectF r, double) {
        Place place{piece, r.translated(corner).toAlignedRect(), least * mmPerUnit(*piece), nullptr};
        for (Place& old : places_)
            if (old.piece->id == piece->id) place.miniature = std::move(old.miniature);
        next.push_back(std::move(place));
    });
    places_ = std::move(next);
    for (Place& place : places_) {
        if (!place.miniature) {
            place.miniature = std::make_unique<Miniature>(service_);
            connect(place.miniature.get(), &Miniature::arrived, this, qOverload<>(&QWidget::update));
        }
        const double k = place.pxPerUnit * devicePixelRatioF();
        const Rect trim = place.piece->flat->trim();
        const IntRect region{0, 0, std::max(1, snapEdge(trim.w * k)), std::max(1, snapEdge(trim.h * k))};
        place.miniature->ask(
            0, flatScene(document_->shown(), place.piece->id, {k, false, {-trim.x * k, -trim.y * k}}),
            region);
    }
    update();
}

void PieceSheet::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::SmoothPixmapTransform);
    painter.fillRect(rect(), theme().bench);
    for (const Place& place : places_) {
        painter.fillRect(place.area, Qt::white);
        painter.drawImage(place.area, place.miniature->image());
        painter.setPen(Qt::white);
        painter.setFont(captionFont());
        const int wide = std::max(place.area.width(), int(kWidestCaption));
        painter.drawText(QRect(place.area.left(), place.area.bottom() + 4, wide, 18), Qt::AlignLeft,
                         painter.fontMetrics().elidedText(QString::fromStdString(place.piece->name),
                                                          Qt::ElideRight, wide));
    }
    if (places_.empty()) {
        painter.setPen(Qt::white);
        painter.drawText(rect(), Qt::AlignCenter, tr("No pieces yet. Add one with “+ Piece” above."));
    }
}

void PieceSheet::resizeEvent(QResizeEvent*) {
    arrange();
}
void PieceSheet::showEvent(QShowEvent*) {
    arrange();
}

void PieceSheet::mouseDoubleClickEvent(QMouseEvent* event) {
    for (const Place& place : places_)
        if (place.area.contains(event->position().toPoint())) return Q_EMIT pieceChosen(place.piece->id);
}

} // namespace glyptos
