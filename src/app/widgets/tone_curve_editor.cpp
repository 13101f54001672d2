#include "app/widgets/tone_curve_editor.h"

#include "app/widgets/theme.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <cmath>

namespace glyptos {
namespace {

constexpr double kGrab = 9;        // px round a point
constexpr double kOff = 24;        // px off the field: the point is taken away
constexpr double kGap = 1 / 512.0; // between neighbours
constexpr double kStep = 1 / 255.0;

const ToneCurve kLine{{0, 0}, {1, 1}};

QColor channelColour(int channel) {
    const QColor colours[]{QColor(0xc8, 0x45, 0x2b), QColor(0x4b, 0x8a, 0x4a), QColor(0x3b, 0x62, 0xa8)};
    return channel < 3 ? colours[channel] : theme().softInk;
}

} // namespace

ToneCurveEditor::ToneCurveEditor(const QString& accessibleName, QWidget* parent)
    : QWidget(parent)
    , curve_(kLine) {
    setAccessibleName(accessibleName);
    setFocusPolicy(Qt::StrongFocus);
    setCursor(Qt::CrossCursor);
    QSizePolicy policy(QSizePolicy::Expanding, QSizePolicy::Preferred);
    policy.setHeightForWidth(true);
    setSizePolicy(policy);
    setToolTip(tr("Click to add a point, drag it off the field to take it away"));
}

void ToneCurveEditor::setCurve(const ToneCurve& curve) {
    if (dragging_) return;
    curve_ = curve.empty() ? kLine : curve;
    current_ = std::min(current_, curve_.size() - 1);
    update();
}

void ToneCurveEditor::setHistogram(const Histogram& histogram, int channel) {
    histogram_ = histogram;
    channel_ = channel;
    update();
}

QRectF ToneCurveEditor::field() const {
    return QRectF(rect()).adjusted(5, 5, -5, -5);
}

QPointF ToneCurveEditor::placeOf(Vec2 point) const {
    const QRectF f = field();
    return {f.left() + point.x * f.width(), f.bottom() - point.y * f.height()};
}

Vec2 ToneCurveEditor::pointAt(QPointF p) const {
    const QRectF f = field();
    return {std::clamp((p.x() - f.left()) / f.width(), 0.0, 1.0),
            std::clamp((f.bottom() - p.y()) / f.height(), 0.0, 1.0)};
}

size_t ToneCurveEditor::nearest(QPointF p) const {
    size_t best = 0;
    double least = 1e9;
    for (size_t i = 0; i < curve_.size(); ++i) {
        const double away = QLineF(placeOf(curve_[i]), p).length();
        if (away < least) least = away, best = i;
    }
    return least <= kGrab ? best : curve_.size();
}

size_t ToneCurveEditor::insert(Vec2 point) {
    for (size_t i = 0; i < curve_.size(); ++i)
        if (std::abs(curve_[i].x - point.x) < kGap) return i;
    if (curve_.size() == kMostCurvePoints) return curve_.size() - 1;
    const auto behind = std::upper_bound(curve_.begin(), curve_.end(), point.x,
                                         [](double x, const Vec2& p) { return x < p.x; });
    const auto index = behind - curve_.begin();
    curve_.insert(behind, point);
    return size_t(index);
}

void ToneCurveEditor::addPointAt(double tone) {
    current_ = insert({tone, ToneFunction(curve_)(tone)});
    setFocus();
    update();
    Q_EMIT edited(true);
}

void ToneCurveEditor::moveCurrent(Vec2 to) {
    const double least = current_ > 0 ? curve_[current_ - 1].x + kGap : 0,
                 most = current_ + 1 < curve_.size() ? curve_[current_ + 1].x - kGap : 1;
    curve_[current_] = {std::clamp(to.x, least, std::max(least, most)), std::clamp(to.y, 0.0, 1.0)};
    update();
}

void ToneCurveEditor::removeCurrent() {
    if (curve_.size() <= 2) return;
    curve_.erase(curve_.begin() + long(current_));
    current_ = std::min(current_, curve_.size() - 1);
    update();
}

void ToneCurveEditor::mousePressEvent(QMouseEvent* event) {
    if (event->button() != Qt::LeftButton) return;
    const size_t near = nearest(event->position());
    current_ = near < curve_.size() ? near : insert(pointAt(event->position()));
    dragging_ = true;
    lifted_ = false;
    moveCurrent(pointAt(event->position()));
    Q_EMIT edited(false);
}

void ToneCurveEditor::mouseMoveEvent(QMouseEvent* event) {
    if (!dragging_) return;
    const QRectF room = field().adjusted(-kOff, -kOff, kOff, kOff);
    lifted_ = !room.contains(event->position()) && curve_.size() > 2;
    moveCurrent(pointAt(event->position()));
    Q_EMIT edited(false);
}

void ToneCurveEditor::mouseReleaseEvent(QMouseEvent*) {
    if (!std::exchange(dragging_, false)) return;
    if (std::exchange(lifted_, false)) removeCurrent();
    Q_EMIT edited(true);
}

void ToneCurveEditor::keyPressEvent(QKeyEvent* event) {
    const double step = event->modifiers() & Qt::ShiftModifier ? 10 * kStep : kStep;
    const Vec2 at = curve_[current_];
    switch (event->key()) {
    case Qt::Key_Left:
        moveCurrent({at.x - step, at.y});
        break;
    case Qt::Key_Right:
        moveCurrent({at.x + step, at.y});
        break;
    case Qt::Key_Up:
        moveCurrent({at.x, at.y + step});
        break;
    case Qt::Key_Down:
        moveCurrent({at.x, at.y - step});
        break;
    case Qt::Key_PageUp:
        current_ = (current_ + 1) % curve_.size();
        return update();
    case Qt::Key_PageDown:
        current_ = (current_ + curve_.size() - 1) % curve_.size();
        return update();
    case Qt::Key_Delete:
    case Qt::Key_Backspace:
        removeCurrent();
        break;
    default:
        return QWidget::keyPressEvent(event);
    }
    Q_EMIT edited(true);
}

void ToneCurveEditor::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    const QRectF f = field();
    painter.setPen(QPen(theme().hairline, 1));
    painter.setBrush(theme().sheet);
    painter.drawRoundedRect(f, 4, 4);
    const auto& counts = histogram_[size_t(channel_)];
    // Its root, so that a little of a tone is seen beside much of another.
    const float most = *std::max_element(counts.begin(), counts.end());
    if (most > 0) {
        QPainterPath area(f.bottomLeft());
        for (size_t i = 0; i < counts.size(); ++i)
            area.lineTo(f.left() + f.width() * double(i) / 255,
                        f.bottom() - f.height() * 0.96 * std::sqrt(double(counts[i] / most)));
        area.lineTo(f.bottomRight());
        QColor fill = channelColour(channel_);
        fill.setAlpha(50);
        painter.fillPath(area, fill);
    }
    for (const double t : {0.25, 0.5, 0.75}) {
        painter.drawLine(QPointF(f.left() + t * f.width(), f.top()),
                         QPointF(f.left() + t * f.width(), f.bottom()));
        painter.drawLine(QPointF(f.left(), f.top() + t * f.height()),
                         QPointF(f.right(), f.top() + t * f.height()));
    }
    ToneCurve shown = curve_;
    if (lifted_) shown.erase(shown.begin() + long(current_));
    const ToneFunction tone(shown);
    QPainterPath line(placeOf({0, tone(0)}));
    constexpr int kPieces = 120;
    for (int i = 1; i <= kPieces; ++i) line.lineTo(placeOf({double(i) / kPieces, tone(double(i) / kPieces)}));
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(channel_ < 3 ? channelColour(channel_) : theme().ink, 1.6));
    painter.drawPath(line);
    for (size_t i = 0; i < curve_.size(); ++i) {
        if (lifted_ && i == current_) continue;
        const bool inHand = i == current_ && (hasFocus() || dragging_);
        painter.setPen(QPen(theme().accent, 1.5));
        painter.setBrush(inHand ? theme().accent : theme().sheet);
        // Diamonds, as stops of a gradient are drops and corners squares.
        const QPointF at = placeOf(curve_[i]);
        painter.drawPolygon(
            QPolygonF{at + QPointF(0, -5), at + QPointF(5, 0), at + QPointF(0, 5), at + QPointF(-5, 0)});
    }
}

} // namespace glyptos
