#include "app/letter/sample_view.h"

#include "app/bench/bench_hand.h"
#include "app/widgets/colours.h"
#include "app/widgets/theme.h"

#include <QMouseEvent>
#include <QPainter>
#include <QTransform>
#include <cmath>

namespace glyptos {
namespace {

constexpr int kBox = 4;
constexpr double kMostFront = 1600; // px: as much as is of use

double length(const QPointF& a, const QPointF& b) {
    return std::hypot(a.x() - b.x(), a.y() - b.y());
}

} // namespace

SampleView::SampleView(QWidget* parent)
    : QWidget(parent) {
    setAccessibleName(tr("Picture with the words"));
    setMinimumSize(320, 240);
    setCursor(Qt::CrossCursor);
}

void SampleView::setPicture(const QImage& picture) {
    picture_ = picture;
    corners_.clear(), overlay_ = {};
    update();
}

void SampleView::setCorners(const QPolygonF& corners) {
    corners_ = corners;
    overlay_ = {};
    update();
    Q_EMIT marked();
}

QTransform SampleView::toView() const {
    if (picture_.isNull()) return {};
    const double scale = std::min(double(width()) / picture_.width(), double(height()) / picture_.height());
    QTransform out;
    out.translate((width() - picture_.width() * scale) / 2, (height() - picture_.height() * scale) / 2);
    return out.scale(scale, scale);
}

QSize SampleView::frontSize() const {
    if (corners_.size() != 4) return {};
    const double w = std::max(length(corners_[0], corners_[1]), length(corners_[3], corners_[2])),
                 h = std::max(length(corners_[0], corners_[3]), length(corners_[1], corners_[2]));
    const double scale = std::min(1.0, kMostFront / std::max({w, h, 1.0}));
    return {int(std::lround(w * scale)), int(std::lround(h * scale))};
}

QTransform SampleView::frontToPicture() const {
    const QRectF front{QPointF(), QSizeF(frontSize())};
    const QPolygonF box{front.topLeft(), front.topRight(), front.bottomRight(), front.bottomLeft()};
    QTransform out;
    return QTransform::quadToQuad(box, corners_, out) ? out : QTransform();
}

FaceSample SampleView::sample() const {
    const QSize size = frontSize();
    FaceSample out;
    if (size.isEmpty() || picture_.isNull()) return out;
    QImage front(size, QImage::Format_RGB32);
    front.fill(Qt::white);
    QPainter painter(&front);
    painter.setRenderHint(QPainter::SmoothPixmapTransform);
    painter.setTransform(frontToPicture().inverted());
    painter.drawImage(QPoint(), picture_);
    painter.end();
    out.width = size.width(), out.height = size.height();
    for (int y = 0; y < out.height; ++y) {
        const auto* row = reinterpret_cast<const QRgb*>(front.constScanLine(y));
        for (int x = 0; x < out.width; ++x)
            out.lightness.push_back((0.2126F * float(qRed(row[x])) + 0.7152F * float(qGreen(row[x])) +
                                     0.0722F * float(qBlue(row[x]))) /
                                    255.0F); // Rec. 709
    }
    return out;
}

void SampleView::setOverlay(const QPainterPath& letters, const QRectF& box, const QRectF& ink) {
    overlay_ = letters, overlayBox_ = box, ink_ = ink;
    update();
}

void SampleView::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHints(QPainter::Antialiasing | QPainter::SmoothPixmapTransform);
    painter.fillRect(rect(), theme().bench);
    const QTransform view = toView();
    painter.setTransform(view);
    painter.drawImage(QPoint(), picture_);
    painter.resetTransform();
    if (corners_.size() != 4) return;
    if (!overlay_.isEmpty() && !overlayBox_.isEmpty()) {
        QTransform onInk;
        onInk.translate(ink_.x(), ink_.y());
        onInk.scale(ink_.width() / overlayBox_.width(), ink_.height() / overlayBox_.height());
        onInk.translate(-overlayBox_.x(), -overlayBox_.y());
        QColor wash = theme().fault;
        wash.setAlpha(90);
        painter.setPen(QPen(theme().fault, 1.2));
        painter.setBrush(wash);
        painter.drawPath((onInk * frontToPicture() * view).map(overlay_));
    }
    std::array<Vec2, 4> seen;
    for (int i = 0; i < 4; ++i) {
        const QPointF p = view.map(corners_[i]);
        seen[size_t(i)] = {p.x(), p.y()};
    }
    paintOutline(painter, seen);
    for (const Vec2& corner : seen) paintSquareGrip(painter, corner);
}

void SampleView::mousePressEvent(QMouseEvent* event) {
    if (picture_.isNull() || event->button() != Qt::LeftButton) return;
    const QTransform view = toView();
    held_ = kBox;
    for (int i = 0; i < corners_.size(); ++i)
        if (length(view.map(corners_[i]), event->position()) <= kGripReach) held_ = i;
    from_ = view.inverted().map(event->position());
    overlay_ = {};
}

void SampleView::mouseMoveEvent(QMouseEvent* event) {
    if (held_ < 0 || !(event->buttons() & Qt::LeftButton)) return;
    QPointF at = toView().inverted().map(event->position());
    at.setX(std::clamp(at.x(), 0.0, double(picture_.width())));
    at.setY(std::clamp(at.y(), 0.0, double(picture_.height())));
    if (held_ == kBox) {
        const QRectF box = QRectF(from_, at).normalized();
        corners_ = QPolygonF{box.topLeft(), box.topRight(), box.bottomRight(), box.bottomLeft()};
    } else
        corners_[held_] = at;
    update();
}

void SampleView::mouseReleaseEvent(QMouseEvent*) {
    if (std::exchange(held_, -1) >= 0 && corners_.size() == 4) Q_EMIT marked();
}

} // namespace glyptos
